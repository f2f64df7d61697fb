export * from './findings';
export * from './words';
export * from './motion';
