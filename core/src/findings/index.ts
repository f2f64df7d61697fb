export * from './findings';
export * from './words';
export * from './motion';
export * from './method-words';
export * from './structure';
export * from './next-step';
