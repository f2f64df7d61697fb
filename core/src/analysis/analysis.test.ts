import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { inputsOfEvaluation } from '../candidate';
import { editDocument, readDocument, type Edit, type ProjectDocument } from '../project';
import { DEFAULT_SPREAD } from '../section-flow';
import { canonicalJson } from '../results';
import { tailIncidence } from '../solve';
import {
  ANALYSES,
  Cancelled,
  checkedInputOf,
  isAnalysis,
  keyOfResult,
  REMOTE_KINDS,
  runAnalysis,
  versionOf,
  type AnalysisKind,
  type InputOf,
} from '.';

const demo = readDocument(
  (JSON.parse(readFileSync(join(__dirname, '../../../demo/seedsnipe.json'), 'utf8')) as { document: unknown }).document,
);
const edited = (edit: Edit): ProjectDocument => editDocument(demo, edit).document;

const fourDigits = { kind: 'designation' as const, designation: '4415', trailingEdge: 'published' as const };
const flow = { source: fourDigits, flap: null, spread: DEFAULT_SPREAD };
/** An input for every kind that may be asked for over the network, as it would come. */
const REMOTE: Partial<Record<AnalysisKind, unknown>> = {
  evaluation: inputsOfEvaluation(demo, 'a'),
  lift: { sections: inputsOfEvaluation(demo, 'a').sections, surfaces: demo.candidates.a.surfaces, alphas: [0, 0.05] },
  polar: { source: fourDigits, kind: 'fixed-re', conditions: { reynolds: 1e6 }, alphas: [0] },
};

describe('the registry', () => {
  it('has an input schema and a version for every kind, and tells kinds from other words', () => {
    for (const [kind, entry] of Object.entries(ANALYSES)) {
      expect(isAnalysis(kind)).toBe(true);
      expect(entry.version).toBeGreaterThanOrEqual(1);
      expect(entry.input.safeParse(undefined).success).toBe(false);
      expect(entry.input.safeParse('hostile').success).toBe(false);
      expect(versionOf(kind as AnalysisKind)).toBe(entry.version);
    }
    for (const word of ['constructor', '__proto__', 'toString', 'Polar', '']) expect(isAnalysis(word)).toBe(false);
  });
  it.each(REMOTE_KINDS)('%s: takes its own input from the network, and gives plain data', async (kind) => {
    expect(REMOTE[kind]).toBeDefined();
    const input = checkedInputOf(kind, JSON.parse(JSON.stringify(REMOTE[kind])));
    const output = await runAnalysis(kind, input);
    // What crosses a thread or a wire comes out as it went in: no NaN, no class, nothing undefined in lists.
    expect(JSON.parse(canonicalJson(output))).toEqual(JSON.parse(JSON.stringify(output)));
    expect(keyOfResult(kind, input)).toMatch(/^[0-9a-f]{32}$/);
  });
  it.each(REMOTE_KINDS)('%s: refuses numbers that are none, and says where', (kind) => {
    const broken = structuredClone(REMOTE[kind]) as Record<string, unknown>;
    if (kind === 'evaluation') (broken.brief as { speed: number }).speed = NaN;
    else (broken.alphas as number[])[0] = Infinity;
    expect(() => checkedInputOf(kind, broken)).toThrow(/speed|alphas/);
  });
  it('runs nothing of a kind once it was told to end', async () => {
    const input = checkedInputOf('polar', { ...(REMOTE.polar as object), alphas: [0, 0.02, 0.04, 0.06] });
    let steps = 0;
    const run = runAnalysis('polar', input, { report: () => steps++, cancelled: () => steps >= 1 });
    await expect(run).rejects.toBeInstanceOf(Cancelled);
    expect(steps).toBeLessThan(3);
  });
  it('reports a polar point by point, each once, and the same points come back', async () => {
    const input = checkedInputOf('polar', { ...(REMOTE.polar as object), alphas: [0.03, -0.03, 0] });
    const seen: number[] = [];
    const progress: [number, number][] = [];
    const points = await runAnalysis('polar', input, {
      report: ({ done, of, detail }) => {
        const { index, point } = detail as { index: number; point: { alpha: number } };
        seen.push(index);
        progress.push([done, of]);
        expect(point.alpha).toBeCloseTo(input.alphas![index], 12);
      },
    });
    expect(seen.slice().sort()).toEqual([0, 1, 2]);
    expect(progress).toEqual([
      [1, 3],
      [2, 3],
      [3, 3],
    ]);
    expect(points.map((p) => p.alpha)).toEqual(input.alphas);
    // No clock and no state of an earlier run decides a number.
    expect(await runAnalysis('polar', input)).toEqual(points);
  });
});

/** Every leaf of a value, with a function that gives the value with that leaf changed. */
function leaves(
  value: unknown,
  path: (string | number)[] = [],
): { path: string; changed: (root: unknown) => unknown }[] {
  if (value !== null && typeof value === 'object')
    return Object.entries(value).flatMap(([k, v]) => leaves(v, [...path, Array.isArray(value) ? Number(k) : k]));
  const other =
    typeof value === 'number'
      ? value + 0.001
      : typeof value === 'boolean'
        ? !value
        : value === null
          ? 1
          : `${String(value)}1`;
  return [
    {
      path: path.join('.'),
      changed: (root) => {
        const copy = structuredClone(root) as Record<string | number, unknown>;
        let at = copy;
        for (const k of path.slice(0, -1)) at = at[k] as Record<string | number, unknown>;
        at[path[path.length - 1]] = other;
        return copy;
      },
    },
  ];
}

describe('the key of a result', () => {
  it.each(['evaluation', 'lift', 'polar'] as const)('%s: every part of the input counts', (kind) => {
    const input = checkedInputOf(kind, JSON.parse(JSON.stringify(REMOTE[kind]))) as InputOf<typeof kind>;
    const keys = new Set([keyOfResult(kind, input as never)]);
    const all = leaves(input);
    for (const { changed } of all) keys.add(keyOfResult(kind, changed(input) as never));
    expect(all.length).toBeGreaterThan(5);
    expect(keys.size).toBe(all.length + 1);
  });
  it('does not depend on the order of keys, on minus zero, or on what is not there', () => {
    const a = keyOfResult('polar', { ...flow, kind: 'fixed-re', conditions: { reynolds: 1e6, mach: 0 }, alphas: [0] });
    const b = keyOfResult('polar', {
      alphas: [-0],
      lifts: undefined,
      conditions: { mach: 0, reynolds: 1e6 },
      kind: 'fixed-re',
      ...flow,
    });
    expect(a).toBe(b);
    expect(keyOfResult('inviscid-flow', { ...flow, alpha: 0, mach: 0 })).not.toBe(a);
  });
  it('cannot be made of a number that is none', () => {
    expect(() => canonicalJson({ a: [1, NaN] })).toThrow(RangeError);
    expect(() => canonicalJson(Infinity)).toThrow(RangeError);
  });
  it('tells any two different values apart, and only those', () => {
    // JSON knows neither undefined nor minus zero.
    const plain = (v: unknown) => JSON.stringify(v, (_, x) => (Object.is(x, -0) ? 0 : x));
    fc.assert(
      fc.property(fc.jsonValue(), fc.jsonValue(), (a, b) => {
        const same = plain(JSON.parse(canonicalJson(a))) === plain(JSON.parse(canonicalJson(b)));
        expect(canonicalJson(a) === canonicalJson(b)).toBe(same);
        expect(JSON.parse(canonicalJson(a))).toEqual(JSON.parse(plain(a)));
      }),
      { numRuns: 300 },
    );
  });
});

describe('what a candidate depends on', () => {
  const keyIn = (document: ProjectDocument) => keyOfResult('evaluation', inputsOfEvaluation(document, 'a'));
  const before = keyIn(demo);
  it.each<[string, Edit]>([
    ['the speed', (d) => void (d.brief.speed += 1)],
    ['the altitude', (d) => void (d.brief.altitude += 100)],
    ['its mass', (d) => void (d.brief.mass += 1)],
    ['a chord', (d) => void (d.candidates.a.surfaces[0].stations[0].chord += 0.01)],
    ['a twist', (d) => void (d.candidates.a.surfaces[0].stations[1].twistDeg += 0.5)],
    ['a mass item', (d) => void (d.candidates.a.massItems[0].position.x += 0.1)],
    ['its sweep', (d) => void (d.candidates.a.sweep.toDeg += 1)],
  ])('%s: another result', (_, edit) => {
    const document = edited(edit);
    expect(keyIn(document)).not.toBe(before);
  });
  it('a section that its stations use', () => {
    const used = demo.candidates.a.surfaces[0].stations[0].section;
    const other = Object.keys(demo.sections).find(
      (k) => !demo.candidates.a.surfaces.some((s) => s.stations.some((t) => t.section === k)),
    );
    const swap =
      (key: string): Edit =>
      (d) => {
        d.sections[key].source = { kind: 'designation', designation: '0021', trailingEdge: 'published' };
      };
    expect(keyIn(edited(swap(used)))).not.toBe(before);
    // One that nobody uses changes nothing.
    if (other) expect(keyIn(edited(swap(other)))).toBe(before);
  });
  it.each<[string, Edit]>([
    ['a name', (d) => void (d.candidates.a.name = 'Another')],
    ['another candidate', (d) => void (d.candidates.b.surfaces[0].stations[0].chord += 0.01)],
    ['a band of the brief', (d) => void (d.brief.bands.staticMargin.min = 0.01)],
  ])('%s: the same result', (_, edit) => expect(keyIn(edited(edit))).toBe(before));
  it('says when the candidate is not there', () => {
    expect(() => inputsOfEvaluation(demo, 'nowhere')).toThrow(/no candidate/);
    expect(() => tailIncidence.inputsOf!(demo, 'nowhere', 'tail', 4)).toThrow(/no candidate/);
  });
});
