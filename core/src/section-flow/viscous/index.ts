export * from './conditions';
export type { ViscousConditions } from './layers';
export * from './point';
export * from './results';
export * from './sweep';
export * from './viscous-section';
