export * from './candidate-edits';
export * from './candidate-file';
export * from './changes';
export {
  byName,
  documentFromParts,
  partsOfDocument,
  partsOfWhole,
  readDocument,
  type ProjectDocument,
} from './document';
export * from './differences';
export * from './edits';
export * from './fresh';
export * from './merge';
export * from './parts';
export * from './recipe-file';
export * from './references';
export * from './resolve';
export * from './settings';
export * from './variants';
