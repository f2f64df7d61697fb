export * from './findings';
export * from './words';
