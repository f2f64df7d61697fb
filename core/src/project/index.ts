export * from './edits';
export * from './fresh';
export * from './recipe-file';
export * from './resolve';
export * from './schema';
