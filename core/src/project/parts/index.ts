export * from './brief';
export * from './candidate';
export * from './keys';
export type { PartKind, PartReference } from './kind';
export * from './note';
export * from './read';
export * from './section';
export * from './table';
