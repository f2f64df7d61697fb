export * from './conditions';
export * from './section-flow';
export * from './polar';
export * from './facts';
export * from './curve';
export * from './plan';
export * from './choose';
