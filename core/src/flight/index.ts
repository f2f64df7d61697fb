export * from './aircraft';
export * from './sweeps';
export * from './own-speeds';
export * from './performance';
export * from './polar-sweeps';
export * from './control-margin';
export * from './profiles';
export * from './stream-effects';
