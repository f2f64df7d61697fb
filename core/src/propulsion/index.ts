export * from './blade-element';
export * from './engine';
export * from './ideal-propeller';
export * from './motor';
export * from './slipstream';
