export * from './patch';
export * from './panel-mesh';
export * from './panel-point';
export * from './panel-flow';
export * from './thick-flow';
