export * from './lattice';
export * from './lift-analysis';
export * from './lifting-line';
export * from './vortex-lattice';
