import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  applyChanges,
  changesBetween,
  checkedChanges,
  designationSection,
  documentFromParts,
  editDocument,
  freshBrief,
  freshCandidate,
  freshProject,
  keyOf,
  KIND_NAMES,
  kindOf,
  parseChanges,
  partKey,
  partsOfDocument,
  readDocument,
  readKey,
  readStored,
  SCHEMA_VERSION,
  type ProjectDocument,
} from '.';

const fixture = (name: string) =>
  JSON.parse(readFileSync(join(__dirname, 'fixtures', name), 'utf8')) as { document: ProjectDocument };

const surface = (id: string, chord = 1) => ({
  id,
  name: id,
  role: 'wing' as const,
  plane: 'horizontal' as const,
  mirrored: true,
  position: { x: 0, y: 0, z: 0 },
  incidenceDeg: 0,
  stations: [
    { chord, twistDeg: 0, section: 'naca:0012' },
    { chord, twistDeg: 0, section: 'naca:0012' },
  ],
  bays: [{ span: 2, sweepDeg: 0, dihedralDeg: 0 }],
});
const item = (id: string, mass: number) => ({ id, name: id, mass, position: { x: 0, y: 0, z: 0 } });
const twoSurfaces = () => {
  const d = freshProject();
  d.candidates.a = {
    ...freshCandidate('a', 'A', 'First', 0),
    surfaces: [surface('wing'), surface('fin')],
    massItems: [item('m', 3)],
  };
  return d;
};

describe('documents of earlier versions', () => {
  it('open: version 1, with whole candidates and no notes', () => {
    const { document: raw } = fixture('document-1.json');
    const document = readDocument(raw);
    expect(document.schemaVersion).toBe(SCHEMA_VERSION);
    expect(document.notes).toEqual({});
    // Not a number of what the engineer made is changed.
    expect(document.candidates).toEqual(
      Object.fromEntries(Object.entries(raw.candidates).map(([id, c]) => [id, { ...c, bodies: [] }])),
    );
    expect(document.sections).toEqual(raw.sections);
    expect(document.brief).toEqual({
      ...raw.brief,
      bands: { ...raw.brief.bands, dampingRatio: { min: null, max: null } },
      assumptions: freshBrief().assumptions,
      requirements: [],
      climbSpeed: null,
      stallSpeed: null,
    });
    expect(document.originals).toEqual(raw.originals);
  });
  it('are refused with the reason when they are newer, nothing, or broken', () => {
    expect(() => readDocument({ ...freshProject(), schemaVersion: 99 })).toThrow(/newer Veldtwind/);
    for (const broken of [null, 5, [], {}, { schemaVersion: 'x' }]) expect(() => readDocument(broken)).toThrow();
    const noBrief = { ...freshProject(), brief: undefined };
    expect(() => readDocument(noBrief)).toThrow(/brief/);
    const { document: raw } = fixture('document-1.json');
    const spoilt = structuredClone(raw);
    delete (spoilt.candidates.a.surfaces[0] as Partial<ReturnType<typeof surface>>).bays;
    expect(() => readDocument(spoilt)).toThrow(/surfaces.0.bays/);
  });
});

describe('stored parts', () => {
  it('are checked as they are read: a row without a field is damaged, one of a newer version is kept', () => {
    expect(readStored('section:s', 1, designationSection('s', 'S', '0012'))).toMatchObject({ ok: true });
    const { name: _name, ...nameless } = designationSection('s', 'S', '0012');
    expect(readStored('section:s', 1, nameless)).toMatchObject({ ok: false, why: 'damaged' });
    expect(readStored('section:s', 99, { anything: 1 })).toMatchObject({ ok: false, why: 'newer' });
    // Fields that came later are filled in.
    const { steps: _steps, tags: _tags, ...early } = designationSection('s', 'S', '0012');
    expect(readStored('section:s', 1, early)).toMatchObject({ ok: true, value: { steps: [], tags: [] } });
  });
  it('of candidates before there were weigh-ins and studies open; what those hold is checked', () => {
    const { surfaces: _s, massItems: _m, bodies: _b, ...head } = freshCandidate('a', 'A', 'First', 0);
    expect(readStored('candidate:a', 4, head)).toMatchObject({ ok: true });
    const study = { variables: [{ path: 'surfaces.w.incidenceDeg', from: -3, to: 3 }], aims: [] };
    const weighing = { scales: [{ x: 0.1, y: 0, reading: 5 }] };
    expect(readStored('candidate:a', 5, { ...head, study, weighing })).toMatchObject({
      ok: true,
      value: { study, weighing: { ...weighing, wanted: null, period: null } },
    });
    const hostile = [
      { study: { variables: Array.from({ length: 25 }, () => study.variables[0]) } },
      { study: { variables: [{ ...study.variables[0], to: NaN }] } },
      { study: { deviations: { 'surfaces.w.incidenceDeg': -1 } } },
      { weighing: { scales: [{ x: 0.1, y: 0, reading: -5 }] } },
      { weighing: { scales: Array.from({ length: 13 }, () => weighing.scales[0]) } },
      { weighing: { ...weighing, period: 0 } },
    ];
    for (const more of hostile)
      expect(readStored('candidate:a', 5, { ...head, ...more })).toMatchObject({ ok: false, why: 'damaged' });
  });
  it('have keys that are told from everything else', () => {
    for (const key of ['brief', 'section:karoo-14', 'surface:a.wing', 'mass-item:a.m-2', 'note:n1'])
      expect(partKey.safeParse(key).success).toBe(true);
    for (const key of [
      '',
      'brief:x',
      'section',
      'section:A',
      'surface:wing',
      'surface:a.b.c',
      'candidate:constructor',
      'surface:a.constructor',
      'section:__proto__',
      'secrets:x',
    ])
      expect(partKey.safeParse(key).success).toBe(false);
    expect(readKey(keyOf('surface', 'wing', 'a'))).toEqual({ kind: 'surface', owner: 'a', id: 'wing' });
  });
  it('have a version that their migrations lead to', () => {
    for (const name of KIND_NAMES) {
      const { version, migrations } = kindOf(name);
      for (const to of Object.keys(migrations)) expect(Number(to)).toBeLessThanOrEqual(version);
    }
  });
});

describe('edits', () => {
  it('touch only the parts that they change', () => {
    const before = twoSurfaces();
    const { changes, document } = editDocument(before, (d) => {
      d.candidates.a.surfaces[1].stations[0].twistDeg = -2;
    });
    expect(changes.map((c) => c.part)).toEqual(['surface:a.fin']);
    expect(JSON.stringify(changes).length).toBeLessThan(500);
    expect(document.candidates.a.surfaces[1].stations[0].twistDeg).toBe(-2);
    expect(before.candidates.a.surfaces[1].stations[0].twistDeg).toBe(0);
    expect(document.candidates.a.surfaces[0]).toBe(before.candidates.a.surfaces[0]);
  });
  it('keep the order of lists, also when something is put in between or turned round', () => {
    const before = twoSurfaces();
    const { changes, document } = editDocument(before, (d) => {
      d.candidates.a.surfaces.splice(1, 0, surface('tail'));
    });
    expect(changes.map((c) => c.part)).toEqual(['candidate:a', 'surface:a.tail']);
    const stored = applyTo(partsOfDocument(before), changes);
    expect(documentFromParts(stored)).toEqual(document);
    expect(document.candidates.a.surfaces.map((s) => s.id)).toEqual(['wing', 'tail', 'fin']);
    const turned = editDocument(document, (d) => void d.candidates.a.surfaces.reverse());
    expect(turned.changes.map((c) => c.part)).toEqual(['candidate:a']);
    expect(turned.document.candidates.a.surfaces.map((s) => s.id)).toEqual(['fin', 'tail', 'wing']);
  });
  it('take a whole candidate apart, and take away what it no longer has', () => {
    const before = twoSurfaces();
    const existing = (kind: string) => (kind === 'surface' ? ['surface:a.wing', 'surface:a.fin'] : ['mass-item:a.m']);
    const whole = { ...before.candidates.a, surfaces: [surface('wing', 2)] };
    const changes = parseChanges([{ part: 'candidate:a', value: whole }], existing);
    expect(Object.fromEntries(changes.map((c) => [c.part, c.value === null]))).toEqual({
      'candidate:a': false,
      'surface:a.wing': false,
      'surface:a.fin': true,
      'mass-item:a.m': false,
    });
    expect(checkedChanges(before, changes).candidates.a).toEqual(whole);
    expect(parseChanges([{ part: 'candidate:a', value: null }], existing)).toHaveLength(4);
    expect(() =>
      parseChanges(
        [
          { part: 'brief', value: before.brief },
          { part: 'brief', value: before.brief },
        ],
        () => [],
      ),
    ).toThrow(/twice/);
  });
  it('refuse what belongs to a candidate that is not there', () => {
    expect(() =>
      checkedChanges(freshProject(), [{ part: 'surface:ghost.wing', value: surface('wing') }]),
    ).not.toThrow();
    const parts = partsOfDocument(freshProject());
    parts.set('surface:ghost.wing', surface('wing'));
    expect(documentFromParts(parts).candidates.ghost).toBeUndefined();
  });

  const applyTo = (parts: ReturnType<typeof partsOfDocument>, changes: ReturnType<typeof changesBetween>) => {
    for (const { part, value } of changes) {
      if (value === null) parts.delete(part);
      else parts.set(part, value as never);
    }
    return parts;
  };

  it('give the same document by parts as in one piece, whatever is done', () => {
    const id = fc.constantFrom('wing', 'fin', 'tail', 'boom');
    const candidate = fc.constantFrom('a', 'b', 'c');
    const step = fc.oneof(
      fc.record({ do: fc.constant('surface' as const), c: candidate, id, chord: fc.integer({ min: 1, max: 9 }) }),
      fc.record({ do: fc.constant('drop' as const), c: candidate, id }),
      fc.record({ do: fc.constant('turn' as const), c: candidate }),
      fc.record({ do: fc.constant('mass' as const), c: candidate, id, mass: fc.integer({ min: 0, max: 9 }) }),
      fc.record({ do: fc.constant('new' as const), c: candidate }),
      fc.record({ do: fc.constant('remove' as const), c: candidate }),
      fc.record({ do: fc.constant('section' as const), id }),
      fc.record({ do: fc.constant('speed' as const), v: fc.integer({ min: 1, max: 99 }) }),
      fc.record({ do: fc.constant('note' as const), id, text: fc.constantFrom('here', 'there') }),
    );
    fc.assert(
      fc.property(fc.array(fc.array(step, { minLength: 1, maxLength: 4 }), { maxLength: 12 }), (edits) => {
        let document = twoSurfaces();
        const stored = partsOfDocument(document);
        for (const steps of edits) {
          const plain = structuredClone(document);
          const run = (d: ProjectDocument) => {
            for (const s of steps) {
              if (s.do === 'speed') d.brief.speed = s.v;
              else if (s.do === 'section') d.sections[s.id] = designationSection(s.id, s.id, '0012');
              else if (s.do === 'note')
                d.notes[s.id] = { id: s.id, figure: 'f', xQuantity: 'x', yQuantity: 'y', x: 0, y: 0, text: s.text };
              else if (s.do === 'new') d.candidates[s.c] ??= freshCandidate(s.c, s.c.toUpperCase(), s.c, 0);
              else if (s.do === 'remove') delete d.candidates[s.c];
              else {
                const c = d.candidates[s.c];
                if (!c) continue;
                if (s.do === 'turn') c.surfaces.reverse();
                else if (s.do === 'drop') c.surfaces = c.surfaces.filter((v) => v.id !== s.id);
                else if (s.do === 'mass') {
                  const at = c.massItems.findIndex((v) => v.id === s.id);
                  if (at < 0) c.massItems.unshift(item(s.id, s.mass));
                  else c.massItems[at].mass = s.mass;
                } else {
                  const at = c.surfaces.findIndex((v) => v.id === s.id);
                  if (at < 0) c.surfaces.push(surface(s.id, s.chord));
                  else c.surfaces[at] = surface(s.id, s.chord);
                }
              }
            }
          };
          run(plain);
          const made = editDocument(document, (d) => run(d as ProjectDocument));
          expect(made.document).toEqual(plain);
          applyTo(stored, made.changes);
          expect(documentFromParts(stored)).toEqual(plain);
          expect(applyChanges(document, made.changes)).toEqual(plain);
          document = made.document;
        }
      }),
      { numRuns: 60 },
    );
  });
});
