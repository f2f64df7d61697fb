export * from './openapi';
export type { Route } from './route';
export * from './routes';
export * from './people';
export * from './schemas';
