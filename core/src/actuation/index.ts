export * from './schema';
export * from './linkage';
export * from './catalogue';
