import { openApiDocument, pathOf, ROUTES, type Route, type RouteName } from '.';

const all = Object.entries(ROUTES) as [RouteName, Route][];
const inPath = (path: string) => [...path.matchAll(/\{(\w+)\}/g)].map((m) => m[1]);

describe('the table of routes', () => {
  it('says what every parameter of a path must be, and no other', () => {
    for (const [, r] of all) expect(Object.keys(r.params ?? {})).toEqual(inPath(r.path));
  });
  it('has no two routes for one request', () => {
    const shapes = all.map(([, r]) => `${r.method} ${r.path.replace(/\{\w+\}/g, '*')}`);
    expect(new Set(shapes).size).toBe(shapes.length);
  });
  it('checks the body of everything that changes something', () => {
    for (const [, r] of all) if (['POST', 'PUT', 'PATCH'].includes(r.method)) expect(r.body ?? r.upload).toBeDefined();
  });
  it('encodes what stands in a path', () => {
    expect(pathOf('readPart', { id: 'a/b', key: 'section:x y' })).toBe('/projects/a%2Fb/parts/section%3Ax%20y');
    expect(pathOf('health')).toBe('/health');
  });
  it.each<[RouteName, unknown]>([
    ['createProject', { name: '' }],
    ['createProject', { name: 'a'.repeat(5000) }],
    ['createProject', { name: 7 }],
    ['edit', { baseVersion: -1, label: 'x', changes: [] }],
    ['edit', { baseVersion: 1.5, label: 'x', changes: [] }],
    ['edit', { baseVersion: 1, label: 'x', changes: 'all' }],
    ['edit', null],
    ['undo', {}],
    ['renameProject', { name: null }],
  ])('%s refuses %j', (name, body) => expect((ROUTES[name] as Route).body!.safeParse(body).success).toBe(false));
  it.each([
    'constructor',
    '__proto__',
    'toString',
    'section:',
    'section:a:b',
    'original:',
    'thing:x',
    '',
    'x'.repeat(999),
  ])('is not asked for the part %j', (key) => expect(ROUTES.readPart.params.key.safeParse(key).success).toBe(false));
});

describe('its description', () => {
  const api = openApiDocument('1.2.3') as {
    openapi: string;
    info: { version: string };
    paths: Record<
      string,
      Record<string, { operationId: string; parameters?: { name: string; in: string }[]; responses: object }>
    >;
  };
  it('holds every route with its parameters, and nothing that cannot be written as JSON', () => {
    expect(api.info.version).toBe('1.2.3');
    const operations = Object.values(api.paths).flatMap((p) => Object.values(p));
    expect(operations.map((o) => o.operationId).sort()).toEqual(all.map(([name]) => name).sort());
    for (const [name, r] of all) {
      const o = operations.find((x) => x.operationId === name)!;
      expect((o.parameters ?? []).filter((p) => p.in === 'path').map((p) => p.name)).toEqual(inPath(r.path));
      expect(Object.keys(o.responses)).toContain('default');
    }
    expect(JSON.parse(JSON.stringify(api))).toEqual(api);
  });
});
