export * from './facts';
export * from './flap';
export * from './four-digit';
export * from './outline';
export * from './surface-spline';
export * from './source';
