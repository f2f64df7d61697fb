import pino from 'pino';
import { resolve } from 'node:path';
import request from 'supertest';
import { openDatabase } from '@veldtwind/store/open';
import { createApp, type AppParts } from './app';
import type { Config } from './config';

const config: Config = { host: '127.0.0.1', port: 0, database: ':memory:', token: null, web: null, logLevel: 'silent' };
let parts: AppParts;
let id: string;
beforeAll(async () => {
  const log = pino({ level: 'silent' });
  parts = createApp(config, openDatabase(':memory:'), log, resolve('.'));
  id = (
    (await request(parts.app).post('/api/v1/projects').send({ name: 'Seed / file', from: 'demo' })).body as {
      id: string;
    }
  ).id;
});
afterAll(async () => {
  await parts.pool.close();
  await parts.engine.close();
});
const ask = (candidate: string, query: string) =>
  request(parts.app).get(`/api/v1/projects/${id}/candidates/${candidate}/file?${query}`);

describe('an airframe’s file over HTTP', () => {
  it('is made in a thread, with its type, its name and what is to be known of it', async () => {
    const ribs = await ask('b', 'as=svg&what=ribs&spacing=300&holes=0.3:6x15,0.6:5').expect(200);
    expect(ribs.headers['content-type']).toMatch(/image\/svg\+xml/);
    expect(ribs.headers['content-disposition']).toContain('Seed-file-B-ribs.svg');
    const notes = JSON.parse(decodeURIComponent(ribs.headers['x-veldtwind-notes'])) as string[];
    expect(notes[0]).toMatch(/parts on/);
    const stl = await ask('a', 'as=stl')
      .buffer()
      .parse((res, done) => {
        const pieces: Buffer[] = [];
        res.on('data', (d: Buffer) => pieces.push(d));
        res.on('end', () => done(null, Buffer.concat(pieces)));
      });
    const bytes = stl.body as Buffer;
    // A binary STL says how many triangles it has.
    expect(bytes.length).toBe(84 + 50 * bytes.readUInt32LE(80));
  });
  it('refuses what cannot be, in words', async () => {
    const refused = async (candidate: string, query: string, status: number) => {
      const { body } = await ask(candidate, query).expect(status);
      return (body as { error: { message: string } }).error.message;
    };
    expect(await refused('z', 'as=stl', 404)).toMatch(/no such part/);
    expect(await refused('a', 'as=doc', 400)).toMatch(/as/);
    expect(await refused('a', 'as=stl&what=ribs', 400)).toMatch(/always of the whole airframe/);
    expect(await refused('a', 'as=dxf&what=ribs&holes=9', 400)).toMatch(/is no hole/);
    expect(await refused('a', 'as=dxf&what=ribs&sheet=10x10', 400)).toMatch(/must be from 50/);
    expect(await refused('a', 'as=dxf&what=ribs&skin=thick', 400)).toMatch(/skin/);
  });
});
