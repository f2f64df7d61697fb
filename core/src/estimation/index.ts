export * from './compared-responses';
export * from './frequency';
export * from './output-error';
export * from './record';
export * from './respond';
