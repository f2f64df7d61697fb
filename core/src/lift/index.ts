export * from './analysis';
export * from './lattice';
export * from './lift-analysis';
export * from './lifting-line';
export * from './loads';
export * from './streams';
export * from './vortex-lattice';
export * from './controls';
