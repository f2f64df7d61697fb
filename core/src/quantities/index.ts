export * from './candidate';
export * from './lift';
export * from './quantity';
export * from './section';
