export * from './cross-section';
export * from './masses';
export * from './shape';
export * from './sizing';
export * from './stress';
