import type { Body, LiftingSurface } from '../airframe';
import { flowState } from '../atmosphere';
import type { SectionSource } from '../shaping';
import {
  bodyForm,
  dragBuildUp,
  dragSchema,
  FRICTION_LAW_NAMES,
  laminarFriction,
  plateFriction,
  totalWith,
  turbulentFriction,
  type DragSettings,
} from '.';

const lookup = (key: string): SectionSource => ({ kind: 'designation', designation: key, trailingEdge: 'sharp' });
const wing: LiftingSurface = {
  id: 'wing',
  name: 'Wing',
  role: 'wing',
  plane: 'horizontal',
  mirrored: true,
  position: { x: 0, y: 0, z: 0 },
  incidenceDeg: 0,
  stations: [
    { chord: 0.5, twistDeg: 0, section: '0012' },
    { chord: 0.5, twistDeg: 0, section: '0012' },
  ],
  bays: [{ span: 2, sweepDeg: 0, dihedralDeg: 0 }],
};
const tail: LiftingSurface = { ...wing, id: 'tail', name: 'Tail', role: 'tailplane', position: { x: 2, y: 0, z: 0 } };
const pod: Body = {
  id: 'pod',
  name: 'Pod',
  mirrored: false,
  loft: 'straight',
  position: { x: 0, y: 0, z: 0 },
  stations: [0, 1.5].map((x) => ({ x, width: 0.2, height: 0.2, z: 0, shape: 'ellipse', corner: 0.3 })),
};
const flow = flowState(26, 600);
const build = (drag: Partial<DragSettings> = {}, more = {}) =>
  dragBuildUp({ surfaces: [wing, tail], bodies: [pod], drag, ...more }, flow, lookup);

describe('surfaces by their polars', () => {
  it('take the place of friction and form, of those surfaces alone, and roll up into shares and reserves', () => {
    const plain = build();
    const allowances = [
      { name: 'gaps', kind: 'share' as const, amount: 0.1 },
      { name: 'rest', kind: 'reserve' as const, amount: 0.2 },
    ];
    const drag = { surfaces: 'polars' as const, allowances };
    const of = (profiles: Record<string, number> | null) =>
      dragBuildUp({ surfaces: [wing, tail], bodies: [pod], drag }, flow, lookup, undefined, profiles);
    const both = of({ wing: 0.009, tail: 0.004 });
    const [w, t, b] = both.parts;
    expect([w.CD, t.CD]).toEqual([0.009, 0.004]);
    expect(w.cf * w.wettedArea).toBeCloseTo(0.009 * both.reference.area, 14);
    expect([w.byPolars, t.byPolars, b.byPolars]).toEqual([true, true, undefined]);
    expect(b.CD).toBe(plain.parts[2].CD);
    const sum = 0.013 + b.CD;
    expect(both.CD).toBeCloseTo((1.1 * sum) / 0.8, 14);
    // One that is not known stays by its build-up, and says so.
    expect(of({ wing: 0.009 }).parts[1].byPolars).toBeUndefined();
    expect(of(null).parts[0].CD).toBe(plain.parts[0].CD);
    // Never both: without being asked for, polars change nothing.
    const quiet = dragBuildUp({ surfaces: [wing, tail], bodies: [pod] }, flow, lookup, undefined, { wing: 0.009 });
    expect(quiet.parts[0].CD).toBe(plain.parts[0].CD);
  });
});

describe('friction of a plate', () => {
  it.each(FRICTION_LAW_NAMES)('by the law %s lies near the others, and falls with the Reynolds number', (law) => {
    for (const re of [1e6, 3e6, 1e7])
      expect(Math.abs(turbulentFriction(law, re) / (0.455 / Math.log10(re) ** 2.58) - 1)).toBeLessThan(0.06);
    expect(turbulentFriction(law, 1e7)).toBeLessThan(turbulentFriction(law, 1e6));
  });
  it('solves the implicit law', () => {
    const cf = turbulentFriction('implicit-log', 2e6);
    expect(0.242 / Math.sqrt(cf)).toBeCloseTo(Math.log10(2e6 * cf), 10);
  });
  it('with a laminar run lies between the laminar and the turbulent plate, and joins both', () => {
    const at = (share: number) => plateFriction('log-power', 1e6, share);
    expect(at(0)).toBe(turbulentFriction('log-power', 1e6));
    expect(at(1)).toBe(laminarFriction(1e6));
    let before = at(0);
    for (const share of [0.1, 0.3, 0.5, 0.7, 0.9, 0.99]) {
      expect(at(share)).toBeLessThan(before);
      expect(at(share)).toBeGreaterThanOrEqual(laminarFriction(1e6));
      before = at(share);
    }
  });
  it('grows with roughness once it stands out of the layer, and not before', () => {
    const rough = (k: number) => plateFriction('log-power', 1e7, 0, { roughness: k, length: 1 });
    expect(rough(1e-9)).toBe(rough(0));
    expect(rough(1e-4)).toBeGreaterThan(1.2 * rough(0));
    expect(plateFriction('log-power', 1e7, 0, { mach: 0.5 })).toBeLessThan(rough(0));
  });
  it('is refused where no law holds', () => {
    expect(() => turbulentFriction('log-power', 10)).toThrow(/from a Reynolds number of 1000/);
    expect(() => turbulentFriction('log-power', NaN)).toThrow(/Reynolds/);
  });
});

describe('a build-up', () => {
  it('of plates is the law exactly', () => {
    const plain = { formFactor: 1, interference: 1 };
    const b = build({ parts: { wing: plain, tail: plain, pod: plain } });
    for (const p of b.parts) {
      const warm = (1 + 0.144 * flow.mach ** 2) ** -0.65;
      expect(p.cf).toBe(warm * (0.455 / Math.log10(p.reynolds) ** 2.58));
      expect(p.dragArea).toBeCloseTo(p.cf * p.wettedArea, 15);
    }
    expect(b.CD).toBeCloseTo(
      b.parts.reduce((s, p) => s + p.CD, 0),
      15,
    );
    expect(b.drag).toBeCloseTo(b.CD * b.reference.area * flow.dynamicPressure, 12);
  });
  it('has the true wetted areas, lengths and forms', () => {
    const { parts } = build();
    expect(parts.map((p) => p.id)).toEqual(['wing', 'tail', 'pod']);
    expect(parts[2].wettedArea).toBeCloseTo(Math.PI * 0.2 * 1.5 + 2 * Math.PI * 0.01, 2);
    expect(parts[2].formFactor).toBeCloseTo(bodyForm('fineness', 7.5), 3);
    expect(parts[0].length).toBeCloseTo(0.5, 12);
    expect(parts[0].formFactor).toBeCloseTo(1 + 0.24 + 60 * 0.12 ** 4, 3);
    expect(parts.map((p) => p.interference)).toEqual([1, 1.05, 1]);
    expect(parts[0].reynolds).toBeCloseTo(flow.reynoldsPerMetre * 0.5, 3);
    const mirrored = dragBuildUp({ surfaces: [wing], bodies: [{ ...pod, mirrored: true }] }, flow, lookup).parts[1];
    expect(mirrored.wettedArea / parts[2].wettedArea).toBeCloseTo(2, 9);
    expect(mirrored.formFactor).toBeCloseTo(parts[2].formFactor, 12);
  });
  it('takes numbers of one’s own, other laws and another reference', () => {
    const own = build({ parts: { wing: { laminarShare: 0.5, formFactor: 1.4, interference: 1.1 } } }).parts[0];
    expect(own).toMatchObject({ laminarShare: 0.5, formFactor: 1.4, interference: 1.1 });
    expect(own.cf).toBeLessThan(build().parts[0].cf);
    expect(build({ law: 'fifth-root', surfaceForm: 'crest', joints: 'none' }).parts[1].interference).toBe(1);
    const half = build({}, { reference: { area: 1, span: 4, chord: 0.5 } });
    expect(half.CD).toBeCloseTo(2 * build().CD, 12);
    expect(half.dragArea).toBeCloseTo(build().dragArea, 12);
  });
  it('solves all five kinds of allowances together, in any order, to 1e-9', () => {
    const allowances: DragSettings['allowances'] = [
      { name: 'gaps', kind: 'counts', amount: 7 },
      { name: 'reserve', kind: 'reserve', amount: 0.1 },
      { name: 'excrescences', kind: 'share', amount: 0.08 },
      { name: 'antenna', kind: 'area', amount: 0.0021 },
      { name: 'cooling', kind: 'coefficient', amount: 0.0013 },
      { name: 'second reserve', kind: 'reserve', amount: 0.05 },
    ];
    const shape = build().CD;
    const b = build({ allowances });
    const closed = (shape * 1.08 + 7e-4 + 0.0013 + 0.0021 / 2) / (1 - 0.15);
    expect(Math.abs(b.CD - closed)).toBeLessThan(1e-9);
    expect(
      Math.abs(b.parts.reduce((s, p) => s + p.CD, 0) + b.allowances.reduce((s, a) => s + a.CD, 0) - b.CD),
    ).toBeLessThan(1e-12);
    expect(b.allowances[1].CD / b.CD).toBeCloseTo(0.1, 12);
    const back = build({ allowances: [...allowances].reverse() });
    expect(back.CD).toBeCloseTo(b.CD, 15);
    // A drag area stays when the reference changes.
    expect(build({ allowances }, { reference: { area: 5, span: 4, chord: 0.5 } }).allowances[3].dragArea).toBeCloseTo(
      0.0021,
      15,
    );
  });
  it('refuses reserves of all, parts that are not there, and speeds at which no law holds', () => {
    const all = [0.6, 0.4].map((amount) => ({ name: 'r', kind: 'reserve' as const, amount }));
    expect(() => totalWith(0.02, { allowances: all }, 1)).toThrow(/add up to 100 %/);
    expect(dragSchema.safeParse({ allowances: all }).success).toBe(false);
    expect(dragSchema.safeParse({ allowances: [{ name: 'r', kind: 'reserve', amount: 1.2 }] }).success).toBe(false);
    expect(dragSchema.safeParse({ allowances: [{ name: 'x', kind: 'counts', amount: NaN }] }).success).toBe(false);
    expect(() => build({ parts: { ghost: {} } })).toThrow(/"ghost", which is not there/);
    expect(() => dragBuildUp({ surfaces: [wing], bodies: [] }, flowState(0.01, 0), lookup)).toThrow(/Reynolds number/);
    expect(() => dragBuildUp({ surfaces: [], bodies: [pod] }, flow, lookup)).toThrow(/no lifting surface/);
  });
});
