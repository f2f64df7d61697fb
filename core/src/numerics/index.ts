export * from './errors';
export * from './lu';
export * from './quadrature';
export * from './roots';
export * from './spline';
