export * from './output-error';
export * from './record';
export * from './respond';
