export * from './figure';
export * from './figure-svg';
export * from './look';
export { escaped } from './svg-text';
export * from './drawing';
export * from './drawing-svg';
export * from './three-view';
export * from './space-view';
