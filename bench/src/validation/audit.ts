import type { LiftingSurface } from '@veldtwind/core/airframe';
import { madeSurface } from '@veldtwind/core/airframe/testing';
import { runAnalysis } from '@veldtwind/core/analysis';
import { flowState, GRAVITY } from '@veldtwind/core/atmosphere';
import { massProperties } from '@veldtwind/core/balance';
import {
  airframeMotion,
  evaluateCandidate,
  flownVehicle,
  latticeSource,
  powered,
  seriesRoot,
  sectionLookup,
  thrustOf,
} from '@veldtwind/core/candidate';
import { analyseLift, analyseThick, keptMeanLine, makeLattice, thinHingeSlopes } from '@veldtwind/core/lift';
import { airframeCase, airframeDerivatives, motionOf, trimLevel } from '@veldtwind/core/motion';
import { RAD } from '@veldtwind/core/numerics';
import { flappedOutline } from '@veldtwind/core/polar';
import { engineSchema, pitchedPropeller, propellerAt, propellerPower } from '@veldtwind/core/propulsion';
import { DEFAULT_SPREAD, InviscidSection, isSolved } from '@veldtwind/core/section-flow';
import { aeroTables, fly, scenarioSchema, TurbulentAir, turbulenceScales } from '@veldtwind/core/simulation';
import { seedsnipe } from '@veldtwind/demo/seedsnipe';
import { leaning, nearGround, turnedFar } from './audit-shapes';

/** One figure beside the same by another way. */
export interface AuditRow {
  what: string;
  /** The other way to it, and its figure. */ other: string;
  independent: number;
  ours: number;
  /** Largest difference, as a share of the independent figure; absolute where it says so. */ band: number;
  absolute?: boolean;
  /** How sure the other figure is. */ sure: string;
}

const lookup = sectionLookup({});
const lineOf = (key: string) => keptMeanLine(lookup(key));
const elevator = {
  id: 'e',
  name: 'Elevator',
  from: 0,
  to: 1,
  hinge: 0.7,
  kind: 'symmetric' as const,
  deflectionDeg: 0,
  limitsDeg: [-25, 25] as [number, number],
};
const wing = madeSurface('wing', 'horizontal', true, { x: 0, y: 0, z: 0 }, [0.5, 0.4], 2.5, { section: '1410' });
const tail = madeSurface('tail', 'horizontal', true, { x: 2, y: 0, z: 0.1 }, [0.32, 0.28], 0.7);
const finAt = (z: number) => madeSurface('fin', 'vertical', false, { x: 1.98, y: 0, z }, [0.38, 0.26], 0.5);

/** Margin of the whole aircraft in two areas. */
function margins(): AuditRow[] {
  const { document } = seedsnipe();
  const sections = sectionLookup(document.sections);
  return Object.values(document.candidates).map((c) => {
    const { speed, altitude } = document.brief;
    const line = (key: string) => keptMeanLine(sections(key));
    return {
      what: `Static margin of ${c.letter}, Balance`,
      other: '−Cm_α/CL_α of Motion’s trim',
      independent: airframeMotion(c, sections, line, { speed, altitude, polars: null }).staticMargin,
      ours: evaluateCandidate(document.brief, c, sections, line).balance!.staticMargin,
      band: 1e-9,
      sure: 'the same lattice, by derivatives',
    };
  });
}

/** Surface panels beside the lattice. */
function panels(): AuditRow[] {
  const about = { x: 0.15, y: 0, z: 0 };
  const pair = (surfaces: LiftingSurface[]) =>
    analyseThick({ surfaces, alphas: [1 * RAD, 4 * RAD], about }, lookup).compared!;
  const rows = [
    ['a fin through the tailplane', [wing, tail, finAt(-0.05)]],
    ['a fin clear of it', [wing, tail, finAt(0.35)]],
    ['a tailplane on top of the fin', [wing, { ...tail, position: { x: 2, y: 0, z: 0.5 } }, finAt(0)]],
  ] as const;
  const plane = madeSurface('wing', 'horizontal', true, { x: 0, y: 0, z: 0 }, [1, 0.4], 4, { section: '0012' });
  const e = (p: { CL: number; CDi: number }, r: { span: number; area: number }) =>
    p.CL ** 2 / (Math.PI * (r.span ** 2 / r.area) * p.CDi);
  const thick = analyseThick({ surfaces: [plane], alphas: [5 * RAD] }, lookup);
  const thin = analyseLift({ surfaces: [plane], alphas: [5 * RAD], wake: 'stream' }, lookup);
  return [
    ...rows.map(([name, surfaces]): AuditRow => {
      const c = pair([...surfaces]);
      return {
        what: `Static margin by surface panels, ${name}`,
        other: 'lattice with slender bodies',
        independent: c.lattice.margin,
        ours: c.panels.margin,
        band: 0.03,
        absolute: true,
        sure: 'thickness moves it by about 0.01',
      };
    }),
    {
      what: 'Span efficiency by surface panels, tapered wing',
      other: 'lattice, Trefftz plane',
      independent: e(thin.points[0], thin.reference),
      ours: e(thick.points[0], thick.reference),
      band: 0.012,
      sure: 'both converged to 0.5 %',
    },
  ];
}

/** A fin on a tailplane at the usual strips and at many. */
function finOnTail(): AuditRow[] {
  const side = (spanwise: number) => {
    const l = makeLattice(
      { surfaces: [wing, tail, finAt(0.1)], spread: { chordwise: 6, spanwise, spacing: 'cosine' } },
      lineOf,
    );
    const [a, b] = [0.01, -0.01].map((sideslip) => l.at({ alpha: 0.03, sideslip }));
    return { CY: (a.CY - b.CY) / 0.02, Cn: (a.Cn - b.Cn) / 0.02 };
  };
  const [few, many] = [side(24), side(90)];
  return (['CY', 'Cn'] as const).map((key) => ({
    what: `${key} with sideslip, a fin on a tailplane, 24 strips`,
    other: '90 strips',
    independent: many[key],
    ours: few[key],
    band: 0.01,
    sure: 'its own limit',
  }));
}

/** Small motions beside a flight of the same model. */
function thrust(): AuditRow[] {
  const items = [
    {
      id: 'm',
      name: 'All',
      mass: 20,
      position: { x: 0.12, y: 0, z: 0 },
      inertia: { Ixx: 9, Iyy: 8, Izz: 16, Ixz: 0.3 },
    },
  ];
  const mass = massProperties(items)!;
  const surfaces = [wing, { ...tail, controls: [elevator] }, finAt(0.1)];
  const lattice = makeLattice({ surfaces, about: mass.centre }, lineOf);
  const source = latticeSource(lattice, { surfaces, bodies: [], lineOf }, () => 0.025);
  const [speed, height] = [22, 100];
  const flow = flowState(speed, height);
  const tables = aeroTables(source, speed);
  const line = { position: { x: -0.5, y: 0, z: 0.15 }, pitchDeg: 2 };
  return [
    { kind: 'constant', thrust: 40, ...line },
    { kind: 'power', power: 900, ...line },
    { kind: 'motor', propeller: { diameter: 0.5, pitch: 0.35 }, kv: 400, resistance: 0.03, voltage: 22, ...line },
  ].flatMap((given): AuditRow[] => {
    const engine = engineSchema.parse(given);
    const own = powered(source, engine, flow, 20 * GRAVITY);
    const trim = trimLevel(own.source, flow, 20 * GRAVITY, own.flight);
    const { throttle: _, ...push } = thrustOf(own, source.centre, trim, flow);
    const moving = airframeCase(own.source, mass, trim, airframeDerivatives(own.source, trim, flow), flow);
    const phugoid = motionOf({ ...moving, ...push }).modes.find((m) => m.name === 'phugoid')!;
    const flown = (u: number) => {
      const scenario = scenarioSchema.parse({
        launch: { kind: 'flight', speed, height, disturbance: { u } },
        duration: 40,
        record: 0.1,
        engine,
        tolerance: 1e-9,
      });
      const f = fly(scenario, flownVehicle(items, {}, tables, scenario));
      return f.series[f.columns.indexOf('V')];
    };
    const [still, moved] = [flown(0), flown(0.02)];
    const x = moved.map((v, i) => v - still[i]).slice(40);
    const { re, im } = seriesRoot(x, 0.1)!;
    const name =
      engine.kind === 'motor' ? 'motor and propeller' : engine.kind === 'power' ? 'constant power' : 'constant thrust';
    const row = (what: string, independent: number, ours: number): AuditRow => ({
      what: `${what} of the phugoid, ${name}`,
      other: 'flight of the same model',
      independent,
      ours,
      band: 0.02,
      sure: 'non-linear, 40 s',
    });
    return [row('Damping ratio', -re / Math.hypot(re, im), phugoid.dampingRatio), row('Frequency', im, phugoid.im)];
  });
}

/** Turning of turbulent air beside the integral of its spectrum. */
function gusts(): AuditRow[] {
  const [span, v, height] = [1.5, 30, 100];
  const s = turbulenceScales(height, 15);
  const air = new TurbulentAir({ windAt6m: 15, seed: 5 }, span);
  const sums = [0, 0];
  const count = 200_000;
  for (let i = 0; i < count; i++) {
    air.next(0.02, v, height);
    [1, 2].forEach((k) => (sums[k - 1] += air.turning[k] ** 2));
  }
  const variance = (sigma: number, length: number, smooth: number) => {
    let sum = 0;
    const h = 0.005;
    for (let u = Math.log(1e-4); u < Math.log(1e5); u += h) {
      const w = Math.exp(u);
      const t = ((length / v) * w) ** 2;
      const speed = ((sigma ** 2 * length) / (Math.PI * v)) * ((1 + 3 * t) / (1 + t) ** 2);
      sum += (((w / v) ** 2 * speed) / (1 + ((smooth * w) / v) ** 2)) * w * h;
    }
    return sum;
  };
  const wide = (4 * span) / Math.PI;
  return [
    ['pitch', variance(s.up, s.lengthUp, wide)] as const,
    ['yaw', variance(s.along, s.lengthAlong, 0.75 * wide)] as const,
  ].map(([name, independent], k) => ({
    what: `Variance of gusts in ${name}, span 1.5 m at 30 m/s`,
    other: 'integral of the spectrum',
    independent,
    ours: sums[k] / count,
    band: 0.03,
    sure: '200 000 samples: about 1 %',
  }));
}

/** Hinge moments of sections at 2° with a flap of 20 % at 4°, on stream pressure and the flap's chord squared. */
async function hingeMoments() {
  const flap = { x: 0.8, y: 0.5, angleDeg: 4 };
  const { perAngle, perDeflection } = thinHingeSlopes(flap.x);
  const theory = (2 * perAngle + flap.angleDeg * perDeflection) * RAD;
  const inviscid = (designation: string) => {
    const { outline, hinge } = flappedOutline({ kind: 'designation', designation, trailingEdge: 'sharp' }, flap);
    const section = new InviscidSection(outline, { ...DEFAULT_SPREAD, panels: 320 });
    const { cp } = section.at(2 * RAD);
    const { x, y } = section.nodes;
    let moment = 0;
    for (let i = 0; i + 1 < x.length; i++) {
      const [mx, my] = [0.5 * (x[i] + x[i + 1]), 0.5 * (y[i] + y[i + 1])];
      if (mx <= hinge!.x) continue;
      const [dx, dy] = [x[i + 1] - x[i], y[i + 1] - y[i]];
      moment -= 0.5 * (cp[i] + cp[i + 1]) * ((mx - hinge!.x) * dx + (my - hinge!.y) * dy);
    }
    return moment / (1 - hinge!.x) ** 2;
  };
  const viscous = async (designation: string) => {
    const [point] = await runAnalysis('polar', {
      source: { kind: 'designation', designation, trailingEdge: 'published' },
      flap,
      kind: 'fixed-re',
      spread: DEFAULT_SPREAD,
      conditions: { reynolds: 1e7 },
      alphas: [2 * RAD],
    });
    return isSolved(point) ? point.hinge!.momentOnFlapChord : NaN;
  };
  const thick = ['0003', '0006', '0012'];
  return { theory, thick, inviscid: thick.map(inviscid), viscous: await Promise.all(thick.map(viscous)) };
}

function hinges({ theory, inviscid: [a, b] }: Awaited<ReturnType<typeof hingeMoments>>): AuditRow[] {
  return [
    {
      what: 'Hinge moment at 2°, flap of 20 % at 4°: no viscosity, drawn back to no thickness',
      other: 'thin-section theory',
      independent: theory,
      ours: 2 * a - b,
      band: 0.06,
      sure: 'closed form',
    },
  ];
}

/** A propeller that has hardly any drag beside the ideal one. */
function propeller(): AuditRow[] {
  const fine = pitchedPropeller(
    { diameter: 0.5, pitch: 0.35, blades: 12, solidity: 0.06 },
    { zeroLift: -0.06, slope: 5.8, clMax: 1.3, cdMin: 0, cdGrowth: 0, clOfLeastDrag: 0.4 },
  );
  const q = propellerAt(fine, 0.45, 100);
  const [T, P] = [q.CT * 1.2 * 1e4 * 0.5 ** 4, q.CP * 1.2 * 1e6 * 0.5 ** 5];
  return [
    {
      what: 'Power of 12 blades without drag, W',
      other: 'actuator disc of that thrust',
      independent: propellerPower(T, 0.5, 1.2, 22.5),
      ours: P,
      band: 0.08,
      sure: 'a bound from below: swirl and uneven load come on top',
    },
  ];
}

const auditRows = (moments: Awaited<ReturnType<typeof hingeMoments>>): AuditRow[] => [
  ...margins(),
  ...panels(),
  ...finOnTail(),
  ...thrust(),
  ...gusts(),
  ...hinges(moments),
  ...propeller(),
  ...leaning(),
  ...nearGround(),
];

/** Whether a row lies in its band. */
export const inBand = (r: AuditRow): boolean => {
  const off = Math.abs(r.ours - r.independent);
  return off <= (r.absolute ? r.band : r.band * Math.abs(r.independent));
};

/** The chapter, and what left its band. */
export async function auditChapter(): Promise<{ lines: string[]; failed: AuditRow[] }> {
  const moments = await hingeMoments();
  const rows = [...auditRows(moments), ...(await turnedFar())];
  const show = (v: number) => Number(v.toPrecision(5)).toString().replace('-', '−');
  return {
    lines: [
      '## Two ways to one figure',
      '',
      'Each figure of the program beside the same by a way that shares as little with it as can be. A row that leaves its band fails `npm run validate`.',
      '',
      '| figure | the other way | its figure | ours | difference | band | how sure the other is |',
      '|---|---|---|---|---|---|---|',
      ...rows.map((r) => {
        const off = r.ours - r.independent;
        const told = r.absolute ? show(off) : `${(100 * (off / r.independent)).toFixed(2).replace('-', '−')} %`;
        const band = r.absolute
          ? String(r.band)
          : r.band < 1e-6
            ? 'equal'
            : `${Number((100 * r.band).toPrecision(3))} %`;
        return `| ${r.what} | ${r.other} | ${show(r.independent)} | ${show(r.ours)} | ${told}${inBand(r) ? '' : ' **outside**'} | ${band} | ${r.sure} |`;
      }),
      '',
      'Where the hinge moment of a real section goes: without viscosity, drawn back to no thickness, it is that of thin-section theory; thickness takes its part of it, and boundary layers, which thicken toward the edge, theirs.',
      '',
      '| section | thin-section theory | without viscosity | with, Re 10⁷ |',
      '|---|---|---|---|',
      ...moments.thick.map(
        (name, k) =>
          `| ${name} | ${show(moments.theory)} | ${show(moments.inviscid[k])} | ${show(moments.viscous[k])} |`,
      ),
      '',
    ],
    failed: rows.filter((r) => !inBand(r)),
  };
}
