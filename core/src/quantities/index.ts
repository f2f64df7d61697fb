export * from './candidate';
export * from './lift';
export * from './polar';
export * from './quantity';
export * from './section';
export * from './facts';
