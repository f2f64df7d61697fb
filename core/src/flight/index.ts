export * from './aircraft';
export * from './sweeps';
export * from './performance';
export * from './polar-sweeps';
export * from './control-margin';
export * from './profiles';
