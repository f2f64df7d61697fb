export * from './files/analysis';
export * from './files/archive';
export * from './reading/decode';
export * from './reading/read';
export type { Diagnosis } from './reading/types';
export * from './section-writer';
export { hostileText, seeded } from './reading/fuzz';
export * from './measured-table';
export * from './export-formats';
