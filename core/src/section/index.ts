export * from './facts';
export * from './flap';
export * from './four-digit';
export * from './mass-properties';
export * from './outline';
export * from './resample';
export * from './surface-spline';
export * from './source';
