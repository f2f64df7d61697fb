export * from './conformal';
export * from './drag-rise';
export * from './influence';
export * from './inviscid';
export * from './panelling';
export * from './boundary-layer';
export * from './viscous';
