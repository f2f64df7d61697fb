export * from './figure';
export * from './figure-svg';
export * from './look';
export * from './drawing';
export * from './drawing-svg';
export * from './three-view';
