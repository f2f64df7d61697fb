import { beforeEach, describe, expect, it } from '@jest/globals';
import { resolve } from 'node:path';
import pino from 'pino';
import request from 'supertest';
import { openDatabase } from '@veldtwind/store/open';
import type { Role } from '@veldtwind/contract';
import { createApp } from './app';
import { readConfig, type Config } from './config';
import { Turns } from './compute/turns';
import { paceGuard } from './people/pace';

const TOKEN = '0123456789abcdef';
const base: Config = { host: '0.0.0.0', port: 0, database: ':memory:', token: TOKEN, web: null, logLevel: 'silent' };
const made = (more: Partial<Config> = {}) => {
  const parts = createApp({ ...base, ...more }, openDatabase(':memory:'), pino({ level: 'silent' }), resolve('.'));
  return { ...parts, api: request(parts.app) };
};

interface Visitor {
  id: string;
  name: string;
  cookie: string;
}
let app: ReturnType<typeof made>;
let project: string;
beforeEach(async () => {
  app = made();
  project = (await owner('post', '/projects').send({ name: 'Seedsnipe' })).body.id as string;
});

type Method = 'get' | 'post' | 'put' | 'patch' | 'delete';
const owner = (method: Method, path: string) =>
  app.api[method](`/api/v1${path}`).set('authorization', `Bearer ${TOKEN}`);
const as = (who: Visitor | null, method: Method, path: string) => {
  const asked = app.api[method](`/api/v1${path}`);
  return who ? asked.set('cookie', who.cookie) : asked;
};
const codeOf = async (role: Role) =>
  (await owner('post', `/projects/${project}/invitations`).send({ role }).expect(201)).body.code as string;
async function join(name: string, role: Role): Promise<Visitor> {
  const reply = await app.api
    .post('/api/v1/join')
    .send({ code: await codeOf(role), name })
    .expect(200);
  const cookie = (reply.headers['set-cookie'] as unknown as string[])[0].split(';')[0];
  return { id: reply.body.person.id as string, name, cookie };
}
async function edit(who: Visitor | null, label: string, part: string, value: unknown) {
  const { version } = (await owner('get', `/projects/${project}`)).body as { version: number };
  const body = { baseVersion: version, label, changes: [{ part, value }] };
  return (who ? as(who, 'post', `/projects/${project}/edits`) : owner('post', `/projects/${project}/edits`)).send(body);
}
const version = async () => (await owner('get', `/projects/${project}`)).body.version as number;
const brief = async () => (await owner('get', `/projects/${project}`)).body.document.brief as Record<string, unknown>;
const note = (id: string, text: string) => ({ id, figure: 'lift', xQuantity: 'a', yQuantity: 'b', text, x: 1, y: 1 });

describe('an invitation', () => {
  it('makes a person with a session and a role, once', async () => {
    const code = await codeOf('read');
    const first = await app.api.post('/api/v1/join').send({ code, name: 'Ada' });
    expect([first.status, first.body.project]).toEqual([200, project]);
    const again = await app.api.post('/api/v1/join').send({ code, name: 'Bea' });
    expect([again.status, again.body.error.code]).toEqual([400, 'invitation']);
    expect(again.body.error.message).toMatch(/used already/);
    expect((await app.api.post('/api/v1/join').send({ code: 'guessed', name: 'Eve' })).status).toBe(400);
  });
  it('needs a name, and keeps secrets as hashes only', async () => {
    const code = await codeOf('edit');
    expect((await app.api.post('/api/v1/join').send({ code, name: '  ' })).status).toBe(400);
    expect((await app.api.post('/api/v1/join').send({ code })).body.error.code).toBe('name');
    const listed = JSON.stringify((await owner('get', `/projects/${project}/people`)).body);
    expect(listed).not.toContain(code);
    expect(listed).not.toContain('hash');
  });
  it('raises a role of whoever is signed in, and lowers none', async () => {
    const ada = await join('Ada', 'read');
    await as(ada, 'post', '/join')
      .send({ code: await codeOf('edit') })
      .expect(200);
    await as(ada, 'post', '/join')
      .send({ code: await codeOf('comment') })
      .expect(200);
    expect((await as(ada, 'get', '/me')).body.roles).toEqual({ [project]: 'edit' });
    expect((await owner('get', '/people')).body.people).toHaveLength(2);
  });
  it('can be withdrawn', async () => {
    const { id, code } = (await owner('post', `/projects/${project}/invitations`).send({ role: 'own' })).body;
    await owner('delete', `/projects/${project}/invitations/${id}`).expect(204);
    expect((await app.api.post('/api/v1/join').send({ code, name: 'Ada' })).body.error.message).toMatch(/no such/);
  });
  it('is slowed down where codes are guessed', async () => {
    const statuses: number[] = [];
    for (let i = 0; i < 8; i++)
      statuses.push((await app.api.post('/api/v1/join').send({ code: `guess ${i}`, name: 'Eve' })).status);
    expect(statuses.at(-1)).toBe(429);
  });
});

describe('a role', () => {
  it('decides what is answered; a project that one has none in is not there', async () => {
    const [reader, talker, editor] = [
      await join('Rea', 'read'),
      await join('Tal', 'comment'),
      await join('Edi', 'edit'),
    ];
    const other = (await owner('post', '/projects').send({ name: 'Private' })).body.id as string;
    expect((await as(reader, 'get', `/projects/${other}`)).status).toBe(404);
    expect((await as(reader, 'get', '/projects')).body.projects.map((p: { id: string }) => p.id)).toEqual([project]);
    expect((await as(reader, 'get', `/projects/${project}`)).status).toBe(200);
    const value = { ...(await brief()), speed: 31 };
    const refused = await edit(reader, 'Speed', 'brief', value);
    expect([refused.status, refused.body.error.code]).toEqual([403, 'role']);
    expect(refused.body.error.message).toBe('You may read this project, not change it.');
    const say = (who: Visitor) => as(who, 'post', `/projects/${project}/comments`).send({ text: 'Too fast?' });
    expect((await say(reader)).status).toBe(403);
    expect((await say(talker)).body).toMatchObject({ name: 'Tal', text: 'Too fast?', doneAt: null });
    expect((await edit(talker, 'Speed', 'brief', value)).status).toBe(403);
    expect((await edit(editor, 'Speed', 'brief', value)).status).toBe(200);
    expect((await as(editor, 'delete', `/projects/${project}`)).status).toBe(403);
    expect((await as(editor, 'post', `/projects/${project}/invitations`).send({ role: 'own' })).status).toBe(403);
    for (const path of ['/people', '/audit', '/audit/file']) expect((await as(editor, 'get', path)).status).toBe(403);
    expect((await as(null, 'get', `/projects/${project}`)).status).toBe(401);
  });
  it('is asked of every route: nobody without one gets an answer about a project', async () => {
    const { ROUTES } = await import('@veldtwind/contract');
    const outsider = await join('Out', 'read');
    await owner('delete', `/projects/${project}/people/${outsider.id}`).expect(204);
    let asked = 0;
    for (const route of Object.values(ROUTES)) {
      if (!route.path.startsWith('/projects/{id}')) continue;
      const path = route.path.replace('{id}', project).replace(/\{\w+\}/g, '1');
      const reply = await as(outsider, route.method.toLowerCase() as Method, path).send(
        'body' in route ? {} : undefined,
      );
      expect([route.path, reply.status]).toEqual([route.path, 404]);
      asked++;
    }
    expect(asked).toBeGreaterThan(25);
  });
  it('of the maker of a project is to own it; owners give roles and take them', async () => {
    const ada = await join('Ada', 'read');
    const own = (await as(ada, 'post', '/projects').send({ name: 'Mine' })).body.id as string;
    const bea = await join('Bea', 'read');
    expect((await as(bea, 'get', `/projects/${own}`)).status).toBe(404);
    await as(ada, 'put', `/projects/${own}/people/${bea.id}`).send({ role: 'edit' }).expect(200);
    expect((await as(bea, 'get', `/projects/${own}`)).status).toBe(200);
    await as(bea, 'delete', `/projects/${own}/people/${ada.id}`).expect(403);
    await as(bea, 'delete', `/projects/${own}/people/${bea.id}`).expect(204);
    expect((await as(bea, 'get', `/projects/${own}`)).status).toBe(404);
  });
});

describe('what people do', () => {
  it('carries their names: edits, kept versions, comments, through the project file and back', async () => {
    const ada = await join('Ada', 'own');
    await edit(ada, 'Faster', 'brief', { ...(await brief()), speed: 33 });
    await as(ada, 'post', `/projects/${project}/versions`).send({ name: 'First' }).expect(201);
    await as(ada, 'post', `/projects/${project}/comments`).send({ text: 'Why?', place: 'lift?c=a' }).expect(201);
    const names = async (id: string) => ({
      edit: (await owner('get', `/projects/${id}/history`)).body.edits[0].by,
      kept: (await owner('get', `/projects/${id}/versions`)).body.versions[0].by,
      comment: (await owner('get', `/projects/${id}/comments`)).body.comments.map(
        ({ name, text, place }: Record<string, string>) => [name, text, place],
      ),
    });
    const told = { edit: 'Ada', kept: 'Ada', comment: [['Ada', 'Why?', 'lift?c=a']] };
    expect(await names(project)).toEqual(told);
    const file = await owner('get', `/projects/${project}/file`).responseType('blob');
    const copy = await owner('post', '/projects/file')
      .set('content-type', 'application/zip')
      .send(file.body as Buffer);
    expect(copy.body.left).toEqual([]);
    expect(await names(copy.body.id as string)).toEqual(told);
  });
  it('is taken back by themselves: undo reaches one’s own last step, and leaves what others did', async () => {
    const [ada, bea] = [await join('Ada', 'edit'), await join('Bea', 'edit')];
    const step = async (who: Visitor, way: 'undo' | 'redo', anothers?: boolean) =>
      as(who, 'post', `/projects/${project}/${way}`).send({ baseVersion: await version(), anothers });
    expect((await edit(ada, 'By Ada', 'brief', { ...(await brief()), speed: 41 })).status).toBe(200);
    expect((await edit(bea, 'By Bea', 'note:b', note('b', 'Bea’s'))).status).toBe(200);
    const undone = await step(ada, 'undo');
    expect([undone.status, undone.body.label]).toEqual([200, 'By Ada']);
    expect((await brief()).speed).not.toBe(41);
    const { document } = (await owner('get', `/projects/${project}`)).body;
    expect(document.notes.b.text).toBe('Bea’s');
    // Another step of Bea's leaves what Ada may do again.
    await edit(bea, 'By Bea again', 'note:c', note('c', 'more'));
    expect((await step(ada, 'redo')).body.label).toBe('By Ada');
    expect((await brief()).speed).toBe(41);
    // Nothing of her own is left to be done again; what Bea changes of the same part lies over it.
    await edit(bea, 'Over it', 'brief', { ...(await brief()), speed: 44 });
    const asks = await step(ada, 'undo');
    expect([asks.status, asks.body.error.code, asks.body.error.message]).toEqual([
      409,
      'anothers-step',
      '“Over it” is a step of Bea.',
    ]);
    expect((await step(ada, 'undo', true)).body.label).toBe('Over it');
    expect((await brief()).speed).toBe(41);
    const cleo = await join('Cleo', 'edit');
    expect((await step(cleo, 'undo')).body.error.code).toBe('anothers-step');
  });
  it('drops what is taken back only where its parts are changed', async () => {
    const [ada, bea] = [await join('Ada', 'edit'), await join('Bea', 'edit')];
    await edit(ada, 'By Ada', 'brief', { ...(await brief()), speed: 41 });
    await as(ada, 'post', `/projects/${project}/undo`).send({ baseVersion: await version() });
    await edit(bea, 'By Bea', 'brief', { ...(await brief()), speed: 28 });
    const redo = await as(ada, 'post', `/projects/${project}/redo`).send({ baseVersion: await version() });
    expect(redo.body.error.code).toBe('nothing-to-redo');
    expect((await brief()).speed).toBe(28);
  });
});

describe('signing in', () => {
  it('with a token of one’s own works until it is withdrawn; sessions are listed and ended', async () => {
    const ada = await join('Ada', 'read');
    const { token } = (await as(ada, 'post', '/me/token').send({}).expect(201)).body as { token: string };
    const bearer = () => app.api.get('/api/v1/me').set('authorization', `Bearer ${token}`);
    expect((await bearer()).body.person.name).toBe('Ada');
    const second = await app.api.post('/api/v1/sign-in').set('user-agent', 'workshop').send({ token }).expect(200);
    const cookie = (second.headers['set-cookie'] as unknown as string[])[0].split(';')[0];
    const { sessions } = (await as(ada, 'get', '/me/sessions')).body as { sessions: { id: string; agent: string }[] };
    expect(sessions).toHaveLength(2);
    await as(ada, 'delete', `/me/sessions/${sessions.find((s) => s.agent === 'workshop')!.id}`).expect(204);
    expect((await app.api.get('/api/v1/projects').set('cookie', cookie)).status).toBe(401);
    await as(ada, 'delete', '/me/token').expect(204);
    expect((await app.api.get('/api/v1/projects').set('authorization', `Bearer ${token}`)).status).toBe(401);
    await as(ada, 'post', '/sign-out').send({}).expect(204);
    expect((await as(ada, 'get', '/projects')).status).toBe(401);
  });
  it('ends with the access: token, sessions and roles go, the name stays', async () => {
    const ada = await join('Ada', 'edit');
    await edit(ada, 'Hers', 'brief', { ...(await brief()), speed: 33 });
    await owner('delete', `/people/${ada.id}`).expect(204);
    expect((await as(ada, 'get', '/projects')).status).toBe(401);
    expect((await owner('get', `/projects/${project}/history`)).body.edits[0].by).toBe('Ada');
    const keeper = ((await owner('get', '/people')).body.people as { id: string; keeper: boolean }[]).find(
      (p) => p.keeper,
    )!;
    expect((await owner('delete', `/people/${keeper.id}`)).status).toBe(400);
  });
  it('by a proxy’s header is believed where it is configured, and from this machine', async () => {
    const proxied = made({ token: null, host: '127.0.0.1', proxyHeader: 'x-remote-user' });
    const by = (name?: string) => {
      const asked = proxied.api.get('/api/v1/me').set('host', '127.0.0.1');
      return name ? asked.set('x-remote-user', name) : asked;
    };
    expect((await by('Ada')).body).toMatchObject({ named: true, person: { name: 'Ada', keeper: false } });
    expect((await by()).body.person).toBeNull();
    const id = (await by('Ada')).body.person.id as string;
    expect((await by('Ada')).body.person.id).toBe(id);
    // Where it is not configured the header says nothing.
    expect((await app.api.get('/api/v1/projects').set('x-remote-user', 'Ada')).status).toBe(401);
    expect(() => readConfig({ VELDTWIND_PROXY_HEADER: 'not a header' }, '.')).toThrow(/name of a header/);
  });
  it('leads a browser without it to the page to sign in, and lets its files be read', async () => {
    const there = await app.api.get('/p/1/lift?c=a').set('accept', 'text/html');
    expect([there.status, there.headers.location]).toEqual([302, '/sign-in?to=%2Fp%2F1%2Flift%3Fc%3Da']);
    expect((await app.api.get('/api/v1/me')).body).toEqual({ named: true, person: null, session: null, roles: {} });
  });
});

describe('without names', () => {
  it('everybody may do everything, and nothing of it is in the way', async () => {
    const { api } = made({ token: null, host: '127.0.0.1' });
    expect((await api.get('/api/v1/me')).body).toEqual({ named: false, person: null, session: null, roles: {} });
    const { id } = (await api.post('/api/v1/projects').send({ name: 'Free' })).body;
    expect((await api.get(`/api/v1/projects/${id}/history`)).body.edits).toEqual([]);
    const refused = await api.post(`/api/v1/projects/${id}/invitations`).send({ role: 'read' });
    expect([refused.status, refused.body.error.code]).toEqual([409, 'no-names']);
    const said = await api.post(`/api/v1/projects/${id}/comments`).send({ text: 'Look again' });
    expect(said.body).toMatchObject({ name: '', text: 'Look again' });
  });
});

describe('presence', () => {
  it('tells who is where, with what they drag, until they leave', async () => {
    const [ada, bea] = [await join('Ada', 'read'), await join('Bea', 'edit')];
    const here = (who: Visitor, tab: string, more: object = {}) =>
      as(who, 'post', `/projects/${project}/presence`)
        .set('x-veldtwind-tab', tab)
        .send({ place: 'lift?c=a', label: 'Lift, candidate A', ...more });
    await here(ada, 'tab-1').expect(200);
    const there = await here(bea, 'tab-2', { handle: { of: 'section:karoo-14', x: 0.3, y: 0.08 } });
    expect(there.body.people).toEqual([
      { person: ada.id, name: 'Ada', tab: 'tab-1', place: 'lift?c=a', label: 'Lift, candidate A', handle: null },
      expect.objectContaining({ name: 'Bea', handle: { of: 'section:karoo-14', x: 0.3, y: 0.08 } }),
    ]);
    await here(bea, 'tab-2', { gone: true });
    expect((await here(ada, 'tab-1')).body.people.map((p: { name: string }) => p.name)).toEqual(['Ada']);
    // An address that leads out of the project is none.
    expect((await here(ada, 'tab-1', { place: '//elsewhere.example' })).status).toBe(400);
  });
});

describe('the audit log', () => {
  it('says who did what, and is exported whole, safe for a spreadsheet', async () => {
    const ada = await join('=cmd|x', 'own');
    await as(ada, 'get', `/projects/${project}/file`);
    const { entries } = (await owner('get', '/audit')).body as { entries: { action: string; name: string }[] };
    expect(entries.map((e) => e.action)).toEqual(['project exported', 'joined', 'invited', 'project made']);
    const csv = (await owner('get', '/audit/file')).text;
    expect(csv.split(/\r?\n/)[0]).toBe('at,person,name,action,project,detail,address');
    expect(csv).not.toMatch(/,=cmd/);
    expect(csv.trimEnd().split(/\r?\n/)).toHaveLength(5);
  });
});

describe('one person among many', () => {
  it('is bounded in what it asks at once; others are answered', () => {
    const guard = paceGuard(true);
    const headers: Record<string, string> = {};
    const ask = (id: string) => {
      const res = {
        locals: { asking: { person: { id }, session: 's' } },
        setHeader: (k: string, v: string) => (headers[k] = v),
      };
      let passed = false;
      guard({ socket: {} } as never, res as never, () => (passed = true));
      return passed;
    };
    let answered = 0;
    const flood = () => {
      for (let i = 0; i < 5000; i++) if (ask('ada')) answered++;
    };
    expect(flood).toThrow(/more than the server answers/);
    expect(answered).toBeGreaterThanOrEqual(600);
    expect(headers['Retry-After']).toBe('1');
    expect(ask('bea')).toBe(true);
  });
  it('does not take all turns: the next goes to whoever holds the fewest', async () => {
    const turns = new Turns(2);
    const done: string[] = [];
    const work = async (who: string) => {
      const release = await turns.take(who);
      done.push(who);
      await new Promise((go) => setTimeout(go, 5));
      release();
    };
    const greedy = Array.from({ length: 6 }, () => work('ada'));
    const one = work('bea');
    await Promise.all([...greedy, one]);
    expect(done.indexOf('bea')).toBe(2);
    expect(turns.length).toBe(0);
  });
  it('gives its turn up when it goes, and holds no place then', async () => {
    const turns = new Turns(1);
    const first = await turns.take('ada');
    const gone = new AbortController();
    const waiting = turns.take('bea', gone.signal);
    gone.abort();
    await expect(waiting).rejects.toThrow();
    first();
    first();
    const next = await turns.take('cleo');
    next();
    await turns.take('dora');
  });
});
