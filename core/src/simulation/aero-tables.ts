import { plateParts } from './plate';
import type { LiftingSurface, Point3, Reference } from '../airframe';
import { lagDerivatives, type AirframeSource, type StateCoefficients } from '../motion';
import type { Aerodynamics } from './vehicle';

const RAD = Math.PI / 180;

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
  controls: { id: string; name: string; least: number; greatest: number; slopes: Six }[];
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
 */
export function aeroTables(
  source: AirframeSource,
  speed: number,
  options: TableOptions = TABLE_EXTENT,
  report: Report = () => {},
): AeroTables {
  const { surfaces, reference, centre, lattice } = source;
  const { from, to, step, slopes, betas } = options;
  const alphas = steps(from, to, step);
  const slopeAlphas = steps(from, to, slopes);
  const speeds = [0.7 * speed, speed, 1.5 * speed];
  let gaps = 0;
  const total = speeds.length * alphas.length + slopeAlphas.length * (2 * betas.length + 7);
  let done = 0;
  const tick = () => report(Math.min(1, ++done / total));
  const blank = (): Six => ({ CL: [], CD: [], CY: [], Cl: [], Cm: [], Cn: [] });
  const add = (to: Six, c: StateCoefficients) => KEYS.forEach((k) => to[k].push(c[k]));
  const base = speeds.map((v) => {
    const six = blank();
    for (const alpha of outward(alphas)) {
      const c = source.at({ alpha: alphas[alpha] }, v);
      KEYS.forEach((k) => (six[k][alpha] = c[k]));
      tick();
    }
    gaps += fill(six);
    return six;
  });
  const signed = [...betas.map((b) => -b).reverse(), 0, ...betas].map((b) => b * RAD);
  const side = signed.map(() => blank());
  const rates = { p: blank(), q: blank(), r: blank() };
  const h = 0.01;
  for (const alpha of slopeAlphas) {
    const still = source.at({ alpha }, speed);
    tick();
    signed.forEach((sideslip, i) => {
      const c = sideslip === 0 ? still : source.at({ alpha, sideslip }, speed);
      add(side[i], minus(c, still));
      tick();
    });
    const slope = (key: 'rollRate' | 'pitchRate' | 'yawRate') => {
      const c = minus(source.at({ alpha, [key]: h }, speed), source.at({ alpha, [key]: -h }, speed));
      tick();
      tick();
      return scaled(c, 1 / (2 * h));
    };
    add(rates.p, slope('rollRate'));
    add(rates.q, slope('pitchRate'));
    add(rates.r, slope('yawRate'));
  }
  for (const six of [...side, rates.p, rates.q, rates.r]) fill(six);
  const controls = surfaces.flatMap((s) =>
    (s.controls ?? []).map((control) => {
      const effects = blank();
      for (const alpha of slopeAlphas) {
        const d = 1e-3;
        const [up, down] = [d, -d].map((v) => {
          const c = lattice.at({ alpha, controls: { [control.id]: v } });
          return { ...c, CD: c.CDi };
        });
        add(effects, scaled(minus(up, down), 1 / (2 * d)));
      }
      const [least, greatest] = (control.limitsDeg ?? [-30, 30]).map((v) => v * RAD);
      return { id: control.id, name: control.name || control.id, least, greatest, slopes: effects };
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

const steps = (from: number, to: number, step: number) =>
  Array.from({ length: Math.round((to - from) / step) + 1 }, (_, i) => (from + i * step) * RAD);

/** Indices of angles from zero outward, both ways: each goes on from its neighbour. */
function outward(alphas: readonly number[]): number[] {
  const zero = Math.max(
    0,
    alphas.findIndex((a) => a >= -1e-9),
  );
  return [...alphas.keys()].slice(zero).concat([...alphas.keys()].slice(0, zero).reverse());
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

/** A curve in even steps, smooth through its points. */
class Curve {
  constructor(
    private readonly start: number,
    private readonly step: number,
    private readonly values: readonly number[],
  ) {}
  at(x: number): number {
    const { values: v } = this;
    const last = v.length - 1;
    if (last === 0) return v[0];
    const s = Math.max(0, Math.min(last, (x - this.start) / this.step));
    const i = Math.min(last - 1, Math.floor(s));
    const t = s - i;
    const d = v[i + 1] - v[i];
    const a = i > 0 ? 0.5 * (v[i + 1] - v[i - 1]) : d;
    const b = i + 2 <= last ? 0.5 * (v[i + 2] - v[i]) : d;
    return v[i] + t * (a + t * (3 * d - 2 * a - b + t * (a + b - 2 * d)));
  }
}

type Curves = Record<(typeof KEYS)[number], Curve>;

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
  const fine = (six: Six): Curves => curves(six, t.alphas[0], step);
  const coarse = (six: Six): Curves => curves(six, t.slopeAlphas[0], slopeStep);
  const base = t.base.map(fine);
  const side = t.side.map(coarse);
  const rates = { p: coarse(t.rates.p), q: coarse(t.rates.q), r: coarse(t.rates.r) };
  const controls = t.controls.map((c) => coarse(c.slopes));
  const logs = t.speeds.map(Math.log);
  const [low, high] = [t.alphas[0], t.alphas[t.alphas.length - 1]];
  const widest = t.betas[t.betas.length - 1];
  /** Drag of a long plate across the stream grows with its aspect ratio. @source NASA CP-2230, 1982. */
  const across = 1.11 + 0.018 * Math.min(50, t.plate.aspectRatio);
  const sum = { CL: 0, CD: 0, CY: 0, Cl: 0, Cm: 0, Cn: 0 };
  const addTo = (c: Curves, alpha: number, by: number) => {
    for (const k of KEYS) sum[k] += by * c[k].at(alpha);
  };
  return {
    reference: t.reference,
    about: t.about,
    lag: t.lag,
    at: ({ speed, alpha, beta, p, q, r, controls: deflections }, out) => {
      const over = Math.max(low - alpha, alpha - high, 0) / FADE;
      const aside = Math.max(Math.abs(beta) - widest, 0) / SIDE_FADE;
      const far = Math.min(1, Math.max(over, aside));
      const plate = far * far * (3 - 2 * far);
      out.beyond = far > 0;
      out.CX = out.CY = out.CZ = out.Cl = out.Cm = out.Cn = 0;
      const a = Math.max(low, Math.min(high, alpha));
      for (const k of KEYS) sum[k] = 0;
      // Steady values: between the two speeds about it, evenly in the logarithm.
      if (plate < 1) {
        const s = Math.log(Math.max(speed, 1e-3));
        let j = 0;
        while (j < logs.length - 2 && s > logs[j + 1]) j++;
        const share = logs.length > 1 ? Math.max(0, Math.min(1, (s - logs[j]) / (logs[j + 1] - logs[j]))) : 0;
        addTo(base[j], a, 1 - share);
        if (share > 0) addTo(base[j + 1], a, share);
        if (beta !== 0) {
          let b = 0;
          while (b < t.betas.length - 2 && beta > t.betas[b + 1]) b++;
          // Beyond the last sideslip straight on, until the plates take over.
          const x = (beta - t.betas[b]) / (t.betas[b + 1] - t.betas[b]);
          addTo(side[b], a, 1 - x);
          addTo(side[b + 1], a, x);
        }
        for (let i = 0; i < controls.length; i++) if (deflections[i]) addTo(controls[i], a, deflections[i]);
        const [cos, sin] = [Math.cos(alpha), Math.sin(alpha)];
        const k = 1 - plate;
        out.CX = k * (sum.CL * sin - sum.CD * cos);
        out.CZ = k * (-sum.CL * cos - sum.CD * sin);
        out.CY = k * sum.CY;
        out.Cl = k * sum.Cl;
        out.Cm = k * sum.Cm;
        out.Cn = k * sum.Cn;
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
      for (const k of KEYS) sum[k] = 0;
      if (p !== 0) addTo(rates.p, a, p);
      if (q !== 0) addTo(rates.q, a, q);
      if (r !== 0) addTo(rates.r, a, r);
      const [cos, sin] = [Math.cos(a), Math.sin(a)];
      out.CX += sum.CL * sin - sum.CD * cos;
      out.CZ += -sum.CL * cos - sum.CD * sin;
      out.CY += sum.CY;
      out.Cl += sum.Cl;
      out.Cm += sum.Cm;
      out.Cn += sum.Cn;
    },
  };
}

const curves = (six: Six, start: number, step: number): Curves => {
  const out = {} as Curves;
  for (const k of KEYS) out[k] = new Curve(start, step, six[k]);
  return out;
};
