import { limitBroken, shownValue, type FieldLimit } from '../limits';
import { factorise, InvalidInput, RAD, solveFactorised, VeldtwindError } from '../numerics';
import { dihedralsOf, stationLines } from './placement';
import { planformOf } from './planform';
import type { LiftingSurface } from './types';

/** The dimensions of a surface, or of one of its bays, of which four can be held and the others follow. */
export const DIMENSION_NAMES = [
  'span',
  'area',
  'aspectRatio',
  'taper',
  'rootChord',
  'tipChord',
  'meanChord',
  'sweepLeading',
  'sweepTrailing',
] as const;
export type DimensionName = (typeof DIMENSION_NAMES)[number];
/** Numbers that settle an outline of straight edges. */
export const MOST_HELD = 4;
/** What is held where nothing else was chosen. */
export const USUALLY_HELD: readonly DimensionName[] = ['span', 'rootChord', 'tipChord', 'sweepLeading'];

const positive = (label: string, dimension: FieldLimit['dimension'], step: number, max: number): FieldLimit => ({
  label,
  dimension,
  min: 0,
  max,
  above: { nearest: 0.001 },
  step,
});
const sweep = (label: string): FieldLimit => ({ label, dimension: 'angle', min: -75, max: 75, step: 0.5 });

/** Limits and labels of the dimensions; spans and areas count both sides of a mirrored surface, and one side of a bay. */
export const DIMENSION_LIMITS: Record<DimensionName, FieldLimit> = {
  span: positive('Span', 'length', 0.01, 2000),
  area: positive('Area', 'area', 0.01, 2e6),
  aspectRatio: positive('Aspect ratio', 'plain', 0.1, 1000),
  taper: positive('Taper', 'plain', 0.01, 100),
  rootChord: positive('Inner chord', 'chord', 0.005, 1000),
  tipChord: positive('Outer chord', 'chord', 0.005, 1000),
  meanChord: positive('Mean chord', 'chord', 0.005, 1000),
  sweepLeading: sweep('Leading sweep'),
  sweepTrailing: sweep('Trailing sweep'),
};

/** One bay as a surface of its own, with straight edges. */
function bayAlone(surface: LiftingSurface, bay: number): LiftingSurface {
  const bare = (i: number) => ({ ...surface.stations[i], twistDeg: 0, twistRelative: false, edges: undefined });
  return {
    ...surface,
    mirrored: false,
    position: { x: 0, y: 0, z: 0 },
    attachedTo: undefined,
    incidenceDeg: 0,
    rollDeg: 0,
    yawDeg: 0,
    controls: undefined,
    stations: [bare(bay), bare(bay + 1)],
    bays: [{ ...surface.bays[bay], dihedralDeg: dihedralsOf(surface)[bay], dihedralRelative: false }],
  };
}

/** Values of all dimensions; lengths in m, areas in m², sweeps in degrees. @param bay of that bay alone, one side. */
export function dimensionsOf(surface: LiftingSurface, bay?: number): Record<DimensionName, number> {
  const of = bay === undefined ? surface : bayAlone(surface, bay);
  const plan = planformOf(of);
  const lines = stationLines(of);
  const last = lines.length - 1;
  const across = of.bays.reduce((sum, b) => sum + b.span, 0);
  const slope = (k: 'leading' | 'trailing') => Math.atan((lines[last][k] - lines[0][k]) / across) / RAD;
  return {
    span: plan.span,
    area: plan.area,
    aspectRatio: plan.aspectRatio,
    taper: plan.taper,
    rootChord: of.stations[0].chord,
    tipChord: of.stations[last].chord,
    meanChord: plan.meanChord,
    sweepLeading: slope('leading'),
    sweepTrailing: slope('trailing'),
  };
}

/**
 * A surface drawn wider, deeper, more tapered or more swept: spans times e^a, chords times e^b and e^(c·share of the span), slopes of the leading edge
 * plus d. With one bay these are all the shapes that there are.
 */
function reshaped(surface: LiftingSurface, [a, b, c, d]: readonly number[], bay?: number): LiftingSurface {
  const lines = stationLines(surface);
  const [first, last] = bay === undefined ? [0, surface.bays.length] : [bay, bay + 1];
  const offsets = [0];
  for (let i = first; i < last; i++) offsets.push(offsets[offsets.length - 1] + surface.bays[i].span);
  const total = offsets[offsets.length - 1];
  const stations = surface.stations.map((s, i) =>
    i < first || i > last ? s : { ...s, chord: s.chord * Math.exp(b + (c * offsets[i - first]) / total) },
  );
  const bays = surface.bays.map((own, i) => {
    const touched = i + 1 >= first && i <= last;
    if (!touched) return own;
    const inside = i >= first && i < last;
    const at = own.sweepAt ?? 0.25;
    // Bays beside the one that changes keep their leading edges, so only the sweep of their own line is written anew.
    const slope = (lines[i + 1].leading - lines[i].leading) / own.span + (inside ? d : 0);
    const span = inside ? own.span * Math.exp(a) : own.span;
    const tangent = slope + (at * (stations[i + 1].chord - stations[i].chord)) / span;
    return { ...own, span, sweepDeg: Math.atan(tangent) / RAD };
  });
  return { ...surface, stations, bays };
}

const measure = (name: DimensionName, value: number) =>
  name === 'sweepLeading' || name === 'sweepTrailing' ? Math.tan(value * RAD) : Math.log(value);

const STEP = 1e-5;
/** Rates of the measures of dimensions with the four ways of changing. */
function rates(surface: LiftingSurface, names: readonly DimensionName[], bay?: number): number[][] {
  const at = (k: number, h: number) =>
    dimensionsOf(
      reshaped(
        surface,
        [0, 1, 2, 3].map((i) => (i === k ? h : 0)),
        bay,
      ),
      bay,
    );
  const columns = [0, 1, 2, 3].map((k) => [at(k, STEP), at(k, -STEP)]);
  return names.map((n) => columns.map(([u, v]) => (measure(n, u[n]) - measure(n, v[n])) / (2 * STEP)));
}

/** A bay that is nothing special: tapered, swept. What follows from what is the same for every outline. */
const ANY: LiftingSurface = {
  id: 'any',
  name: '',
  role: 'wing',
  plane: 'horizontal',
  mirrored: true,
  position: { x: 0, y: 0, z: 0 },
  incidenceDeg: 0,
  stations: [0.43, 0.29].map((chord) => ({ chord, twistDeg: 0, section: '' })),
  bays: [{ span: 1.7, sweepDeg: 7, dihedralDeg: 0 }],
};
const anyRates = new Map<DimensionName, number[]>();
function rateOf(name: DimensionName): number[] {
  if (anyRates.size === 0) {
    const rows = rates(ANY, DIMENSION_NAMES);
    DIMENSION_NAMES.forEach((n, i) => anyRates.set(n, rows[i]));
  }
  return anyRates.get(name)!;
}

/** True where dimensions can be held together: none of them follows from the others. */
export function independent(names: readonly DimensionName[]): boolean {
  if (new Set(names).size !== names.length || names.length > MOST_HELD) return false;
  const basis: number[][] = [];
  for (const name of names) {
    const row = rateOf(name);
    const size = Math.hypot(...row);
    let rest = row.map((v) => v / size);
    for (const b of basis) {
      const dot = rest.reduce((sum, v, i) => sum + v * b[i], 0);
      rest = rest.map((v, i) => v - dot * b[i]);
    }
    const left = Math.hypot(...rest);
    if (!(left > 1e-4)) return false;
    basis.push(rest.map((v) => v / left));
  }
  return true;
}

/** What is held of a surface or a bay: as it says, else the usual four. */
export function heldOf(surface: LiftingSurface, bay?: number): DimensionName[] {
  const given = bay === undefined ? surface.held?.surface : surface.held?.bays?.[bay];
  const known = (given ?? []).filter((n): n is DimensionName => (DIMENSION_NAMES as readonly string[]).includes(n));
  return known.length > 0 && independent(known) ? known : [...USUALLY_HELD];
}

/**
 * What is held once a dimension is held too: the one that was held longest gives way, of those that leave an independent set.
 * @returns the new list, the newest last.
 */
export function alsoHeld(surface: LiftingSurface, name: DimensionName, bay?: number): DimensionName[] {
  const held = heldOf(surface, bay);
  if (held.includes(name)) return held;
  if (held.length < MOST_HELD && independent([...held, name])) return [...held, name];
  for (const out of held) {
    const next = [...held.filter((n) => n !== out), name];
    if (independent(next)) return next;
  }
  return held;
}

const MOST_STEPS = 40;

/** Solves for the shape with a dimension at a value and those that are held as they are; undefined where it is not reached. */
function solved(
  surface: LiftingSurface,
  wanted: ReadonlyMap<DimensionName, number>,
  bay?: number,
): LiftingSurface | undefined {
  const names = [...wanted.keys()];
  let shape = surface;
  for (let step = 0; step < MOST_STEPS; step++) {
    const now = dimensionsOf(shape, bay);
    const miss = names.map((n) => measure(n, wanted.get(n)!) - measure(n, now[n]));
    if (!miss.every(Number.isFinite)) return undefined;
    const worst = Math.max(...miss.map(Math.abs));
    if (worst < 1e-14 || (step > 6 && worst < 1e-12)) return shape;
    const j = rates(shape, names, bay);
    // Least change of shape where fewer than four are held.
    const m = names.length;
    const gram = new Float64Array(m * m);
    for (let r = 0; r < m; r++)
      for (let c = 0; c < m; c++) gram[r * m + c] = j[r].reduce((s, v, i) => s + v * j[c][i], 0);
    let y: Float64Array;
    try {
      y = solveFactorised(factorise(gram, m), Float64Array.from(miss));
    } catch (error) {
      if (error instanceof VeldtwindError) return undefined;
      throw error;
    }
    const change = [0, 1, 2, 3].map((i) => j.reduce((s, row, r) => s + row[i] * y[r], 0));
    const size = Math.max(...change.map(Math.abs));
    if (!Number.isFinite(size)) return undefined;
    const damp = Math.min(1, 0.7 / Math.max(1e-300, size));
    shape = reshaped(
      shape,
      change.map((v) => v * damp),
      bay,
    );
  }
  const now = dimensionsOf(shape, bay);
  return names.every((n) => Math.abs(measure(n, wanted.get(n)!) - measure(n, now[n])) < 1e-9) ? shape : undefined;
}

/** Numbers as they are typed: without the last digits that solving leaves. */
const rounded = (surface: LiftingSurface): LiftingSurface => {
  const r = (v: number) => Number(v.toPrecision(13));
  return {
    ...surface,
    stations: surface.stations.map((s) => ({ ...s, chord: r(s.chord) })),
    bays: surface.bays.map((b) => ({
      ...b,
      span: r(b.span),
      sweepDeg: Math.abs(b.sweepDeg) < 1e-11 ? 0 : r(b.sweepDeg),
    })),
  };
};

/**
 * Sets one dimension of a surface, or of a bay, and keeps what is held.
 * @param value m, m², degrees. @param held kept besides; those of the surface without.
 * @throws InvalidInput `dimension` with the limit that is hit and the nearest value that works, path of the field that cannot follow.
 */
export function setDimension(
  surface: LiftingSurface,
  name: DimensionName,
  value: number,
  bay?: number,
  held: readonly DimensionName[] = heldOf(surface, bay),
): LiftingSurface {
  const limit = DIMENSION_LIMITS[name];
  const where = bay === undefined ? surface.name : `${surface.name}, bay ${bay + 1}`;
  const broken = limitBroken(limit, value);
  if (broken) throw new InvalidInput('dimension', `${where}: ${broken.message}.`, undefined, name);
  const before = dimensionsOf(surface, bay);
  const kept = held.filter((n) => n !== name);
  while (kept.length > 0 && !independent([name, ...kept])) kept.shift();
  const attempt = (v: number): { shape?: LiftingSurface; why?: VeldtwindError } => {
    const wanted = new Map<DimensionName, number>([
      [name, v],
      ...kept.map((n): [DimensionName, number] => [n, before[n]]),
    ]);
    try {
      const shape = solved(surface, wanted, bay);
      if (!shape) return {};
      const done = rounded(shape);
      dimensionsOf(done, bay);
      planformOf(done);
      return { shape: done };
    } catch (error) {
      if (error instanceof VeldtwindError) return { why: error };
      throw error;
    }
  };
  const made = attempt(value);
  if (made.shape) return made.shape;
  let [good, bad] = [0, 1];
  let why = made.why;
  const at = (t: number) => before[name] + t * (value - before[name]);
  for (let k = 0; k < 30; k++) {
    const t = 0.5 * (good + bad);
    const r = attempt(at(t));
    if (r.shape) good = t;
    else {
      bad = t;
      why = r.why ?? why;
    }
  }
  // A little inside, to three digits toward where it came from.
  const edge = at(good);
  const digits = Math.max(0, 3 - Math.ceil(Math.log10(Math.max(1e-9, Math.abs(edge)))));
  const grid = 10 ** digits;
  const nearest = (value > before[name] ? Math.floor(edge * grid) : Math.ceil(edge * grid)) / grid;
  const names = kept.map((n) => DIMENSION_LIMITS[n].label.toLowerCase()).join(', ');
  throw new InvalidInput(
    'dimension',
    `${where}: ${limit.label.toLowerCase()} of ${shownValue(limit, value)} cannot be met while ${names || 'nothing'} ${kept.length === 1 ? 'is' : 'are'} held${why ? ` (${why.message.split('. Nearest')[0].replace(/\.$/, '')})` : ''}. Nearest that works: ${shownValue(limit, nearest)}.`,
    'Hold other dimensions.',
    name,
  );
}
