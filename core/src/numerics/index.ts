export * from './banded';
export * from './errors';
export * from './fingerprint';
export * from './lu';
export * from './quadrature';
export * from './roots';
export * from './spline';
export * from './table';
