import { sourceFacts } from '../shaping';
import {
  applyChanges,
  checkReferences,
  designationSection,
  freshProject,
  indexOf,
  mixesOf,
  readRecipeFile,
  resolvedSource,
  sectionPart,
  type ProjectDocument,
  type SectionPart,
} from '.';

const plain = (id: string, designation: string) => designationSection(id, id, designation);
const mix = (id: string, a: string, b: string): SectionPart => ({
  ...plain(id, '0012'),
  source: { kind: 'mix', a, b, fraction: 0.5 },
});
const withSections = (...parts: SectionPart[]): ProjectDocument =>
  applyChanges(
    freshProject(),
    parts.map((value) => ({ part: `section:${value.id}`, value })),
  );

describe('sections made from sections', () => {
  it('are resolved with all that they name inside them', () => {
    const stepped: SectionPart = {
      ...plain('c', '0009'),
      steps: [{ kind: 'mix', with: 'm', fraction: 0.25 }],
    };
    const { sections } = withSections(plain('a', '4412'), plain('b', '0012'), mix('m', 'a', 'b'), stepped);
    expect(mixesOf(sections.m)).toEqual(['a', 'b']);
    const source = resolvedSource(sections, 'c');
    expect(source).toMatchObject({
      kind: 'recipe',
      steps: [{ kind: 'mix', other: { kind: 'mix', a: { designation: '4412' } } }],
    });
    expect(sourceFacts(source).camber.max).toBeCloseTo(0.005, 3);
    expect(resolvedSource({}, 'naca:0012:sharp')).toMatchObject({ designation: '0012', trailingEdge: 'sharp' });
  });
  it('change with what they are made from', () => {
    const before = withSections(plain('a', '4412'), plain('b', '0012'), mix('m', 'a', 'b'));
    const first = resolvedSource(before.sections, 'm');
    expect(resolvedSource(before.sections, 'm')).toBe(first);
    const after = applyChanges(before, [{ part: 'section:a', value: plain('a', '6409') }]);
    expect(resolvedSource(after.sections, 'm')).toMatchObject({ a: { designation: '6409' } });
  });
  it('may not come back to themselves, directly or through others', () => {
    const circle = withSections(mix('a', 'b', 'c'), mix('b', 'c', 'd'), mix('d', 'a', 'c'), plain('c', '0012'));
    for (const id of ['a', 'b', 'd']) {
      expect(() => checkReferences(indexOf(circle), [`section:${id}`])).toThrow(/come back to itself/);
      expect(() => resolvedSource(circle.sections, id)).toThrow(/mixed from itself/);
    }
    expect(() => checkReferences(indexOf(withSections(mix('a', 'a', 'a'))), ['section:a'])).toThrow(/itself/);
    expect(() => checkReferences(indexOf(withSections(mix('a', 'x', 'x'))), ['section:a'])).toThrow(
      /not in the project/,
    );
  });
  it('are checked for that also when they were made before', () => {
    const { sections } = withSections(plain('a', '4412'), plain('b', '0012'), mix('m', 'a', 'b'));
    expect(resolvedSource(sections, 'm')).toMatchObject({ kind: 'mix' });
    expect(() => resolvedSource(sections, 'm', ['a'])).toThrow(/mixed from itself/);
    expect(() => resolvedSource(sections, 'm', ['other'])).not.toThrow();
  });
  it('hold on to what they are made from', () => {
    const document = withSections(plain('b', '0012'), mix('m', 'b', 'naca:4412'));
    const after = applyChanges(document, [{ part: 'section:b', value: null }]);
    expect(() => checkReferences(indexOf(after), ['section:b'])).toThrow(/used by the mix m/);
    expect(() => checkReferences(indexOf(document), ['section:m'])).not.toThrow();
  });
});

describe('what is saved', () => {
  it('takes sections from before there were recipes', () => {
    const old = { id: 's', name: 'S', source: plain('s', '0012').source, note: '' };
    expect(sectionPart.parse(old)).toMatchObject({ steps: [], tags: [] });
  });
  it('refuses a step outside its limits, with the nearest that works', () => {
    const bad = { ...plain('s', '0012'), steps: [{ kind: 'set-thickness', to: 2 }] };
    const parsed = sectionPart.safeParse(bad);
    expect(parsed.error?.issues[0].path).toEqual(['steps', 0, 'to']);
    expect(parsed.error?.issues[0].message).toMatch(/Nearest that works: 60 %/);
  });
});

describe('the recipe file', () => {
  const lookup = (key: string) => resolvedSource({}, key);
  it('is read with its defaults, or as a bare list', () => {
    const steps = [
      { kind: 'hinge', x: 0.7, angleDeg: 5 },
      { kind: 'mix', with: 'naca:0012', fraction: 0.3 },
    ];
    const read = readRecipeFile(JSON.stringify({ format: 'veldtwind-recipe', version: 1, steps }), lookup);
    expect(read[0]).toEqual({ kind: 'hinge', x: 0.7, angleDeg: 5, height: 0.5, joint: 0.012 });
    expect(read[1]).toMatchObject({ other: { kind: 'designation', designation: '0012' } });
    expect(readRecipeFile(JSON.stringify(steps), lookup)).toEqual(read);
  });
  it.each([
    ['no JSON', '{', /not JSON/],
    ['nothing', '[]', /steps/],
    ['an unknown kind', '[{"kind":"melt"}]', /steps.0.kind/],
    ['a number too large', '[{"kind":"set-thickness","to":5}]', /Nearest that works: 60 %/],
    ['a field that is missing', '[{"kind":"bump","surface":"upper"}]', /steps.0/],
    ['another format', '{"format":"x","version":1,"steps":[]}', /format/],
  ])('is refused with the path: %s', (_, text, reason) => {
    expect(() => readRecipeFile(text, lookup)).toThrow(reason);
  });
});
