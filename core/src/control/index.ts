export * from './loops';
export * from './margins';
export * from './schema';
export * from './state-space';
export * from './step';
