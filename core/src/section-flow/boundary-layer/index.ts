export * from './closures';
export * from './early-transition';
export * from './interval';
export * from './march';
export * from './station';
export * from './transition';
