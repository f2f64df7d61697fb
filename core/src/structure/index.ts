export * from './aeroelastic';
export * from './bars';
export * from './beam';
export * from './buckling';
export * from './materials';
export * from './schema';
export * from './span-loads';
export * from './walls';
