export * from './openapi';
export * from './routes';
export * from './schemas';
