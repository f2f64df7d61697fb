export * from './least-squares';
export * from './path-table';
