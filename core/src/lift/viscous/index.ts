export * from './needs';
export * from './polar-curve';
export * from './section-polar';
export * from './strip-balance';
export * from './strip-sections';
export * from './viscous-airframe';
export * from './viscous-sweep';
export * from './line-with-polars';
