export * from './balance';
export * from './limits';
export * from './schema';
export * from './inertia';
export * from './spread';
export * from './import';
export * from './centre-range';
export * from './estimate';
