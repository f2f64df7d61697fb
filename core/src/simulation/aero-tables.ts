import { z } from 'zod';
import { finiteNumber } from '../limits';
import { groundReader, groundTableSchema, type GroundTable } from './ground-table';
import { plateParts } from './plate';
import type { LiftingSurface, Point3, Reference } from '../airframe';
import type { ControlTravel, FlightState } from '../lift';
import { lagDerivatives, parabola, type AirframeSource, type StateCoefficients } from '../motion';
import { RAD } from '../numerics';
import type { Aerodynamics } from './vehicle';

/** Six coefficients, stability axes for lift and drag, body axes for the rest. */
type Six = Record<keyof StateCoefficients, number[]>;
const KEYS = ['CL', 'CD', 'CY', 'Cl', 'Cm', 'Cn'] as const;

/** What a flight reads its forces from: tables over angle, speed and sideslip, slopes with rates and controls by angle. Plain numbers, so that they travel. */
export interface AeroTables {
  reference: Reference;
  about: Point3;
  /** rad, even steps. */ alphas: number[];
  /** m/s */ speeds: number[];
  /** In straight flight, by speed; each over `alphas`. */ base: Six[];
  /** rad, even steps: angles that the slopes are given at. */ slopeAlphas: number[];
  /** Sideslip, rad: with its sign, rising; what it adds at each, over `slopeAlphas`. */ betas: number[];
  side: Six[];
  /** Slopes with the rates, over `slopeAlphas`. */ rates: { p: Six; q: Six; r: Six };
  lag: { CL: number; Cm: number };
  /** Limits and deflections from where each stands, rad; all of a deflection works where no travel is told. */
  controls: {
    id: string;
    name: string;
    least: number;
    greatest: number;
    slopes: Six;
    /** Second derivative of the drag over the deflection, per rad², over `slopeAlphas`: none where it is not told. */ dragBend?: number[];
    travel?: { deflections: number[]; effective: number[] };
  }[];
  /** What the ground adds; none of a flight far above it. */ ground?: GroundTable;
  /** The airframe as plates, beyond the tables. */ plate: PlateShape;
  /** States that were asked for and not solved: they are filled from their neighbours. */ gaps: number;
}

/** The airframe as flat plates: areas over the reference area and where they lie from the moment reference, over the chord (aft) and the span. */
export interface PlateShape {
  up: { area: number; aft: number; chord: number }[];
  side: { area: number; aft: number; above: number }[];
  aspectRatio: number;
  drag: number;
}

const line = z.array(finiteNumber).min(1).max(200);
const sixSchema = z.object({ CL: line, CD: line, CY: line, Cl: line, Cm: line, Cn: line });
const place = z.object({ x: finiteNumber, y: finiteNumber, z: finiteNumber });
/** Tables as they are stored: of matching lengths. */
export const aeroTablesSchema = z
  .object({
    reference: z.object({ area: z.number().positive(), span: z.number().positive(), chord: z.number().positive() }),
    about: place,
    alphas: line.min(2),
    speeds: z.array(z.number().positive()).min(1).max(20),
    base: z.array(sixSchema),
    slopeAlphas: line.min(2),
    betas: line.min(2),
    side: z.array(sixSchema),
    rates: z.object({ p: sixSchema, q: sixSchema, r: sixSchema }),
    lag: z.object({ CL: finiteNumber, Cm: finiteNumber }),
    controls: z
      .array(
        z.object({
          id: z.string().max(80),
          name: z.string().max(80),
          least: finiteNumber,
          greatest: finiteNumber,
          slopes: sixSchema,
          dragBend: line.optional(),
          travel: z
            .object({ deflections: line.min(2), effective: line.min(2) })
            .refine(
              (t) =>
                t.deflections.length === t.effective.length &&
                t.deflections.every((d, i) => i === 0 || d > t.deflections[i - 1]),
              'has deflections that do not rise, or of another length',
            )
            .optional(),
        }),
      )
      .max(60),
    ground: groundTableSchema.optional(),
    plate: z.object({
      up: z.array(z.object({ area: finiteNumber, aft: finiteNumber, chord: finiteNumber })).max(500),
      side: z.array(z.object({ area: finiteNumber, aft: finiteNumber, above: finiteNumber })).max(500),
      aspectRatio: finiteNumber,
      drag: finiteNumber,
    }),
    gaps: z.int().min(0),
  })
  .refine((t) => t.base.length === t.speeds.length && t.side.length === t.betas.length, 'has tables of other lengths')
  .refine(
    (t) =>
      t.base.every((six) => KEYS.every((k) => six[k].length === t.alphas.length)) &&
      [...t.side, ...Object.values(t.rates), ...t.controls.map((c) => c.slopes)].every((six) =>
        KEYS.every((k) => six[k].length === t.slopeAlphas.length),
      ) &&
      t.controls.every(({ dragBend }) => dragBend === undefined || dragBend.length === t.slopeAlphas.length),
    'has rows of other lengths',
  ) as unknown as z.ZodType<AeroTables>;

/** Extent and steps of the tables, degrees. */
export const TABLE_EXTENT = { from: -12, to: 20, step: 1, slopes: 4, betas: [4, 12] };

/** States of flight that a set of tables asks for. */
export interface TableOptions {
  from: number;
  to: number;
  step: number;
  slopes: number;
  betas: number[];
}

/** Work that is left, from 0 to 1. */
type Report = (done: number) => void;

/**
 * Tables of an airframe's coefficients for flight.
 * @param source coefficients in a state, as motion takes them. @param speed about which it flies, m/s; tables at two more speeds tell what it changes.
 * @param unequal what unequal halves add, by the angle of attack.
 */
export function aeroTables(
  source: AirframeSource,
  speed: number,
  options: TableOptions = TABLE_EXTENT,
  report: Report = () => {},
  unequal: ((alpha: number) => Pick<StateCoefficients, 'CY' | 'Cl' | 'Cn'>) | null = null,
): AeroTables {
  const { surfaces, reference, centre, lattice } = source;
  const { from, to, step, slopes, betas } = options;
  const alphas = steps(from, to, step);
  const slopeAlphas = steps(from, to, slopes);
  const speeds = [0.7 * speed, speed, 1.5 * speed];
  let gaps = 0;
  const total = speeds.length * alphas.length + slopeAlphas.length * (2 * betas.length + 7);
  let done = 0;
  const all = (states: FlightState[], v: number): StateCoefficients[] => {
    const told = source.all?.(states, v) ?? states.map((state) => source.at(state, v));
    report(Math.min(1, (done += states.length) / total));
    return told;
  };
  const blank = (): Six => ({ CL: [], CD: [], CY: [], Cl: [], Cm: [], Cn: [] });
  const add = (to: Six, c: StateCoefficients) => KEYS.forEach((k) => to[k].push(c[k]));
  const base = speeds.map((v) => {
    const six = blank();
    // From zero outward each goes on from its neighbour.
    for (const way of outward(alphas))
      all(
        way.map((i) => ({ alpha: alphas[i] })),
        v,
      ).forEach((c, j) => KEYS.forEach((k) => (six[k][way[j]] = c[k])));
    gaps += fill(six);
    return six;
  });
  if (unequal)
    alphas.map(unequal).forEach((c, i) => {
      for (const six of base) for (const k of ['CY', 'Cl', 'Cn'] as const) six[k][i] += c[k];
    });
  const signed = [...betas.map((b) => -b).reverse(), 0, ...betas].map((b) => b * RAD);
  const side = signed.map(() => blank());
  const rates = { p: blank(), q: blank(), r: blank() };
  const h = 0.01;
  const pair = (alpha: number, key: 'rollRate' | 'pitchRate' | 'yawRate'): FlightState[] => [
    { alpha, [key]: h },
    { alpha, [key]: -h },
  ];
  const slope = (up: StateCoefficients, down: StateCoefficients) => scaled(minus(up, down), 1 / (2 * h));
  for (const alpha of slopeAlphas) {
    const [still, faster, slower] = all([{ alpha }, ...pair(alpha, 'pitchRate')], speed);
    add(rates.q, slope(faster, slower));
    const slips = signed.filter((b) => b !== 0);
    const lateral = all(
      [
        ...slips.map((sideslip): FlightState => ({ alpha, sideslip })),
        ...pair(alpha, 'rollRate'),
        ...pair(alpha, 'yawRate'),
      ],
      speed,
    );
    signed.forEach((b, i) => add(side[i], minus(b === 0 ? still : lateral[slips.indexOf(b)], still)));
    const [pu, pd, ru, rd] = lateral.slice(slips.length);
    add(rates.p, slope(pu, pd));
    add(rates.r, slope(ru, rd));
  }
  for (const six of [...side, rates.p, rates.q, rates.r]) fill(six);
  const controls = surfaces.flatMap((s) =>
    (s.controls ?? []).map((control) => {
      const effects = blank();
      const dragBend: number[] = [];
      for (const alpha of slopeAlphas) {
        const d = 1e-3;
        const turned = (v: number) => {
          const c = lattice.coefficients({ alpha, controls: { [control.id]: v } });
          return { ...c, CD: c.CDi };
        };
        add(effects, scaled(minus(turned(d), turned(-d)), 1 / (2 * d)));
        dragBend.push(parabola((v) => turned(v).CD).curvature);
      }
      const [least, greatest] = control.limitsDeg.map((v) => (v - control.deflectionDeg) * RAD);
      const travel = source.travels?.[control.id];
      return {
        id: control.id,
        name: control.name || control.id,
        least,
        greatest,
        slopes: effects,
        dragBend,
        ...(travel && { travel: travelTable(travel) }),
      };
    }),
  );
  const least = Math.min(...base[1].CD.filter(Number.isFinite));
  return {
    reference,
    about: centre,
    alphas,
    speeds,
    base,
    slopeAlphas,
    betas: signed,
    side,
    rates,
    lag: lagDerivatives(source),
    controls,
    plate: plateShape(surfaces, reference, centre, least),
    gaps,
  };
}

/** A travel in steps of 2.5° to 60° either way. */
function travelTable(travel: ControlTravel): { deflections: number[]; effective: number[] } {
  const deflections = Array.from({ length: 49 }, (_, i) => (i - 24) * 2.5 * RAD);
  return { deflections, effective: deflections.map((d) => travel.effective(travel.standing + d)) };
}

/** Reads a travel between its steps; beyond them straight on with the last ones. */
function readTravel({ deflections: x, effective: y }: { deflections: number[]; effective: number[] }, d: number) {
  let i = 0;
  while (i < x.length - 2 && d > x[i + 1]) i++;
  return y[i] + ((d - x[i]) / (x[i + 1] - x[i])) * (y[i + 1] - y[i]);
}

const steps = (from: number, to: number, step: number) =>
  Array.from({ length: Math.round((to - from) / step) + 1 }, (_, i) => (from + i * step) * RAD);

/** Indices of angles from zero outward, each way by itself. */
function outward(alphas: readonly number[]): number[][] {
  const zero = Math.max(
    0,
    alphas.findIndex((a) => a >= -1e-9),
  );
  return [[...alphas.keys()].slice(zero), [...alphas.keys()].slice(0, zero).reverse()].filter((w) => w.length > 0);
}

const minus = (a: StateCoefficients, b: StateCoefficients): StateCoefficients => {
  const out = {} as StateCoefficients;
  for (const k of KEYS) out[k] = a[k] - b[k];
  return out;
};
const scaled = (a: StateCoefficients, by: number): StateCoefficients => {
  const out = {} as StateCoefficients;
  for (const k of KEYS) out[k] = a[k] * by;
  return out;
};

/** Numbers that are not finite take the nearest that is. @returns how many there were. */
function fill(six: Six): number {
  let count = 0;
  const bad = six.CL.map((_, i) => KEYS.some((k) => !Number.isFinite(six[k][i])));
  bad.forEach((isBad, i) => {
    if (!isBad) return;
    count++;
    let near = -1;
    bad.forEach((b, j) => {
      if (!b && (near < 0 || Math.abs(j - i) < Math.abs(near - i))) near = j;
    });
    for (const k of KEYS) six[k][i] = near < 0 ? 0 : six[k][near];
  });
  return count;
}

function plateShape(
  surfaces: readonly LiftingSurface[],
  reference: Reference,
  about: Point3,
  drag: number,
): PlateShape {
  const shape: PlateShape = { up: [], side: [], aspectRatio: reference.span ** 2 / reference.area, drag };
  for (const part of plateParts(surfaces)) {
    const { chord, x, z, flat, upright } = part;
    if (flat > 0)
      shape.up.push({
        area: flat / reference.area,
        aft: (x - about.x) / reference.chord,
        chord: chord / reference.chord,
      });
    if (upright > 0)
      shape.side.push({
        area: upright / reference.area,
        aft: (x + 0.25 * chord - about.x) / reference.span,
        above: (z - about.z) / reference.span,
      });
  }
  return shape;
}

/** Six coefficients over even steps, side by side. */
const packed = (six: Six): Float64Array => {
  const out = new Float64Array(6 * six.CL.length);
  KEYS.forEach((k, j) => six[k].forEach((v, i) => (out[6 * i + j] = v)));
  return out;
};

/** Where an angle lies in even steps, and how much of the four values about it a smooth curve through them takes. */
class Place {
  private readonly w = new Float64Array(4);
  private first = 0;
  private count = 1;
  constructor(
    private readonly start: number,
    private readonly step: number,
    private readonly values: number,
  ) {}
  set(x: number): void {
    const { w, values } = this;
    const last = values - 1;
    if (last === 0) {
      [this.first, this.count, w[0]] = [0, 1, 1];
      return;
    }
    const s = Math.max(0, Math.min(last, (x - this.start) / this.step));
    const i = Math.min(last - 1, Math.floor(s));
    const t = s - i;
    // Cubics whose slopes are those between the neighbours; at an end that of the last stretch.
    const [t2, t3] = [t * t, t * t * t];
    const [h0, h1, m0, m1] = [2 * t3 - 3 * t2 + 1, -2 * t3 + 3 * t2, t3 - 2 * t2 + t, t3 - t2];
    const [before, behind] = [i > 0, i + 2 <= last];
    w.fill(0);
    const at = before ? 1 : 0;
    this.first = before ? i - 1 : i;
    this.count = at + 2 + (behind ? 1 : 0);
    w[at] += h0;
    w[at + 1] += h1;
    if (before) {
      w[0] -= 0.5 * m0;
      w[at + 1] += 0.5 * m0;
    } else {
      w[at] -= m0;
      w[at + 1] += m0;
    }
    if (behind) {
      w[at] -= 0.5 * m1;
      w[at + 2] += 0.5 * m1;
    } else {
      w[at] -= m1;
      w[at + 1] += m1;
    }
  }
  /** Adds so many times the six values here. */
  addTo(sum: Float64Array, table: Float64Array, by: number): void {
    for (let j = 0; j < this.count; j++) {
      const k = by * this.w[j];
      const at = 6 * (this.first + j);
      for (let c = 0; c < 6; c++) sum[c] += k * table[at + c];
    }
  }
}

/** Normal force of a plate over sin α without its end: free streamlines. @source Kirchhoff and Rayleigh; Lamb, Hydrodynamics, 6th ed., 1932, §78. */
const free = (sine: number) => (2 * Math.PI * sine) / (4 + Math.PI * Math.abs(sine));
const FULL = free(1);
/** Angles over which tables give way to plates, rad. */
const FADE = 8 * RAD;
const SIDE_FADE = 16 * RAD;

/** Aerodynamics read from tables; beyond them plates of the same areas. */
export function tabledAerodynamics(t: AeroTables): Aerodynamics {
  const step = t.alphas.length > 1 ? t.alphas[1] - t.alphas[0] : 1;
  const slopeStep = t.slopeAlphas.length > 1 ? t.slopeAlphas[1] - t.slopeAlphas[0] : 1;
  const fine = new Place(t.alphas[0], step, t.alphas.length);
  const coarse = new Place(t.slopeAlphas[0], slopeStep, t.slopeAlphas.length);
  const base = t.base.map(packed);
  const side = t.side.map(packed);
  const rates = { p: packed(t.rates.p), q: packed(t.rates.q), r: packed(t.rates.r) };
  const controls = t.controls.map((c) => packed(c.slopes));
  const bends = t.controls.map(({ dragBend }) => {
    if (!dragBend) return null;
    const none = dragBend.map(() => 0);
    return packed({ CL: none, CD: dragBend, CY: none, Cl: none, Cm: none, Cn: none });
  });
  const ground = t.ground && groundReader(t.ground);
  const logs = t.speeds.map(Math.log);
  const [low, high] = [t.alphas[0], t.alphas[t.alphas.length - 1]];
  const widest = t.betas[t.betas.length - 1];
  /** Drag of a long plate across the stream grows with its aspect ratio. @source NASA CP-2230, 1982. */
  const across = 1.11 + 0.018 * Math.min(50, t.plate.aspectRatio);
  const sum = new Float64Array(6);
  return {
    reference: t.reference,
    about: t.about,
    lag: t.lag,
    at: ({ speed, alpha, beta, p, q, r, controls: deflections, height }, out) => {
      const over = Math.max(low - alpha, alpha - high, 0) / FADE;
      const aside = Math.max(Math.abs(beta) - widest, 0) / SIDE_FADE;
      const far = Math.min(1, Math.max(over, aside));
      const plate = far * far * (3 - 2 * far);
      out.beyond = far > 0;
      out.CX = out.CY = out.CZ = out.Cl = out.Cm = out.Cn = 0;
      const a = Math.max(low, Math.min(high, alpha));
      sum.fill(0);
      fine.set(a);
      coarse.set(a);
      // Steady values: between the two speeds about it, evenly in the logarithm.
      if (plate < 1) {
        const s = Math.log(Math.max(speed, 1e-3));
        let j = 0;
        while (j < logs.length - 2 && s > logs[j + 1]) j++;
        const share = logs.length > 1 ? Math.max(0, Math.min(1, (s - logs[j]) / (logs[j + 1] - logs[j]))) : 0;
        fine.addTo(sum, base[j], 1 - share);
        if (share > 0) fine.addTo(sum, base[j + 1], share);
        if (beta !== 0) {
          let b = 0;
          while (b < t.betas.length - 2 && beta > t.betas[b + 1]) b++;
          // Beyond the last sideslip straight on, until the plates take over.
          const x = (beta - t.betas[b]) / (t.betas[b + 1] - t.betas[b]);
          coarse.addTo(sum, side[b], 1 - x);
          coarse.addTo(sum, side[b + 1], x);
        }
        for (let i = 0; i < controls.length; i++) {
          if (!deflections[i]) continue;
          const { travel } = t.controls[i];
          const works = travel ? readTravel(travel, deflections[i]) : deflections[i];
          coarse.addTo(sum, controls[i], works);
          const bend = bends[i];
          if (bend) coarse.addTo(sum, bend, 0.5 * works * works);
        }
        const near = height === undefined ? null : (ground?.(height, a) ?? null);
        if (near) {
          sum[0] += near.CL;
          sum[1] += near.CD;
          sum[4] += near.Cm;
        }
        const [cos, sin] = [Math.cos(alpha), Math.sin(alpha)];
        const k = 1 - plate;
        out.CX = k * (sum[0] * sin - sum[1] * cos);
        out.CZ = k * (-sum[0] * cos - sum[1] * sin);
        out.CY = k * sum[2];
        out.Cl = k * sum[3];
        out.Cm = k * sum[4];
        out.Cn = k * sum[5];
      }
      if (plate > 0) {
        const [cb, sb] = [Math.cos(beta), Math.sin(beta)];
        const [x, y, z] = [Math.cos(alpha) * cb, sb, Math.sin(alpha) * cb];
        const normal = (free(z) / FULL) * across;
        out.CX -= plate * t.plate.drag * x * Math.abs(x);
        for (const s of t.plate.up) {
          out.CZ -= plate * normal * s.area;
          // From the quarter of the chord ahead to the quarter from behind.
          const arm = s.aft + (0.25 - 0.25 * x) * s.chord;
          out.Cm -= plate * normal * s.area * arm;
        }
        const sideways = (free(y) / FULL) * across;
        for (const s of t.plate.side) {
          out.CY -= plate * sideways * s.area;
          out.Cl -= plate * sideways * s.area * s.above;
          out.Cn += plate * sideways * s.area * s.aft;
        }
      }
      // Damping goes on with what it was at the end of the tables.
      sum.fill(0);
      if (p !== 0) coarse.addTo(sum, rates.p, p);
      if (q !== 0) coarse.addTo(sum, rates.q, q);
      if (r !== 0) coarse.addTo(sum, rates.r, r);
      const [cos, sin] = [Math.cos(a), Math.sin(a)];
      out.CX += sum[0] * sin - sum[1] * cos;
      out.CZ += -sum[0] * cos - sum[1] * sin;
      out.CY += sum[2];
      out.Cl += sum[3];
      out.Cm += sum[4];
      out.Cn += sum[5];
    },
  };
}
