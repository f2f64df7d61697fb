export * from './mean-surface';
export * from './planform';
export * from './types';
