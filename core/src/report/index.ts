export * from './blocks';
export * from './compose';
export * from './composed';
export * from './results';
export * from './review';
