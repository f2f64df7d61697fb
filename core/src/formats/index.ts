export * from './coordinates';
export * from './section-writer';
