import {
  applyChanges,
  checkReferences,
  designationSection,
  documentFromParts,
  freshCandidate,
  freshProject,
  indexOf,
  parseChanges,
  parsePart,
  partsOfDocument,
  partsOfWhole,
  readDocument,
  usesOfSection,
} from '.';

const wing = (section: string) => ({
  id: 'wing',
  name: 'Wing',
  role: 'wing' as const,
  plane: 'horizontal' as const,
  mirrored: true,
  position: { x: 0, y: 0, z: 0 },
  incidenceDeg: 0,
  stations: [
    { chord: 1, twistDeg: 0, section },
    { chord: 1, twistDeg: 0, section },
  ],
  bays: [{ span: 2, sweepDeg: 0, dihedralDeg: 0 }],
});
const withWing = () => {
  const d = freshProject();
  return applyChanges(d, [
    { part: 'section:s', value: designationSection('s', 'S', '4415') },
    { part: 'candidate:a', value: { ...freshCandidate('a', 'A', 'First', 0), surfaces: [wing('s')] } },
  ]);
};

describe('the document', () => {
  it('is valid when fresh, and the same after being taken apart', () => {
    const d = withWing();
    expect(readDocument(JSON.parse(JSON.stringify(d)))).toEqual(d);
    expect(documentFromParts(partsOfDocument(d))).toEqual(d);
  });
  it('changes by parts, leaving the one before as it was', () => {
    const d = withWing();
    const before = structuredClone(d);
    const after = applyChanges(d, [{ part: 'section:s', value: null }]);
    expect(after.sections).toEqual({});
    expect(d).toEqual(before);
  });
  it('knows who uses a section', () => {
    expect(usesOfSection(withWing(), 's')[0]).toEqual({ candidate: 'a', letter: 'A', surface: 'Wing' });
    expect(usesOfSection(withWing(), 'other')).toEqual([]);
  });
  it('refuses to lose a section in use, to use one that is not there, or to lose the brief', () => {
    const d = withWing();
    expect(() =>
      checkReferences(indexOf(applyChanges(d, [{ part: 'section:s', value: null }])), ['section:s']),
    ).toThrow(/used by Wing of A/);
    const ghost = applyChanges(d, [{ part: 'candidate:a', value: { ...d.candidates.a, surfaces: [wing('ghost')] } }]);
    expect(() => checkReferences(indexOf(ghost), ['surface:a.wing'])).toThrow(/not in the project/);
    const inline = applyChanges(d, [
      { part: 'candidate:a', value: { ...d.candidates.a, surfaces: [wing('naca:0012')] } },
    ]);
    expect(() => checkReferences(indexOf(inline), ['candidate:a'])).not.toThrow();
    expect(() => applyChanges(d, [{ part: 'brief', value: null }])).toThrow(/no brief/);
  });
});

describe('parts', () => {
  const good = () => ({ ...freshCandidate('a', 'A', 'First', 0), surfaces: [wing('s')] });
  it.each([
    ['a span of zero', (c: ReturnType<typeof good>) => (c.surfaces[0].bays[0].span = 0), 'surfaces.0.bays.0.span'],
    [
      'a chord of NaN',
      (c: ReturnType<typeof good>) => (c.surfaces[0].stations[0].chord = NaN),
      'surfaces.0.stations.0.chord',
    ],
    [
      'an infinite place',
      (c: ReturnType<typeof good>) => (c.surfaces[0].position.x = Infinity),
      'surfaces.0.position.x',
    ],
    [
      'a bay too many',
      (c: ReturnType<typeof good>) => c.surfaces[0].bays.push({ span: 1, sweepDeg: 0, dihedralDeg: 0 }),
      'surfaces.0.bays',
    ],
    ['a sweep of angles that runs backward', (c: ReturnType<typeof good>) => (c.sweep.fromDeg = 20), 'sweep.fromDeg'],
    ['no name', (c: ReturnType<typeof good>) => (c.name = ''), 'name'],
    [
      'a negative mass',
      (c: ReturnType<typeof good>) =>
        c.massItems.push({ id: 'm', name: 'm', mass: -1, position: { x: 0, y: 0, z: 0 } }),
      'massItems.0.mass',
    ],
  ])('name the field of %s', (_, spoil, path) => {
    const c = good();
    spoil(c);
    try {
      parseChanges([{ part: 'candidate:a', value: c }], () => []);
      throw new Error('was accepted');
    } catch (error) {
      expect((error as { path?: string }).path).toBe(path);
    }
  });
  it('refuse a band whose limits are crossed, and an id that differs from its key', () => {
    const { brief } = freshProject();
    brief.bands.staticMargin = { min: 0.2, max: 0.1 };
    expect(() => parsePart('brief', brief)).toThrow(/lower limit/);
    expect(() => parsePart('candidate:b', partsOfWhole('candidate', 'a', good())[0][1])).toThrow(/holds the id a/);
  });
});
