import { existsSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import compression from 'compression';
import express, { type Express } from 'express';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { isLoopback, type Config } from './config';
import type { Db } from '@veldtwind/store/open';
import { ProjectStore } from '@veldtwind/store/projects';
import { KeptResults } from '@veldtwind/store/kept-results';
import { PreferenceStore, ResultStore } from '@veldtwind/store/results';
import { RunStore } from '@veldtwind/store/runs';
import { ReportStore } from '@veldtwind/store/reports/issues';
import { StudyStore } from '@veldtwind/store/studies';
import { PeopleStore } from '@veldtwind/store/people';
import { VersionStore } from '@veldtwind/store/versions';
import type { RunEngine } from '@veldtwind/runs/engine';
import { StoreHealth } from './http/trouble';
import { errorHandler, notFound } from './http/errors';
import { EventHub } from './http/events';
import { accessGuard, originGuard } from './http/guard';
import { AccessRules } from './people/access';
import { Identities, knowsNames } from './people/identity';
import { paceGuard } from './people/pace';
import { openBoard } from './board/socket';
import { ComputePool } from './compute/pool';
import { serverEngine } from './runs';
import { StudyRunner } from './studies';
import { readSamples } from './routes/samples';
import { handlersOf } from './routes/handlers';
import { commentByLink, sharedReport } from './routes/shared-report';
import { routerOf } from './routes/router';

export interface AppParts {
  app: Express;
  events: EventHub;
  pool: ComputePool;
  engine: RunEngine;
  runner: StudyRunner;
  /** Opens the socket of boards on a server of this application. */
  openBoards: (server: Parameters<typeof openBoard>[0], silence?: number) => ReturnType<typeof openBoard>;
}

/** Builds the server's application on an open database. @param root the checkout, for the demo's document. */
export function createApp(config: Config, db: Db, log: Logger, root: string): AppParts {
  const app = express();
  const events = new EventHub();
  const pool = new ComputePool();
  const health = new StoreHealth();
  const runs = new RunStore(db);
  const projects = new ProjectStore(db);
  const people = new PeopleStore(db);
  const named = knowsNames(config);
  const identities = new Identities(config, people);
  const access = new AccessRules(people, named);
  const guard = accessGuard(identities, named, log);
  const engine = serverEngine(runs, events, log, config);
  const studies = new StudyStore(db);
  const reports = new ReportStore(db);
  const runner = new StudyRunner(studies, events, log);
  const secure = isLoopback(config.host) || config.tls !== undefined;
  app.disable('x-powered-by');
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'none'"],
          // The compiled kernels are WebAssembly inside the workers; nothing else is evaluated.
          scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
          workerSrc: ["'self'"],
          styleSrc: ["'self'"],
          imgSrc: ["'self'", 'data:', 'blob:'],
          fontSrc: ["'self'"],
          connectSrc: ["'self'"],
          manifestSrc: ["'self'"],
          baseUri: ["'none'"],
          formAction: ["'none'"],
          frameAncestors: ["'none'"],
        },
      },
      strictTransportSecurity: false,
      crossOriginEmbedderPolicy: false,
      // Browsers ignore these on origins that are not secure, and say so in the console.
      crossOriginOpenerPolicy: secure,
      originAgentCluster: secure,
    }),
  );
  app.use((req, res, next) => {
    const start = process.hrtime.bigint();
    res.on('finish', () => {
      const ms = Number(process.hrtime.bigint() - start) / 1e6;
      log.debug(
        {
          method: req.method,
          path: req.path.replace(/^(\/r\/).*/, '$1…'),
          status: res.statusCode,
          ms: Math.round(ms * 10) / 10,
        },
        'request',
      );
    });
    next();
  });
  app.use(originGuard(config, log));
  // Whoever has a link reads that one report, and nothing else: no account is asked for.
  const shared = { db, pool, reports, people, events };
  app.get('/r/:token', sharedReport(shared));
  app.post('/r/:token/comments', ...commentByLink(shared));
  app.use(guard);
  app.use(paceGuard(named));
  app.use(
    compression({
      // Within one machine, packing a large library costs more than sending it.
      filter: (req, res) => !req.path.endsWith('/events') && !isLoopback(config.host) && compression.filter(req, res),
    }),
  );
  const demoFile = join(root, 'demo/seedsnipe.json');
  const samples = readSamples(join(root, 'demo/samples'));
  app.use(
    '/api/v1',
    routerOf(
      handlersOf({
        automaticPolars: config.automaticPolars ?? true,
        db,
        projects,
        versions: new VersionStore(db, projects),
        results: new ResultStore(db),
        kept: new KeptResults(db),
        preferences: new PreferenceStore(db),
        events,
        pool,
        runs,
        engine,
        studies,
        reports,
        runner,
        health,
        people,
        access,
        identities,
        demo: () => JSON.parse(readFileSync(demoFile, 'utf8')) as { name: string; document: unknown },
        samples,
        version: '0.1.0',
      }),
      access,
    ),
  );
  app.use('/api', notFound);
  if (config.web && existsSync(config.web)) {
    const web = config.web;
    app.use(
      '/assets',
      express.static(join(web, 'assets'), { immutable: true, maxAge: '1y', index: false, fallthrough: false }),
    );
    app.use(express.static(web, { index: false }));
    app.get('/{*any}', (_req, res) => {
      res.setHeader('Cache-Control', 'no-cache');
      res.sendFile(resolve(web, 'index.html'));
    });
  }
  app.use(errorHandler(log, health));
  return {
    app,
    events,
    pool,
    engine,
    runner,
    openBoards: (server, silence) =>
      openBoard(server, config, log, health, guard, (res) => ({
        pool,
        document: (id) => {
          access.check('read', id, res);
          return projects.wholeDocument(id);
        },
        silence,
      })),
  };
}
