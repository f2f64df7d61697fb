import { resolve } from 'node:path';
import fc from 'fast-check';
import pino from 'pino';
import request from 'supertest';
import { ROUTES, type Route } from '@veldtwind/contract';
import { seeded } from '@veldtwind/core/formats';
import { freshBrief, freshProject, type BriefPart, type PartValue } from '@veldtwind/core/project';
import { openDatabase } from '@veldtwind/store/open';
import { ProjectStore } from '@veldtwind/store/projects';
import { createApp } from './app';
import type { Config } from './config';

const config: Config = { host: '127.0.0.1', port: 0, database: ':memory:', token: null, web: null, logLevel: 'silent' };
const note = (id: string, text: string) => ({
  id,
  figure: 'balance-cm',
  xQuantity: 'alpha',
  yQuantity: 'Cm',
  x: 1,
  y: 2,
  text,
});

describe('the store against a model', () => {
  it('2 000 random edits, undos and redos: it is what a list of states says', () => {
    const store = new ProjectStore(openDatabase(':memory:'));
    const { id } = store.create('Model', freshProject());
    const random = seeded(7);
    type State = { brief: BriefPart; notes: Record<string, string> };
    let now: State = { brief: freshBrief(), notes: {} };
    const past: State[] = [];
    let future: State[] = [];
    let version = 0;
    const check = () => {
      const { document, ...rest } = store.state(id);
      expect(document.brief).toEqual(now.brief);
      expect(Object.fromEntries(Object.values(document.notes).map((n) => [n.id, n.text]))).toEqual(now.notes);
      expect([rest.version, rest.undo !== null, rest.redo !== null]).toEqual([
        version,
        past.length > 0,
        future.length > 0,
      ]);
    };
    for (let k = 0; k < 2000; k++) {
      const dice = random();
      if (dice < 0.25 && past.length > 0) {
        store.step(id, version, 'undo');
        future.push(now);
        now = past.pop()!;
      } else if (dice < 0.4 && future.length > 0) {
        store.step(id, version, 'redo');
        past.push(now);
        now = future.pop()!;
      } else {
        const next: State = structuredClone(now);
        const changes: { part: string; value: unknown }[] = [];
        if (dice < 0.8 || dice > 0.95) {
          next.brief = { ...next.brief, speed: 10 + 50 * random(), mass: 1 + 100 * random() };
          changes.push({ part: 'brief', value: next.brief });
        }
        if (dice >= 0.8) {
          const key = `n${Math.floor(6 * random())}`;
          if (next.notes[key] && random() < 0.4) {
            delete next.notes[key];
            changes.push({ part: `note:${key}`, value: null });
          } else {
            next.notes[key] = `text ${k}`;
            changes.push({ part: `note:${key}`, value: note(key, next.notes[key]) });
          }
        }
        store.edit(id, version, `Edit ${k}`, changes as { part: string; value: PartValue | null }[]);
        past.push(now);
        future = [];
        now = next;
      }
      version++;
      if (k % 40 === 0) check();
    }
    check();
    while (past.length > 0) {
      store.step(id, version++, 'undo');
      now = past.pop()!;
      future.push(now);
    }
    check();
    expect(now.brief).toEqual(freshBrief());
  });
});

const serve = () => {
  const db = openDatabase(':memory:');
  const made = createApp(config, db, pino({ level: 'silent' }), resolve('.'));
  return { db, api: request(made.app), pool: made.pool };
};

describe('ten clients at once', () => {
  it('lose none of their edits, and come to the same state', async () => {
    const { api, pool } = serve();
    const { id } = (await api.post('/api/v1/projects').send({ name: 'Ten' })).body as { id: string };
    const acknowledged = new Map<string, string>();
    let count = 0;
    await Promise.all(
      Array.from({ length: 10 }, async (_, who) => {
        let version = 0;
        for (let k = 0; k < 15; k++) {
          const key = `c${who}-${k % 3}`;
          for (;;) {
            const res = await api.post(`/api/v1/projects/${id}/edits`).send({
              baseVersion: version,
              label: `Client ${who}`,
              changes: [{ part: `note:${key}`, value: note(key, `${who} ${k}`) }],
            });
            if (res.status === 200) {
              version = res.body.version as number;
              acknowledged.set(key, `${who} ${k}`);
              count++;
              break;
            }
            expect(res.status).toBe(409);
            version = res.body.current.version as number;
          }
        }
      }),
    );
    const { document, version } = (await api.get(`/api/v1/projects/${id}`)).body;
    expect(count).toBe(150);
    expect(version).toBe(150);
    const notes = Object.values(document.notes as Record<string, { id: string; text: string }>);
    expect(new Map(notes.map((n) => [n.id, n.text]))).toEqual(acknowledged);
    await pool.close();
  });
});

/** Values that no field means. */
const HOSTILE = [
  null,
  true,
  -1,
  1e308,
  -0,
  1.5,
  '',
  'constructor',
  '__proto__',
  'x'.repeat(5000),
  '\u0000',
  '../../etc',
  [],
  {},
  [[[[]]]],
];
/** A value with something hostile in one of its places, or a place taken away. */
function spoilt(value: unknown, random: () => number): unknown {
  if (value === null || typeof value !== 'object' || random() < 0.15)
    return HOSTILE[Math.floor(random() * HOSTILE.length)];
  const copy = structuredClone(value) as Record<string, unknown>;
  const keys = Object.keys(copy);
  const key = keys[Math.floor(random() * keys.length)];
  if (key === undefined) return HOSTILE[Math.floor(random() * HOSTILE.length)];
  const dice = random();
  if (dice < 0.1) delete copy[key];
  else if (dice < 0.2) copy[['constructor', 'toString', 'extra'][Math.floor(random() * 3)]] = copy[key];
  else copy[key] = spoilt(copy[key], random);
  return copy;
}

describe('no input leads to a failure inside the server', () => {
  it('600 spoilt requests over all routes: never 500', async () => {
    const { api, pool } = serve();
    const demo = (await api.post('/api/v1/projects').send({ name: 'S', from: 'demo' })).body as {
      id: string;
      document: { brief: object; sections: Record<string, object>; candidates: Record<string, { surfaces: object[] }> };
    };
    const { brief, sections, candidates } = demo.document;
    const change = (part: string, value: unknown) => ({ baseVersion: 0, label: 'x', changes: [{ part, value }] });
    const sound: Record<string, unknown[]> = {
      createProject: [
        { name: 'a', from: 'empty' },
        { name: 'a', document: demo.document },
      ],
      renameProject: [{ name: 'b' }],
      edit: [
        change('brief', brief),
        change('section:karoo-14', sections['karoo-14']),
        change('candidate:a', candidates.a),
        change('surface:a.wing', candidates.a.surfaces[0]),
        change('note:n', note('n', 'x')),
        change('original:karoo-14', { id: 'karoo-14', fileName: 'f', text: 't' }),
      ],
      undo: [{ baseVersion: 0 }],
      redo: [{ baseVersion: 0 }],
      compute: [{ sections: {}, surfaces: candidates.a.surfaces, alphas: [0] }],
      setPreference: [{ value: { a: 1 } }],
    };
    const random = seeded(20261126);
    const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
    const names = Object.entries(ROUTES as unknown as Record<string, Route>).filter(([, r]) => !r.events && !r.upload);
    const WORDS = [
      demo.id,
      'lift',
      'brief',
      'candidate:a',
      'section:constructor',
      'surface:a.toString',
      '%00',
      '..',
      'x'.repeat(300),
      '0'.repeat(32),
      '__proto__',
    ];
    for (let k = 0; k < 600; k++) {
      const [name, route] = pick(names);
      // The project itself stays, for the requests that follow.
      if (name === 'removeProject') continue;
      const path = route.path.replace(/\{(\w+)\}/g, (_, key: string) =>
        encodeURIComponent(
          key === 'id' && random() < 0.8 ? demo.id : key === 'kind' && random() < 0.7 ? 'lift' : pick(WORDS),
        ),
      );
      const ask = api[route.method.toLowerCase() as 'get'](`/api/v1${path}`);
      if (route.query && random() < 0.5)
        void ask.query({ version: pick(['-1', 'x', '1e99', '']), most: pick(['0', '1e9', 'x']) });
      const bodies = sound[name];
      const res = await (bodies
        ? ask.set('content-type', 'application/json').send(JSON.stringify(spoilt(pick(bodies), random)))
        : ask);
      if (res.status >= 500) throw new Error(`${name} ${path}: ${res.status} ${JSON.stringify(res.body)}`);
    }
    await pool.close();
  });
  it('whatever stands in headers and addresses', async () => {
    const { api, pool } = serve();
    await fc.assert(
      fc.asyncProperty(
        fc.string({ unit: 'binary-ascii', maxLength: 60 }),
        fc.constantFrom(
          'origin',
          'cookie',
          'authorization',
          'sec-fetch-site',
          'accept',
          'if-none-match',
          'content-type',
        ),
        async (text, header) => {
          const value = text.replace(/[^\x20-\x7e]/g, '');
          const res = await api.get(`/api/v1/projects/${encodeURIComponent(text)}`).set(header, value);
          expect(res.status).toBeLessThan(500);
        },
      ),
      { numRuns: 150 },
    );
    await pool.close();
  });
});
