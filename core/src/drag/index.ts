export * from './build-up';
export * from './form';
export * from './friction';
export * from './schema';
