import { planformOf, type Body, type Control, type LiftingSurface, type SectionLookup } from '../airframe';
import { estimatedItems, partContent, type MassItem } from '../balance';
import { RAD } from '../numerics';
import { energySchema } from '../performance';
import { freshSweep, type CandidatePart } from '../project';
import { engineSchema } from '../propulsion';
import type { LayoutPlan } from './plans';
import { ELECTRIC_UP_TO, type LayoutNumbers, type LayoutSizes } from './sizes';

/** What is sought until the aircraft balances. */
export interface LayoutState {
  /** Ahead of the wing, m. */ nose: number;
  /** x of payload and of battery or fuel, m. */ payloadX: number;
  energyX: number;
  wingIncidenceDeg: number;
  /** Of what brings trim, degrees. */ trimDeg: number;
  dihedralDeg: number;
  /** Of the fin's area. */ finFactor: number;
}

/** Where the search for balance begins. */
export function startingState(plan: LayoutPlan, sizes: LayoutSizes): LayoutState {
  const nose = plan.nose * sizes.chord;
  return {
    nose,
    payloadX: nose + 0.2 * sizes.chord,
    energyX: 0.5 * nose,
    wingIncidenceDeg: 1,
    trimDeg: plan.trim === 'foreplane' ? 4 : plan.trim === 'washout' ? plan.wing.washoutDeg : -1,
    dihedralDeg: plan.wing.dihedralDeg,
    finFactor: 1,
  };
}

const mm = (v: number) => Number(v.toFixed(4));
const tenth = (v: number) => Number(v.toFixed(2));

/** A surface of two stations. */
function trapezoid(
  of: Pick<LiftingSurface, 'id' | 'name' | 'role' | 'plane' | 'mirrored' | 'position'> & Partial<LiftingSurface>,
  shape: {
    area: number;
    /** Of both sides of a mirrored surface, else of the one. */ span: number;
    taper: number;
    sweepDeg: number;
    dihedralDeg?: number;
    twistDeg?: number;
    section: string;
  },
): LiftingSurface {
  const root = (2 * shape.area) / (shape.span * (1 + shape.taper));
  const station = (chord: number, twistDeg: number) => ({
    chord: mm(chord),
    twistDeg: tenth(twistDeg),
    section: shape.section,
  });
  return {
    incidenceDeg: 0,
    ...of,
    stations: [station(root, 0), station(root * shape.taper, shape.twistDeg ?? 0)],
    bays: [
      {
        span: mm(of.mirrored && of.plane === 'horizontal' ? shape.span / 2 : shape.span),
        sweepDeg: shape.sweepDeg,
        dihedralDeg: tenth(shape.dihedralDeg ?? 0),
      },
    ],
  };
}
const control = (
  id: string,
  name: string,
  from: number,
  to: number,
  hinge: number,
  kind: Control['kind'],
  limit: [number, number],
  deflectionDeg = 0,
): Control => ({ id, name, from, to, hinge, kind, deflectionDeg: tenth(deflectionDeg), limitsDeg: limit });

const TAIL_ASPECT = 4.5;
const FIN_ASPECT = 1.5;
const V_ANGLE_DEG = 36;

/** Sections of a layout by what they are for. */
export interface LayoutSections {
  wing: string;
  tail: string;
}

/** The candidate that a plan comes to at a state. */
export function layoutCandidate(
  plan: LayoutPlan,
  sizes: LayoutSizes,
  numbers: LayoutNumbers,
  sections: LayoutSections,
  state: LayoutState,
  lookup: SectionLookup,
): CandidatePart {
  const surfaces = surfacesOf(plan, sizes, sections, state);
  const bodies = bodiesOf(plan, sizes, state, surfaces);
  return {
    id: 'a',
    letter: 'A',
    name: plan.name,
    note: plan.says,
    style: 0,
    surfaces,
    bodies,
    massItems: itemsOf(plan, sizes, numbers, state, surfaces, bodies, lookup),
    reference: null,
    sweep: { ...freshSweep(), fromDeg: -6, toDeg: 14 },
    ...engineOf(plan, sizes, numbers, bodies),
  };
}

function surfacesOf(
  plan: LayoutPlan,
  sizes: LayoutSizes,
  sections: LayoutSections,
  state: LayoutState,
): LiftingSurface[] {
  const { area, span, chord } = sizes;
  const { taper, sweepDeg, washoutDeg, height } = plan.wing;
  const washout = plan.trim === 'washout' ? state.trimDeg : washoutDeg;
  const tailless = plan.tail === 'tip-fins' || (plan.tail === 'body-fin' && !plan.second);
  const z = 0.42 * height * sizes.body;
  const wingControls = tailless
    ? [
        control(
          'elevator',
          'Elevator',
          0.12,
          0.5,
          0.75,
          'symmetric',
          [-25, 20],
          plan.trim === 'elevator' ? state.trimDeg : 0,
        ),
        control('aileron', 'Aileron', 0.55, 0.95, 0.75, 'opposed', [-20, 20]),
      ]
    : [
        control('flap', 'Flap', 0.12, 0.55, 0.75, 'symmetric', [-5, 35]),
        control('aileron', 'Aileron', 0.6, 0.95, 0.75, 'opposed', [-20, 20]),
      ];
  const wing = trapezoid(
    {
      id: 'wing',
      name: plan.second ? (plan.second === 'behind' ? 'Front wing' : 'Lower wing') : 'Wing',
      role: 'wing',
      plane: 'horizontal',
      mirrored: true,
      position: { x: mm(state.nose), y: 0, z: mm(z) },
      incidenceDeg: tenth(state.wingIncidenceDeg),
      controls: wingControls,
    },
    { area, span, taper, sweepDeg, dihedralDeg: state.dihedralDeg, twistDeg: washout, section: sections.wing },
  );
  const out = [wing];
  const quarter = planformOf(wing).mac.chord * 0.25 + macX(wing);
  if (plan.second) {
    const behind = plan.second === 'behind';
    const second: LiftingSurface = {
      ...trapezoid(
        {
          id: 'wing-2',
          name: behind ? 'Rear wing' : 'Upper wing',
          role: 'wing',
          plane: 'horizontal',
          mirrored: true,
          position: {
            x: mm(state.nose + (behind ? plan.arm * chord : -0.2 * chord)),
            y: 0,
            z: mm(behind ? -0.3 * sizes.body : z + Math.max(0.95 * chord, 1.1 * sizes.body)),
          },
          incidenceDeg: tenth(state.wingIncidenceDeg + (behind ? state.trimDeg : 0)),
        },
        { area, span, taper, sweepDeg, dihedralDeg: state.dihedralDeg, twistDeg: washout, section: sections.wing },
      ),
    };
    if (behind) {
      // The elevator of a tandem is at the front, where it does not stall the rear wing.
      wing.controls = [control('elevator', 'Elevator', 0.12, 0.6, 0.75, 'symmetric', [-20, 20])];
      second.controls = [control('aileron', 'Aileron', 0.5, 0.95, 0.75, 'opposed', [-20, 20])];
    }
    out.push(second);
  }
  const wholeArea = area * (plan.second ? 2 : 1);
  const arm = plan.arm * chord;
  const elevator = control('elevator', 'Elevator', 0, 1, 0.65, 'symmetric', [-25, 20]);
  const rudder = control('rudder', 'Rudder', 0, 1, 0.6, 'symmetric', [-25, 25]);
  const tailArea = plan.tailVolume > 0 ? (plan.tailVolume * wholeArea * chord) / arm : 0;
  const tipArm =
    plan.tail === 'tip-fins' || plan.tail === 'foreplane' ? 0.5 * span * Math.tan(sweepDeg * RAD) + 0.1 * chord : arm;
  const finArea = ((plan.finVolume * wholeArea * span) / tipArm) * state.finFactor;
  const tailSection = sections.tail;
  /** A tailplane whose quarter chord lies at the arm, by the same estimate as the wing's. */
  const rootX = (at: number, rootChord: number) => mm(quarter + at - 0.25 * rootChord);
  const tailSpan = Math.sqrt(TAIL_ASPECT * tailArea);
  if (plan.tail === 'v') {
    // Areas of both, turned by the angle at which their projections are those wanted.
    const whole = tailArea + finArea;
    const b = Math.sqrt(TAIL_ASPECT * whole);
    const cos = Math.cos(V_ANGLE_DEG * RAD);
    out.push(
      trapezoid(
        {
          id: 'v-tail',
          name: 'V-tail',
          role: 'tailplane',
          plane: 'horizontal',
          mirrored: true,
          position: { x: rootX(arm, (1.15 * whole) / b), y: 0, z: mm(0.05 * sizes.body) },
          incidenceDeg: tenth(state.trimDeg),
          controls: [
            control('elevator', 'Elevator', 0, 0.5, 0.65, 'symmetric', [-25, 20]),
            control('rudder', 'Rudder', 0.5, 1, 0.65, 'opposed', [-25, 25]),
          ],
        },
        { area: whole * cos, span: b * cos, taper: 0.7, sweepDeg: 6, dihedralDeg: V_ANGLE_DEG, section: tailSection },
      ),
    );
    return out;
  }
  if (plan.tail === 'low' || plan.tail === 'booms')
    out.push(
      trapezoid(
        {
          id: 'tailplane',
          name: 'Tailplane',
          role: 'tailplane',
          plane: 'horizontal',
          mirrored: true,
          position: {
            x: rootX(arm, (1.15 * tailArea) / tailSpan),
            y: 0,
            z: mm(plan.tail === 'booms' ? z : 0.05 * sizes.body),
          },
          incidenceDeg: tenth(state.trimDeg),
          controls: [elevator],
        },
        {
          area: tailArea,
          span: tailSpan,
          taper: plan.tail === 'booms' ? 1 : 0.75,
          sweepDeg: plan.tail === 'booms' ? 0 : 5,
          section: tailSection,
        },
      ),
    );
  if (plan.tail === 'foreplane') {
    const foreSpan = Math.sqrt(7 * tailArea);
    out.push(
      trapezoid(
        {
          id: 'foreplane',
          name: 'Foreplane',
          role: 'foreplane',
          plane: 'horizontal',
          mirrored: true,
          position: { x: rootX(-arm, (1.1 * tailArea) / foreSpan), y: 0, z: mm(-0.4 * sizes.body) },
          incidenceDeg: tenth(state.trimDeg),
          controls: [control('elevator', 'Elevator', 0.1, 1, 0.7, 'symmetric', [-20, 25])],
        },
        { area: tailArea, span: foreSpan, taper: 0.8, sweepDeg: 3, section: sections.wing },
      ),
    );
  }
  const twoFins = plan.tail === 'tip-fins' || plan.tail === 'foreplane' || plan.tail === 'booms';
  const each = twoFins ? finArea / 2 : finArea;
  const finSpan = Math.sqrt(FIN_ASPECT * each);
  const finRoot = (2 * each) / (finSpan * 1.6);
  const finSweep = 20;
  const onTip = plan.tail === 'tip-fins' || plan.tail === 'foreplane';
  const tailHalf = tailSpan / 2;
  const fin = trapezoid(
    {
      id: 'fin',
      name: twoFins ? 'Fins' : 'Fin',
      role: 'fin',
      plane: 'vertical',
      mirrored: twoFins,
      position: onTip
        ? { x: 0, y: 0, z: 0 }
        : {
            x: rootX(arm - 0.15 * finRoot, finRoot),
            y: plan.tail === 'booms' ? mm(tailHalf) : 0,
            z: mm(plan.tail === 'booms' ? z : 0.08 * sizes.body),
          },
      ...(onTip ? { attachedTo: { surface: 'wing', share: 1, chord: 0.1 } } : {}),
      controls: [rudder],
    },
    { area: each, span: finSpan, taper: 0.6, sweepDeg: finSweep, section: tailSection },
  );
  out.push(fin);
  if (plan.tail === 't')
    out.push(
      trapezoid(
        {
          id: 'tailplane',
          name: 'Tailplane',
          role: 'tailplane',
          plane: 'horizontal',
          mirrored: true,
          position: { x: 0, y: 0, z: 0 },
          attachedTo: { surface: 'fin', share: 1, chord: 0 },
          incidenceDeg: tenth(state.trimDeg),
          controls: [elevator],
        },
        { area: tailArea, span: tailSpan, taper: 0.75, sweepDeg: 5, section: tailSection },
      ),
    );
  return out;
}

/** x of the leading edge of a wing's mean aerodynamic chord, by its sweep. */
function macX(wing: LiftingSurface): number {
  const { mac } = planformOf(wing);
  const [root] = wing.stations;
  const [bay] = wing.bays;
  // The chord lies where the taper has come to its length.
  const tip = wing.stations[1].chord;
  const share = root.chord === tip ? 0.5 : (root.chord - mac.chord) / (root.chord - tip);
  return wing.position.x + 0.25 * (root.chord - mac.chord) + share * bay.span * Math.tan(bay.sweepDeg * RAD);
}

const ring = (x: number, size: number, z = 0): Body['stations'][number] => ({
  x: mm(x),
  width: mm(0.9 * size),
  height: mm(size),
  z: mm(z),
  shape: 'ellipse',
  corner: 0.3,
});

function bodiesOf(plan: LayoutPlan, sizes: LayoutSizes, state: LayoutState, surfaces: LiftingSurface[]): Body[] {
  const { chord, body } = sizes;
  const root = surfaces[0].stations[0].chord;
  const tailEnd = plan.arm * chord + state.nose + 0.25 * root + 0.7 * chord * (plan.second === 'behind' ? 1.6 : 0.8);
  const podEnd = state.nose + root * (plan.body === 'pod-and-boom' ? 1.15 : plan.tail === 'foreplane' ? 1.35 : 1.25);
  const place = { x: 0, y: 0, z: 0 };
  if (plan.body === 'fuselage') {
    const cabin = state.nose + root;
    return [
      {
        id: 'body',
        name: 'Fuselage',
        mirrored: false,
        position: place,
        loft: 'smooth',
        stations: [
          ring(0, plan.engine === 'nose' ? 0.35 * body : 0),
          ring(0.2 * state.nose, 0.72 * body),
          ring(0.6 * state.nose, body),
          ring(cabin, 0.92 * body),
          ring(tailEnd, 0.2 * body, 0.08 * body),
        ],
      },
    ];
  }
  const pod: Body = {
    id: 'body',
    name: 'Pod',
    mirrored: false,
    position: place,
    loft: 'smooth',
    stations: [
      ring(0, 0),
      ring(0.18 * state.nose, 0.65 * body),
      ring(0.55 * state.nose, body),
      ring(state.nose + 0.5 * root, 0.9 * body),
      ring(podEnd, 0.3 * body),
    ],
  };
  const boomFrom = state.nose + 0.4 * root;
  const boom = (y: number, z: number): Body => ({
    id: 'boom',
    name: y > 0 ? 'Booms' : 'Boom',
    mirrored: y > 0,
    position: { x: mm(boomFrom), y: mm(y), z: mm(z) },
    loft: 'straight',
    stations: [ring(0, 0.22 * body), ring(tailEnd - boomFrom, 0.12 * body)],
  });
  if (plan.body === 'pod-and-boom') return [pod, boom(0, 0)];
  if (plan.tail === 'booms') {
    const fin = surfaces.find((s) => s.id === 'fin');
    return [pod, boom(fin?.position.y ?? chord, fin?.position.z ?? 0)];
  }
  return [pod];
}

/** x of the places that may hold a payload, m. */
export const roomOf = (plan: LayoutPlan, state: LayoutState, chord: number): [number, number] => [
  0.12 * state.nose,
  state.nose + (plan.second === 'behind' ? plan.arm : plan.tail === 'tip-fins' ? 1.3 : 0.9) * chord,
];

function itemsOf(
  plan: LayoutPlan,
  sizes: LayoutSizes,
  numbers: LayoutNumbers,
  state: LayoutState,
  surfaces: LiftingSurface[],
  bodies: Body[],
  lookup: SectionLookup,
): MassItem[] {
  const { masses, body, chord } = sizes;
  const skins = [...surfaces, ...bodies].reduce(
    (sum, p) => sum + (partContent(p.id, 'skin', surfaces, bodies, lookup) ?? 0),
    0,
  );
  const structure = estimatedItems(surfaces, bodies, lookup, {
    skin: masses.structure / skins,
    solid: 0,
    rib: 0,
    ribSpacing: 0.1,
  });
  const long = 0.35 * chord;
  const box = (id: string, name: string, mass: number, x: number): MassItem => ({
    id,
    name,
    mass: Number(mass.toPrecision(4)),
    position: { x: mm(x), y: 0, z: 0 },
    shape: 'box',
    size: { x: mm(long), y: mm(0.5 * body), z: mm(0.5 * body) },
  });
  const out: MassItem[] = [...structure, box('equipment', 'Equipment', masses.equipment, 0.6 * state.nose)];
  if (masses.engine > 0)
    out.push({
      id: 'engine',
      name:
        plan.pushedBy === 'thrust'
          ? 'Jet engine'
          : numbers.push <= ELECTRIC_UP_TO
            ? 'Motor and propeller'
            : 'Engine and propeller',
      mass: Number(masses.engine.toPrecision(4)),
      position: engineAt(plan, bodies),
    });
  const battery = plan.pushedBy === 'none' || (plan.pushedBy === 'power' && numbers.push <= ELECTRIC_UP_TO);
  out.push(box('energy', battery ? 'Battery' : 'Fuel', masses.energy, state.energyX));
  const sum = out.reduce((m, i) => m + i.mass, 0);
  out.push(
    box('payload', plan.pushedBy === 'none' ? 'Ballast and payload' : 'Payload', numbers.mass - sum, state.payloadX),
  );
  return out;
}

function engineAt(plan: LayoutPlan, [body]: Body[]): { x: number; y: number; z: number } {
  const last = body.stations[body.stations.length - 1];
  const x = plan.engine === 'nose' ? 0.01 * last.x : plan.engine === 'rear' ? last.x : 0.6 * last.x;
  return { x: mm(x), y: 0, z: mm(plan.engine === 'rear' ? last.z : 0) };
}

function engineOf(
  plan: LayoutPlan,
  sizes: LayoutSizes,
  numbers: LayoutNumbers,
  bodies: Body[],
): Pick<CandidatePart, 'engine' | 'energy'> {
  if (plan.pushedBy === 'none') return { engine: engineSchema.parse({ kind: 'none' }) };
  const position = engineAt(plan, bodies);
  const fuel = (consumption: number, per: 'power' | 'thrust') =>
    energySchema.parse({ kind: 'fuel', mass: Number(sizes.masses.energy.toPrecision(3)), consumption, per });
  if (plan.pushedBy === 'thrust')
    return {
      engine: engineSchema.parse({ kind: 'jet', thrust: numbers.push, position }),
      energy: fuel(0.16, 'thrust'),
    };
  const engine = engineSchema.parse({
    kind: 'power',
    power: numbers.push,
    efficiency: 0.7,
    diameter: Number(sizes.propeller.toPrecision(3)),
    position,
  });
  return {
    engine,
    energy:
      numbers.push <= ELECTRIC_UP_TO
        ? energySchema.parse({ kind: 'battery', capacity: Math.round(170 * sizes.masses.energy) || 1 })
        : fuel(0.32, 'power'),
  };
}
