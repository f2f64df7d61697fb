import {
  evaluateCandidate,
  readCandidateFile,
  sectionLookup,
  anglesOf,
  writeCandidateFile,
  designPoint,
  angleForLift,
} from '../candidate';
import {
  applyChanges,
  editDocument,
  freshBrief,
  freshCandidate,
  freshProject,
  type BriefPart,
  type CandidatePart,
} from '../project';
import { canonicalJson, resultKey } from '../results';
import { fixFrom, solveTailIncidence, withIncidence } from '../solve';
import { massProperties } from '../balance';
import { RAD } from '../numerics';
import { bandWords, findingsOf, findingWords } from '.';

const lookup = sectionLookup({});
const brief: BriefPart = {
  ...freshBrief(),
  speed: 26,
  altitude: 600,
  mass: 24,
  spanLimit: 5,
  bands: {
    trimAngleDeg: { min: 3, max: 5 },
    staticMargin: { min: 0.08, max: 0.2 },
    pitchSlopePerDeg: { min: null, max: -0.005 },
    dampingRatio: { min: null, max: null },
  },
};
const candidate: CandidatePart = {
  ...freshCandidate('a', 'A', 'Straight', 0),
  surfaces: [
    {
      id: 'wing',
      name: 'Wing',
      role: 'wing',
      plane: 'horizontal',
      mirrored: true,
      position: { x: 0, y: 0, z: 0 },
      incidenceDeg: 0,
      stations: [
        { chord: 0.5, twistDeg: 0, section: 'naca:2411' },
        { chord: 0.3, twistDeg: -2, section: 'naca:2411' },
      ],
      bays: [{ span: 2.4, sweepDeg: 2, dihedralDeg: 3 }],
    },
    {
      id: 'tail',
      name: 'Tailplane',
      role: 'tailplane',
      plane: 'horizontal',
      mirrored: true,
      position: { x: 1.7, y: 0, z: 0.1 },
      incidenceDeg: -2,
      stations: [
        { chord: 0.3, twistDeg: 0, section: 'naca:0009' },
        { chord: 0.22, twistDeg: 0, section: 'naca:0009' },
      ],
      bays: [{ span: 0.55, sweepDeg: 4, dihedralDeg: 0 }],
    },
  ],
  massItems: [
    { id: 'airframe', name: 'Airframe', mass: 14, position: { x: 0.25, y: 0, z: 0 } },
    { id: 'seed', name: 'Seed', mass: 10, position: { x: 0.15, y: 0, z: -0.05 } },
  ],
};
const evaluate = (c: CandidatePart, b = brief) => evaluateCandidate(b, c, lookup);
const worded = (c: CandidatePart, b = brief) =>
  findingsOf(b, c, evaluate(c, b)).map((f) => ({ ...f, ...findingWords(f) }));
const find = (c: CandidatePart, id: string, b = brief) => worded(c, b).find((f) => f.id === id);

describe('design point', () => {
  it('follows from the brief, and from the wing when there is one', () => {
    const d = designPoint(brief, candidate);
    expect(d.weight).toBeCloseTo(24 * 9.80665, 8);
    expect(d.CL! * d.flow.dynamicPressure * 1.92).toBeCloseTo(d.weight, 6);
    expect(d.reynolds!.root / d.reynolds!.tip).toBeCloseTo(5 / 3, 8);
    expect(designPoint(brief).CL).toBeNull();
  });
  it('lists the angles of a sweep, both ends included', () => {
    expect(anglesOf({ fromDeg: -1, toDeg: 1, stepDeg: 0.5 })).toEqual([-1, -0.5, 0, 0.5, 1]);
    expect(anglesOf({ fromDeg: 0, toDeg: 1, stepDeg: 0.3 })).toEqual([0, 0.3, 0.6, 0.9, 1]);
  });
});

describe('balance', () => {
  it('agrees with a slope and a root taken from the curve itself', () => {
    const e = evaluate(candidate);
    const { trims, staticMargin, pitchSlope } = e.balance!;
    expect(trims).toHaveLength(1);
    const again = evaluate({ ...candidate, sweep: { fromDeg: -4, toDeg: 12, stepDeg: 0.1 } });
    expect(trims[0].alpha).toBeCloseTo(again.balance!.trims[0].alpha, 4);
    expect(staticMargin).toBeCloseTo(-pitchSlope / e.balance!.liftSlope, 10);
    const p = e.lift!.points;
    // About the angle of level flight.
    const level = p.findIndex((q) => q.alpha > e.balance!.state.alpha);
    expect((p[level].Cm - p[level - 1].Cm) / (1 * RAD)).toBeCloseTo(pitchSlope, 1);
    const w = 0.5 * e.design!.flow.density * trims[0].speed! ** 2 * e.lift!.reference.area * trims[0].CL;
    expect(w).toBeCloseTo(24 * 9.80665, 6);
  });
  it('moves the margin by exactly what the centre of gravity moves', () => {
    const moved = {
      ...candidate,
      massItems: candidate.massItems.map((m) => ({ ...m, position: { ...m.position, x: m.position.x + 0.02 } })),
    };
    const a = evaluate(candidate);
    const b = evaluate(moved);
    expect(a.balance!.staticMargin - b.balance!.staticMargin).toBeCloseTo(0.02 / a.lift!.reference.chord, 2);
  });
  it('has no centre of gravity without mass, and refuses impossible masses', () => {
    expect(massProperties([])).toBeNull();
    expect(massProperties([{ id: 'x', name: '', mass: 0, position: { x: 1, y: 0, z: 0 } }])).toBeNull();
    expect(() => massProperties([{ id: 'x', name: 'Motor', mass: -1, position: { x: 1, y: 0, z: 0 } }])).toThrow(
      /Motor/,
    );
    expect(() => massProperties([{ id: 'x', name: 'Motor', mass: 1, position: { x: NaN, y: 0, z: 0 } }])).toThrow(
      /place/,
    );
    expect(massProperties(candidate.massItems)!.centre.x).toBeCloseTo((14 * 0.25 + 10 * 0.15) / 24, 12);
  });
});

describe('findings', () => {
  it('hold the results against the brief', () => {
    const trim = evaluate(candidate).balance!.trims[0].alpha / RAD;
    const f = find(candidate, 'trim-angle')!;
    expect(f.headline).toBe(`Trims at ${trim.toFixed(1).replace('-', '−')}°`);
    expect(f.state).toBe(trim >= 3 && trim <= 5 ? 'inside' : 'outside');
    expect(find(candidate, 'span')).toMatchObject({ state: 'inside', headline: 'Span 4.80 m' });
    expect(find(candidate, 'span', { ...brief, spanLimit: 4 })!.state).toBe('outside');
    expect(find({ ...candidate, massItems: candidate.massItems.slice(0, 1) }, 'mass')!.headline).toBe(
      'Mass items add up to 14.00 kg',
    );
  });
  it('say that the centre of gravity is not set, and never take it for zero', () => {
    const bare = { ...candidate, massItems: [] };
    expect(find(bare, 'no-centre')!.state).toBe('missing');
    expect(evaluate(bare).lift!.momentReference.x).toBeCloseTo(0.14, 1);
    expect(find(bare, 'trim-angle')).toBeUndefined();
  });
  it('say what cannot be computed, and keep going', () => {
    const broken = structuredClone(candidate);
    broken.surfaces[0].bays[0].span = 0;
    expect(worded(broken)[0]).toMatchObject({
      state: 'missing',
      headline: 'Cannot be computed',
    });
    expect(find(freshCandidate('x', 'X', 'Empty', 0), 'no-wing')!.evidence.area).toBe('airframe');
    const missing = structuredClone(candidate);
    missing.surfaces[0].stations[0].section = 'gone';
    expect(worded(missing)[0].detail).toMatch(/no section "gone"/);
  });
  it('put bands in words', () => {
    expect(bandWords({ min: 3, max: 5 }, 'angle', 'metric', 1)).toBe('3–5°');
    expect(bandWords({ min: -2, max: 1 }, 'angle', 'metric', 1)).toBe('−2 to 1°');
    expect(bandWords({ min: 0.08, max: null }, 'ratio', 'metric', 1)).toBe('above 8 %');
    expect(bandWords({ min: null, max: null }, 'plain', 'metric')).toBeNull();
  });
  it('solve for the tail incidence that trims where it should', () => {
    const input = { brief, candidate, sections: {}, surfaceId: 'tail', targetDeg: 4 };
    const s = solveTailIncidence(input);
    expect(s.trimDeg).toBeCloseTo(4, 2);
    expect(find(withIncidence(candidate, 'tail', s.toDeg), 'trim-angle')!.state).toBe('inside');
    expect(() => solveTailIncidence({ ...input, candidate: { ...candidate, massItems: [] } })).toThrow(
      /centre of gravity/,
    );
    // The fix is an edit of one part, whoever applies it.
    const document = applyChanges(freshProject(), [{ part: 'candidate:a', value: candidate }]);
    const { edit, label } = fixFrom('a', { code: 'tail-incidence', surfaceId: 'tail', targetDeg: 4 }, s);
    const made = editDocument(document, edit);
    expect(made.changes.map((c) => c.part)).toEqual(['surface:a.tail']);
    expect(made.document.candidates.a.surfaces[1].incidenceDeg).toBeCloseTo(s.toDeg, 3);
    expect(label).toMatch(/^Tail incidence .*° for trim at 4\.0°$/);
  });
  it('speak in the reader’s units', () => {
    const all = findingsOf(brief, candidate, evaluate(candidate));
    const words = (id: string, set: 'metric' | 'us' | 'small') =>
      findingWords(
        all.find((f) => f.id === id)!,
        set,
      );
    expect(words('trim-speed', 'metric').headline).toMatch(/^Trim speed [\d.]+ m\/s$/);
    expect(words('trim-speed', 'us').detail).toBe(', for a design speed of 85.3 ft/s');
    expect(words('span', 'us')).toEqual({ headline: 'Span 15.75 ft', detail: ', inside 16.40 ft' });
    expect(words('span', 'small').headline).toBe('Span 4800 mm');
  });
});

describe('candidate files and keys', () => {
  it('come back as they were written', () => {
    const own = {
      ...candidate,
      surfaces: candidate.surfaces.map((s) => ({
        ...s,
        stations: s.stations.map((t) => ({ ...t, section: t.section === 'naca:2411' ? 'karoo' : t.section })),
      })),
    };
    const source = { kind: 'designation' as const, designation: '2411', trailingEdge: 'published' as const };
    const read = readCandidateFile(writeCandidateFile(own, () => source));
    expect(read.candidate).toEqual(own);
    expect(read.sections).toEqual({ karoo: source });
  });
  it.each([
    ['nonsense', '{', /not JSON/],
    ['another format', '{"format":"x"}', /Candidate file/],
    [
      'a chord of text',
      JSON.stringify({
        format: 'veldtwind-candidate',
        version: 1,
        candidate: {
          name: 'x',
          surfaces: [
            {
              ...candidate.surfaces[0],
              stations: [
                { chord: 'wide', twistDeg: 0, section: 'a' },
                { chord: 1, twistDeg: 0, section: 'a' },
              ],
            },
          ],
        },
      }),
      /chord/,
    ],
  ])('refuse %s', (_, text, reason) => {
    expect(() => readCandidateFile(text)).toThrow(reason);
  });
  it('depend on exactly the inputs', () => {
    expect(canonicalJson({ b: 1, a: [1, { d: undefined, c: -0 }] })).toBe('{"a":[1,{"c":0}],"b":1}');
    expect(resultKey('lift', 1, { a: 1, b: 2 })).toBe(resultKey('lift', 1, { b: 2, a: 1 }));
    expect(resultKey('lift', 1, { a: 1 })).not.toBe(resultKey('lift', 2, { a: 1 }));
    expect(resultKey('lift', 1, { a: 1 })).not.toBe(resultKey('lift', 1, { a: 2 }));
    expect(() => resultKey('lift', 1, { a: NaN })).toThrow(/finite/);
  });
  it('find the angle for a lift', () => {
    const { lift } = evaluate(candidate);
    const a = angleForLift(lift!, 0.5)!;
    expect(lift!.points.some((p) => p.alpha >= a)).toBe(true);
    expect(angleForLift(lift!, 9)).toBeNull();
  });
});
