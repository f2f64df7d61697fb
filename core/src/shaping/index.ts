export * from './class-shape';
export * from './inverse/speed-design';
export * from './inverse/target';
export * from './limits';
export * from './recipe';
export * from './schema';
export * from './shape';
export * from './source';
export { bump, smoothStretch, type Surface } from './steps/local-steps';
