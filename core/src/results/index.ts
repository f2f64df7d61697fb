export * from './analysis';
export * from './key';
