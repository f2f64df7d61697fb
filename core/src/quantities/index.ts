export * from './candidate';
export * from './lift';
export * from './model';
export * from './polar';
export * from './quantity';
export * from './section';
export * from './facts';
