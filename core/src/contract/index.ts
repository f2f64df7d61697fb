export * from './openapi';
export * from './routes';
export * from './people';
export * from './schemas';
