export * from './fix';
export * from './tail-incidence';
export * from './twist';
