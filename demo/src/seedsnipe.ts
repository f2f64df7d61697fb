import { readFileSync } from 'node:fs';
import { energySchema } from '@veldtwind/core/performance';
import { engineSchema } from '@veldtwind/core/propulsion';
import {
  designationSection,
  freshSweep,
  readDocument,
  SCHEMA_VERSION,
  type CandidatePart,
  type OriginalPart,
  type ProjectDocument,
  type SectionPart,
} from '@veldtwind/core/project';
import type { Control } from '@veldtwind/core/airframe';
import { readResponseRecord } from '@veldtwind/core/estimation';
import { writeCoordinates } from '@veldtwind/core/formats';

/** Spekboom 11: drawn by us as a class function times Bernstein polynomials, upper and lower surface apart. */
function spekboom(): SectionPart {
  const surface = (weights: number[], x: number) => {
    const n = weights.length - 1;
    const choose = [1, 4, 6, 4, 1];
    let sum = 0;
    for (let i = 0; i <= n; i++) sum += weights[i] * choose[i] * x ** i * (1 - x) ** (n - i);
    return Math.sqrt(x) * (1 - x) * sum;
  };
  const upper = [0.168, 0.262, 0.214, 0.262, 0.232];
  const lower = [-0.128, -0.058, -0.082, 0.012, 0.024];
  const half = 60;
  const points: [number, number][] = [];
  for (let i = 0; i <= 2 * half; i++) {
    const x = 0.5 * (1 + Math.cos((Math.PI * i) / half));
    const y = i <= half ? surface(upper, x) + 0.0008 * x : surface(lower, x) - 0.0008 * x;
    points.push([Number(x.toFixed(7)), Number(y.toFixed(7))]);
  }
  return {
    id: 'spekboom-11',
    name: 'Spekboom 11',
    source: { kind: 'coordinates', points },
    note: 'Drawn for the drooped tip of Longreach: loaded aft, gentle at the nose.',
    steps: [],
    tags: ['drooped tip'],
    fileName: 'spekboom-11.txt',
  };
}

/** The file that Spekboom 11 was read from. */
function spekboomText(): OriginalPart {
  const { id, name, source } = spekboom();
  if (source.kind !== 'coordinates') throw new Error('Spekboom 11 comes from points.');
  return { id, fileName: 'spekboom-11.txt', text: writeCoordinates(name, source.points, 7) };
}

const sections: SectionPart[] = [
  designationSection(
    'karoo-14',
    'Karoo 14',
    '2414',
    'published',
    'Root section: thick enough for the seed hopper’s beam.',
  ),
  designationSection('karoo-12', 'Karoo 12', '2312', 'published', 'Tip section of the plain wing.'),
  spekboom(),
  designationSection('sedge-9', 'Sedge 9', '0009', 'sharp', 'Symmetric, for tail and fin.'),
  designationSection('thorn-11', 'Thorn 11', '23111', 'published', 'Reflexed; tried for its small moment, not used.'),
];

interface Shape {
  id: string;
  letter: string;
  name: string;
  note: string;
  style: number;
  half: number[];
  chords: number[];
  twists: number[];
  sectionIds: string[];
  sweep: number[];
  dihedral: number[];
  incidence: number;
  tailX: number;
  tailSpan: number;
  tailIncidence: number;
  hopperX: number;
  /** Shares of the half span. */
  flap: [number, number];
  aileron: [number, number];
  /** The station through which the edges run on in line with the bay inboard. */
  blended?: number;
}

const inLine = () => ({ run: 'inboard' as const, reach: 0.4 });
const control = (
  id: string,
  name: string,
  [from, to]: [number, number],
  hinge: number,
  kind: Control['kind'],
  limitsDeg: [number, number],
): Control => ({ id, name, from, to, hinge, kind, deflectionDeg: 0, limitsDeg });

/** A cross-section of a body. */
const section = (x: number, width: number, height: number, z = 0) => ({
  x,
  width,
  height,
  z,
  shape: 'ellipse' as const,
  corner: 0.3,
});

function candidate(s: Shape): CandidatePart {
  const tail = { chord: 0.3, tip: 0.22 };
  return {
    id: s.id,
    letter: s.letter,
    name: s.name,
    note: s.note,
    style: s.style,
    surfaces: [
      {
        id: 'wing',
        name: 'Wing',
        role: 'wing',
        plane: 'horizontal',
        mirrored: true,
        position: { x: 0.44, y: 0, z: 0.12 },
        incidenceDeg: s.incidence,
        stations: s.chords.map((chord, i) => ({
          chord,
          twistDeg: s.twists[i],
          section: s.sectionIds[i],
          ...(s.blended === i ? { edges: { leading: inLine(), trailing: inLine() } } : {}),
        })),
        bays: s.half.map((span, i) => ({ span, sweepDeg: s.sweep[i], dihedralDeg: s.dihedral[i] })),
        controls: [
          control('flap', 'Flap', s.flap, 0.75, 'symmetric', [-5, 40]),
          control('aileron', 'Aileron', s.aileron, 0.75, 'opposed', [-20, 20]),
        ],
      },
      {
        id: 'tailplane',
        name: 'Tailplane',
        role: 'tailplane',
        plane: 'horizontal',
        mirrored: true,
        position: { x: s.tailX, y: 0, z: 0.02 },
        incidenceDeg: s.tailIncidence,
        stations: [
          { chord: tail.chord, twistDeg: 0, section: 'sedge-9' },
          { chord: tail.tip, twistDeg: 0, section: 'sedge-9' },
        ],
        bays: [{ span: s.tailSpan / 2, sweepDeg: 6, dihedralDeg: 0 }],
        controls: [control('elevator', 'Elevator', [0, 1], 0.65, 'symmetric', [-25, 20])],
      },
      {
        id: 'fin',
        name: 'Fin',
        role: 'fin',
        plane: 'vertical',
        mirrored: false,
        position: { x: s.tailX - 0.06, y: 0, z: 0.04 },
        incidenceDeg: 0,
        stations: [
          { chord: 0.36, twistDeg: 0, section: 'sedge-9' },
          { chord: 0.2, twistDeg: 0, section: 'sedge-9' },
        ],
        bays: [{ span: 0.48, sweepDeg: 22, dihedralDeg: 0 }],
        controls: [control('rudder', 'Rudder', [0, 1], 0.6, 'symmetric', [-25, 25])],
      },
    ],
    massItems: [
      {
        id: 'pod',
        name: 'Pod and avionics',
        mass: 5.6,
        position: { x: 0.5, y: 0, z: 0 },
        shape: 'box',
        size: { x: 0.9, y: 0.2, z: 0.18 },
      },
      {
        id: 'hopper',
        name: 'Seed hopper, full',
        mass: 8,
        position: { x: s.hopperX, y: 0, z: -0.06 },
        shape: 'box',
        size: { x: 0.36, y: 0.2, z: 0.18 },
      },
      {
        id: 'wing',
        name: 'Wing',
        mass: 4.9,
        position: { x: 0.6, y: 0, z: 0.13 },
        shape: 'plate',
        size: { x: 0.25, y: 1.6 * s.half.reduce((a, b) => a + b, 0) },
      },
      {
        id: 'motor',
        name: 'Pusher motor',
        mass: 2.3,
        position: { x: 1.02, y: 0, z: 0.08 },
        shape: 'cylinder',
        size: { x: 0.08, y: 0.1 },
      },
      { id: 'battery', name: 'Battery', mass: 2.2, position: { x: 0.28, y: 0, z: -0.02 } },
      {
        id: 'booms',
        name: 'Booms and tail',
        mass: 1,
        position: { x: 1.9, y: 0, z: 0.04 },
        shape: 'box',
        size: { x: 1.2, y: 0.5, z: 0.1 },
      },
    ],
    bodies: [
      {
        id: 'pod',
        name: 'Pod',
        mirrored: false,
        position: { x: 0.06, y: 0, z: 0 },
        loft: 'smooth',
        stations: [
          section(0, 0, 0),
          section(0.14, 0.17, 0.16),
          section(0.42, 0.23, 0.25, 0.005),
          section(0.72, 0.22, 0.24, 0.01),
          section(0.98, 0.09, 0.1, 0.06),
        ],
      },
      {
        id: 'boom',
        name: 'Booms',
        mirrored: true,
        position: { x: 0.66, y: 0.26, z: 0.11 },
        loft: 'straight',
        stations: [section(0, 0.012, 0.012), section(0.06, 0.04, 0.04), section(s.tailX - 0.4, 0.026, 0.026, -0.08)],
      },
    ],
    drag: {
      law: 'log-power',
      surfaceForm: 'thickness',
      bodyForm: 'fineness',
      joints: 'usual',
      allowances: [
        { name: 'Gaps and hinges', kind: 'share', amount: 0.06, reason: 'flaps and ailerons without seals' },
        { name: 'Hopper door', kind: 'counts', amount: 9, reason: 'a slot across the pod' },
        { name: 'Antenna', kind: 'area', amount: 0.0011, reason: 'a rod of 6 mm by 180 mm' },
        { name: 'Reserve', kind: 'reserve', amount: 0.08, reason: 'what nobody has thought of' },
      ],
      parts: {},
    },
    autopilot: {
      step: 0.02,
      delay: 0.01,
      sensorLag: 0,
      aims: { gainMarginDb: 6, phaseMarginDeg: 45 },
      chains: [
        {
          id: 'pitch',
          name: 'Pitch',
          to: 'elevator',
          mover: { timeConstant: 0.05, rateDeg: 300 },
          laws: [
            { from: 'q', kp: 0.1, ki: 1.2, kd: 0, sign: -1 },
            { from: 'theta', kp: 4, ki: 0, kd: 0, sign: 1, limits: [-0.8, 0.8] },
            { from: 'height', kp: 0.012, ki: 0.0008, kd: 0, sign: 1, limits: [-0.2, 0.25] },
          ],
        },
        {
          id: 'roll',
          name: 'Roll',
          to: 'aileron',
          mover: { timeConstant: 0.05, rateDeg: 300 },
          laws: [
            { from: 'p', kp: 0.1, ki: 1, kd: 0, sign: -1 },
            { from: 'phi', kp: 3, ki: 0, kd: 0, sign: 1, limits: [-1.2, 1.2] },
            { from: 'course', kp: 1.2, ki: 0, kd: 0, sign: 1, limits: [-0.7, 0.7] },
          ],
        },
        {
          id: 'yaw',
          name: 'Yaw damper',
          to: 'rudder',
          mover: { timeConstant: 0.05, rateDeg: 300 },
          laws: [{ from: 'rTurn', kp: 0.4, ki: 0, kd: 0, sign: -1 }],
        },
      ],
    },
    energy: energySchema.parse({ kind: 'battery', capacity: 400, usable: 0.8, efficiency: 0.88 }),
    engine: engineSchema.parse({
      kind: 'motor',
      propeller: { diameter: 0.5, pitch: 0.32, solidity: 0.07 },
      kv: 400,
      resistance: 0.015,
      idleCurrent: 2,
      voltage: 25,
      batteryResistance: 0.015,
      position: { x: 1.25, y: 0, z: 0.02 },
    }),
    loadings: { full: {}, 'half seed': { hopper: 0.5 }, empty: { hopper: 0.1 } },
    actuation: {
      flap: { servo: { name: 'Kestrel 55', torque: 1.5, travelDeg: 60, arm: 0.018, horn: 0.022 } },
      aileron: { servo: { name: 'Kestrel 26', torque: 0.8, travelDeg: 50, arm: 0.016, horn: 0.016 } },
      elevator: { servo: { name: 'Kestrel 55', torque: 1.5, travelDeg: 60, arm: 0.016, horn: 0.02, both: true } },
      rudder: { servo: { name: 'Kestrel 26', torque: 0.8, travelDeg: 50, arm: 0.016, horn: 0.016 } },
    },
    settings: [
      { id: 'neutral', name: 'Neutral', deflectionsDeg: {} },
      { id: 'take-off', name: 'Take-off', deflectionsDeg: { flap: 12 } },
      { id: 'landing', name: 'Landing', deflectionsDeg: { flap: 30, elevator: -4 } },
    ],
    reference: null,
    sweep: { ...freshSweep(), fromDeg: -6, toDeg: 18 },
  };
}

/** Records of two flights of candidate A, which `fly-records.ts` writes. */
function flightRecords() {
  const controls = ['Elevator', 'Rudder', 'Aileron'].map((id) => ({ id, name: id }));
  return [
    ['elevator', 'Elevator doublet', 'elevator-doublet.csv'],
    ['elevator-sweep', 'Elevator sweep', 'elevator-sweep.csv'],
    ['rudder-aileron', 'Rudder and aileron', 'rudder-and-aileron.csv'],
  ].map(([id, name, file]) => {
    const record = readResponseRecord(
      readFileSync(new URL(`../flight-records/${file}`, import.meta.url), 'utf8'),
      controls,
    );
    const short = (lists: Record<string, number[]>) =>
      Object.fromEntries(Object.entries(lists).map(([k, v]) => [k, v.map((x) => Number(x.toPrecision(7)))]));
    const { t, notes } = record;
    return {
      ...{ id, name, speed: 26, altitude: 600, climbDeg: 0, t, notes },
      outputs: short(record.outputs as Record<string, number[]>),
      controls: short(record.controls),
    };
  });
}

/** Flights of the demo: off the rail, and once around the strips. */
function scenarios(): ({ id: string } & Record<string, unknown>)[] {
  return [
    {
      id: 'rail',
      name: 'Off the rail',
      note: 'A spring carriage throws it off six metres of rail; the loops take over after a second.',
      scenario: {
        ground: 480,
        launch: { kind: 'rail', length: 6, elevationDeg: 12, height: 0.8 },
        duration: 25,
        throttle: 0.8,
        wind: { speed: 4, fromDeg: 20, shear: { exponent: 0.14, height: 10 } },
        boosts: [
          {
            name: 'carriage',
            thrust: [
              [0, 1500],
              [0.5, 1200],
            ],
            position: { x: 0.7, y: 0, z: -0.03 },
          },
        ],
      },
      loops: { on: true, from: 1, wanted: { height: 60, course: 0, V: 26 }, throttle: true },
    },
    {
      id: 'strips',
      name: 'Around the strips',
      note: 'Two strips 250 m apart, with light turbulence.',
      scenario: {
        ground: 480,
        launch: { kind: 'flight', speed: 26, height: 120 },
        duration: 150,
        record: 0.04,
        turbulence: { windAt6m: 5, seed: 7 },
        waypoints: [
          { name: 'first strip', x: 400, y: 0, height: 120, radius: 30 },
          { name: 'its end', x: 900, y: 0, height: 120, radius: 30 },
          { name: 'second strip', x: 900, y: 250, height: 130, radius: 40 },
          { name: 'home', x: 150, y: 250, height: 130, radius: 40 },
        ],
      },
      loops: { on: true, wanted: { height: 'waypoints', course: 'waypoints', V: 26 }, throttle: true },
    },
  ];
}

/** The demo project: one brief, three candidates. */
/** @param recorded with the flight records, which are made from it. */
export function seedsnipe(recorded = true): { name: string; document: ProjectDocument } {
  const candidates = [
    candidate({
      id: 'a',
      letter: 'A',
      name: 'Straight',
      style: 0,
      note: 'The plain tapered wing that the others are held against.',
      half: [2.4],
      chords: [0.4, 0.25],
      twists: [0, -2.5],
      sectionIds: ['karoo-14', 'karoo-12'],
      sweep: [1.5],
      dihedral: [3],
      incidence: -0.5,
      tailX: 2.34,
      tailSpan: 1.16,
      tailIncidence: -0.8,
      hopperX: 0.79,
      flap: [0.1, 0.52],
      aileron: [0.58, 0.95],
    }),
    candidate({
      id: 'b',
      letter: 'B',
      name: 'Longreach',
      style: 1,
      note: 'More span for range; the tips droop to keep the roll damping of the short wing.',
      half: [2.1, 0.55],
      chords: [0.38, 0.28, 0.18],
      twists: [0, -1.5, -3],
      sectionIds: ['karoo-14', 'karoo-12', 'spekboom-11'],
      sweep: [1, 9],
      dihedral: [3.5, -8],
      incidence: -0.5,
      tailX: 2.4,
      tailSpan: 1.2,
      tailIncidence: -0.5,
      hopperX: 0.82,
      flap: [0.1, 0.48],
      aileron: [0.52, 0.78],
      blended: 1,
    }),
    candidate({
      id: 'c',
      letter: 'C',
      name: 'Short rail',
      style: 2,
      note: 'Less span, so that two fit on a trailer; pays for it in induced drag.',
      half: [2.05],
      chords: [0.44, 0.33],
      twists: [0, -2],
      sectionIds: ['karoo-14', 'karoo-14'],
      sweep: [0.5],
      dihedral: [3],
      incidence: -0.6,
      tailX: 2.3,
      tailSpan: 1.1,
      tailIncidence: -1.4,
      hopperX: 0.67,
      flap: [0.1, 0.62],
      aileron: [0.66, 0.96],
    }),
  ];
  return {
    name: 'Seedsnipe',
    document: readDocument({
      schemaVersion: SCHEMA_VERSION,
      brief: {
        speed: 26,
        altitude: 600,
        mass: 24,
        spanLimit: 5.4,
        climbSpeed: 20,
        stallSpeed: 15,
        bands: {
          trimAngleDeg: { min: 3, max: 5 },
          staticMargin: { min: 0.08, max: 0.18 },
          pitchSlopePerDeg: { min: -0.03, max: -0.008 },
          dampingRatio: { min: 0.04, max: null },
        },
        requirements: [
          { quantity: 'performance.bestGlide', min: 18 },
          { quantity: 'performance.climbRate', min: 4 },
          { quantity: 'climb-rate', min: 2, speed: 32 },
          { quantity: 'motion.dutchRoll.damping', min: 0.08 },
          { quantity: 'performance.endurance', min: 40 },
          { quantity: 'performance.range', min: 60, weight: 'wish' },
          { quantity: 'performance.heaviestMass', min: 40, weight: 'wish' },
          { quantity: 'performance.takeOffRun', max: 60, weight: 'wish' },
        ],
        note: 'Re-seed worn rangeland in strips: 26 m/s at 600 m, 24 kg with seed, launched from a rail, carried on a trailer.',
      },
      sections: Object.fromEntries(sections.map((s) => [s.id, s])),
      candidates: Object.fromEntries(candidates.map((c) => [c.id, c])),
      scenarios: Object.fromEntries(scenarios().map((s) => [s.id, s])),
      flightRecords: recorded ? Object.fromEntries(flightRecords().map((r) => [r.id, r])) : {},
      originals: { 'spekboom-11': spekboomText() },
    }),
  };
}
