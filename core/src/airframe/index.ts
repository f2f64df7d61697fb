export * from './mean-surface';
export * from './planform';
export * from './types';
export * from './limits';
export * from './schema';
export * from './edits';
