export * from './coordinates';
