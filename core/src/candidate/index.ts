export * from './analysis';
export * from './evaluate';
export * from './file';
export * from './section-lookup';
export * from './flight';
export * from './motion';
export * from './motion-effects';
export * from './fly';
