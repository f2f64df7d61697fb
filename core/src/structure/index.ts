export * from './span-loads';
