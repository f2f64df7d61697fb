export * from './conditions';
export { DEFAULT_EFFORT } from './effort';
export type { ViscousConditions } from './layers';
export * from './point';
export * from './results';
export * from './polar-points';
export * from './state-bytes';
export * from './viscous-section';
