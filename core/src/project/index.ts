export * from './edits';
export * from './fresh';
export * from './schema';
