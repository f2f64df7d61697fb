export * from './edits';
export * from './fresh';
export * from './resolve';
export * from './schema';
