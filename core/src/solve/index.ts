export * from './fix';
export * from './tail-incidence';
