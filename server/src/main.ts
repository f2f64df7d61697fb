import { createServer } from 'node:http';
import { createServer as createSecureServer } from 'node:https';
import { fileURLToPath } from 'node:url';
import { resolve } from 'node:path';
import pino from 'pino';
import { createApp } from './app';
import { readConfig, type Config } from './config';
import { CannotStart, keepBackups, startDatabase } from '@veldtwind/store/start';
import { keepUp } from '@veldtwind/store/upkeep';

const root = resolve(fileURLToPath(import.meta.url), '../../..');

let config: Config;
try {
  config = readConfig(process.env, root);
} catch (error) {
  process.stderr.write(`${(error as Error).message}\n`);
  process.exit(1);
}
const log = pino({ level: config.logLevel, base: undefined, timestamp: pino.stdTimeFunctions.isoTime });
let started: ReturnType<typeof startDatabase>;
try {
  started = startDatabase(config.database);
} catch (error) {
  if (!(error instanceof CannotStart)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exit(1);
}
const { db, lock } = started;
const { app, events, pool, engine, runner, openBoards } = createApp(config, db, log, root);
const server = config.tls ? createSecureServer(config.tls, app) : createServer(app);
const boards = openBoards(server);

server.on('error', (error: NodeJS.ErrnoException) => {
  log.fatal(
    { code: error.code },
    error.code === 'EADDRINUSE' ? `port ${config.port} is taken; set VELDTWIND_PORT to another` : error.message,
  );
  process.exit(1);
});
server.listen(config.port, config.host, () => {
  const address = server.address();
  const port = typeof address === 'object' && address ? address.port : config.port;
  const host = config.host.includes(':') ? `[${config.host}]` : config.host;
  log.info({ database: config.database }, 'database open');
  keepBackups(db, config.database, log);
  keepUp(db, log);
  engine.start();
  runner.next();
  pool.warm();
  if (config.token) log.info('every request must bring the access token');
  process.stdout.write(`Veldtwind: ${config.tls ? 'https' : 'http'}://${host}:${port}/\n`);
});

/** A stop takes no longer than this, whatever hangs, ms. */
const STOP_WITHIN = 9000;

let stopping = false;
function stop(signal: string): void {
  if (stopping) return;
  stopping = true;
  log.info({ signal }, 'stopping');
  events.close();
  boards.close();
  void pool.close();
  void runner.close();
  const rested = engine.close().catch((error: unknown) => log.error({ err: error }, 'the engine did not end well'));
  const end = () => {
    try {
      db.pragma('wal_checkpoint(TRUNCATE)');
      db.close();
      lock.close();
    } catch (error) {
      // What is written is written: the log is read when the database is opened again.
      log.error({ err: error }, 'the database did not close well');
    }
    process.exit(0);
  };
  server.close(() => void rested.then(end));
  server.closeIdleConnections();
  setTimeout(() => server.closeAllConnections(), 3000).unref();
  setTimeout(() => {
    log.warn('something hangs; stopping all the same');
    end();
  }, STOP_WITHIN).unref();
}
process.on('SIGTERM', () => stop('SIGTERM'));
process.on('SIGINT', () => stop('SIGINT'));
