import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readdirSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import Database from 'better-sqlite3';
import pino from 'pino';
import request from 'supertest';
import { createApp } from './app';
import { readConfig, type Config } from './config';
import { openDatabase } from '@veldtwind/store/open';
import { backupFolder, CannotStart, dailyBackup, startDatabase } from '@veldtwind/store/start';

const root = resolve('.');
const TOKEN = '0123456789abcdef';
const config: Config = { host: '127.0.0.1', port: 0, database: ':memory:', token: null, web: null, logLevel: 'silent' };
const quiet = pino({ level: 'silent' });
const make = (over: Partial<Config> = {}, db = openDatabase(':memory:')) => ({
  db,
  api: request(createApp({ ...config, ...over }, db, quiet, root).app),
});
const newFile = () => join(mkdtempSync(join(tmpdir(), 'veldtwind-')), 'd.sqlite');

describe('requests of other pages', () => {
  it.each([
    ['an opaque origin', 'null'],
    ['no address', 'foo'],
    ['another port', 'http://127.0.0.1:9'],
    ['another name', 'http://elsewhere.example'],
  ])('are refused from %s', async (_what, origin) => {
    const { api } = make();
    const create = await api.post('/api/v1/projects').set('origin', origin).send({ name: 'x' });
    expect([create.status, create.body.error.code]).toEqual([403, 'foreign-origin']);
    expect((await api.get('/api/v1/projects')).body.projects).toEqual([]);
    expect((await api.get('/api/v1/projects').set('origin', origin)).status).toBe(403);
  });
  it('are refused by what the browser says of them, and its own pages served', async () => {
    const { api } = make();
    const ask = (site: string) => api.post('/api/v1/projects').set('sec-fetch-site', site).send({ name: 'x' });
    expect((await ask('cross-site')).status).toBe(403);
    expect((await ask('same-site')).status).toBe(403);
    expect((await ask('same-origin')).status).toBe(201);
    expect((await api.get('/api/v1/health').set('sec-fetch-site', 'none')).status).toBe(200);
  });
  it('that a form can send are no JSON', async () => {
    const { api } = make();
    const res = await api.post('/api/v1/projects').set('content-type', 'text/plain').send('{"name":"x"}');
    expect(res.status).toBe(415);
  });
});

describe('the access token', () => {
  it('may be guessed a few times, then an address waits', async () => {
    const { api } = make({ host: '0.0.0.0', token: TOKEN });
    const guess = (token: string) => api.get('/api/v1/projects').set('authorization', `Bearer ${token}`);
    for (let i = 0; i < 6; i++) expect((await guess(`wrong${i}`)).status).toBe(401);
    const refused = await guess('wrong');
    expect([refused.status, refused.body.error.code]).toEqual([429, 'token-guesses']);
    expect(Number(refused.headers['retry-after'])).toBeGreaterThan(0);
    // Nor does the right one help, until the wait is over.
    expect((await guess(TOKEN)).status).toBe(429);
  });
  it('of an older time, in the cookie of a page that stays open, locks nobody out', async () => {
    const { api } = make({ host: '0.0.0.0', token: TOKEN });
    const old = () => api.get('/api/v1/projects').set('cookie', 'veldtwind_token=older-than-this');
    for (let i = 0; i < 20; i++) expect((await old()).status).toBe(401);
    expect((await api.get(`/projects?token=${TOKEN}`)).status).toBe(302);
  });
  it('in an address leads to this server only, and leaves a cookie that scripts cannot read', async () => {
    const { api } = make({ host: '0.0.0.0', token: TOKEN });
    for (const path of ['//elsewhere.example/', '/\\elsewhere.example/', '/projects']) {
      const entry = await api.get(`${path}?token=${TOKEN}`);
      expect(entry.status).toBe(302);
      expect(entry.headers.location).toMatch(/^\/[^/\\]/);
      expect(entry.headers['set-cookie'][0]).toMatch(/HttpOnly/);
    }
  });
  it('is not broken by a cookie that cannot be decoded', async () => {
    const { api } = make({ host: '0.0.0.0', token: TOKEN });
    expect((await api.get('/api/v1/projects').set('cookie', 'veldtwind_token=%; a=%zz')).status).toBe(401);
  });
});

describe('HTTPS', () => {
  it('needs both files, readable', () => {
    expect(() => readConfig({ VELDTWIND_CERT: '/a' }, root)).toThrow(/both/);
    expect(() => readConfig({ VELDTWIND_CERT: '/none/a', VELDTWIND_KEY: '/none/b' }, root)).toThrow(/ENOENT/);
  });
});

describe('deep requests', () => {
  const nested = (n: number) => `${'['.repeat(n)}${']'.repeat(n)}`;
  it('are refused before they are parsed', async () => {
    const { api } = make();
    const send = (text: string) => api.post('/api/v1/projects').set('content-type', 'application/json').send(text);
    const deep = await send(`{"name":"x","document":${nested(100_000)}}`);
    expect([deep.status, deep.body.error.code]).toEqual([400, 'too-deep']);
    // Brackets in a text are no nesting.
    expect((await send(JSON.stringify({ name: `${'['.repeat(70)}\\"{` }))).status).toBe(201);
    const preference = await api
      .put('/api/v1/preferences/x')
      .set('content-type', 'application/json')
      .send(`{"value":${nested(70)}}`);
    expect(preference.status).toBe(400);
  });
});

describe('a database that fails', () => {
  it('is told in words, by the request and by the health, until it can write again', async () => {
    const { api, db } = make({}, openDatabase(newFile()));
    const { id, document } = (await api.post('/api/v1/projects').send({ name: 'F', from: 'demo' })).body;
    const edit = (speed: number) =>
      api.post(`/api/v1/projects/${id}/edits`).send({
        baseVersion: 0,
        label: 's',
        changes: [{ part: 'brief', value: { ...document.brief, speed } }],
      });
    db.pragma('query_only = ON');
    const refused = await edit(30);
    expect([refused.status, refused.body.error.code]).toEqual([503, 'read-only']);
    expect((await api.get('/api/v1/health')).body).toMatchObject({ status: 'failing' });
    db.pragma('query_only = OFF');
    expect((await edit(30)).status).toBe(200);
    expect((await api.get('/api/v1/health')).body).toMatchObject({ status: 'ok' });
  });
  it('says so when it is full, and loses nothing that was saved', async () => {
    const { api, db } = make({}, openDatabase(newFile()));
    const { id } = (await api.post('/api/v1/projects').send({ name: 'F', from: 'demo' })).body;
    db.pragma(`max_page_count = ${Number(db.pragma('page_count', { simple: true }))}`);
    let full = await api.post('/api/v1/projects').send({ name: 'G', from: 'demo' });
    for (let i = 0; i < 30 && full.status === 201; i++)
      full = await api.post('/api/v1/projects').send({ name: 'G', from: 'demo' });
    expect([full.status, full.body.error.code]).toEqual([507, 'disk-full']);
    expect((await api.get(`/api/v1/projects/${id}`)).status).toBe(200);
  });
});

describe('the start', () => {
  it('refuses a file that another server holds, and takes it when that one ends', () => {
    const file = newFile();
    const one = startDatabase(file);
    expect(() => startDatabase(file)).toThrow(/in use by another/);
    one.db.close();
    one.lock.close();
    const two = startDatabase(file);
    two.db.close();
    two.lock.close();
  });
  it('says in one sentence what is wrong with a file', () => {
    const folder = newFile();
    mkdirSync(folder);
    expect(() => startDatabase(folder)).toThrow(/is a folder/);
    const garbage = newFile();
    writeFileSync(garbage, 'no database at all, '.repeat(400));
    expect(() => startDatabase(garbage)).toThrow(CannotStart);
    expect(() => startDatabase(garbage)).toThrow(/is no database/);
    const foreign = newFile();
    const db = new Database(foreign);
    db.exec('CREATE TABLE project (x)');
    db.close();
    expect(() => startDatabase(foreign)).toThrow(/of another program/);
    const left = new Database(foreign, { readonly: true });
    expect(left.prepare('SELECT count(*) FROM sqlite_master').pluck().get()).toBe(1);
    left.close();
    expect(() => startDatabase('/proc/none/d.sqlite')).toThrow(/cannot be written \(ENOENT\)/);
    expect(() => startDatabase(join(garbage, 'inside', 'd.sqlite'))).toThrow(/cannot be written/);
  });
  it('ends with that sentence and code 1', () => {
    const garbage = newFile();
    writeFileSync(garbage, 'x'.repeat(5000));
    const run = spawnSync(process.execPath, [resolve('scripts/serve.mjs')], {
      env: { ...process.env, VELDTWIND_PORT: '0', VELDTWIND_DATABASE: garbage, VELDTWIND_API_ONLY: '1' },
      encoding: 'utf8',
    });
    expect(run.status).toBe(1);
    expect(run.stderr.trim().split('\n')).toHaveLength(1);
    expect(run.stderr).toMatch(/is no database\. Set VELDTWIND_DATABASE/);
  });
  it('serves over HTTPS with a certificate', async () => {
    const folder = dirname(newFile());
    const [key, cert] = [join(folder, 'key.pem'), join(folder, 'cert.pem')];
    const made = spawnSync(
      'openssl',
      `req -x509 -newkey rsa:2048 -nodes -keyout ${key} -out ${cert} -days 1 -subj /CN=localhost`.split(' '),
    );
    expect(made.status).toBe(0);
    const child = spawn(process.execPath, [resolve('scripts/serve.mjs')], {
      env: {
        ...process.env,
        VELDTWIND_PORT: '0',
        VELDTWIND_DATABASE: join(folder, 'd.sqlite'),
        VELDTWIND_LOG: 'silent',
        VELDTWIND_API_ONLY: '1',
        VELDTWIND_CERT: cert,
        VELDTWIND_KEY: key,
      },
    });
    try {
      const address = await new Promise<string>((found, fail) => {
        child.stdout.on('data', (d: Buffer) => {
          const m = /https:\S+\//.exec(String(d));
          if (m) found(m[0]);
        });
        child.on('exit', () => fail(new Error('the server ended')));
      });
      const res = await request(address).get('api/v1/health').trustLocalhost();
      expect(res.body.status).toBe('ok');
    } finally {
      child.kill('SIGKILL');
    }
  });
});

describe('daily backups', () => {
  it('are made once a day, open as a database, and the last seven stay', async () => {
    const file = newFile();
    const { api, db } = make({}, openDatabase(file));
    await api.post('/api/v1/projects').send({ name: 'Kept', from: 'demo' }).expect(201);
    const day = (n: number) => new Date(Date.UTC(2026, 0, n, 12));
    for (let n = 1; n <= 9; n++) expect(await dailyBackup(db, file, quiet, day(n))).not.toBeNull();
    expect(await dailyBackup(db, file, quiet, day(9))).toBeNull();
    const kept = readdirSync(backupFolder(file)).sort();
    expect(kept).toEqual([3, 4, 5, 6, 7, 8, 9].map((n) => `d-2026-01-0${n}.sqlite`));
    const restored = make({}, openDatabase(join(backupFolder(file), kept[6] as string)));
    expect((await restored.api.get('/api/v1/projects')).body.projects).toMatchObject([{ name: 'Kept' }]);
    restored.db.close();
    expect(existsSync(join(backupFolder(file), 'd-2026-01-09.sqlite.part'))).toBe(false);
  });
});
