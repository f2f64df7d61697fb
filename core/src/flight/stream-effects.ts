import {
  bodyRings,
  placeSurface,
  referenceOf,
  referenceSurface,
  type Body,
  type LiftingSurface,
  type Point3,
  type Reference,
  type SectionLookup,
} from '../airframe';
import { flowState, GRAVITY } from '../atmosphere';
import { dragBuildUp, type DragSettings } from '../drag';
import { carryOverFactors, lossAt, makeLattice, wakeSection, type VortexLattice } from '../lift';
import { pushes, slipstreamAt, type Engine } from '../propulsion';
import type { MeanLine } from '../section';

/** What changes the dynamic pressure at a surface, or its lift: factors on its forces. */
export interface StreamFactors {
  /** Of the wing's wake; 1 outside of it. */ wake: number;
  /** Of the propeller's slipstream; 1 outside of it. */ slipstream: number;
  /** Of lift carried over to a body at the root; 1 without one. */ carryOver: number;
}

/** The level flight that the effects are taken in. */
export interface StreamCase {
  surfaces: readonly LiftingSurface[];
  bodies: readonly Body[];
  reference?: Reference | null;
  drag?: Partial<DragSettings>;
  engine?: Engine;
  /** m/s */ speed: number;
  /** m */ altitude: number;
  /** kg */ mass: number;
}

/** Places along a span, and steps of a path behind a wing or a propeller. */
const PLACES = 41;
const STEPS = 16;

/**
 * Factors of all surfaces but, for wake and slipstream, the wing, in level flight: the wake's middle and the slipstream's follow the flow of the wing alone.
 * @param surfaces where they stand. @throws as {@link makeLattice}. @source wake: NACA TR-648, 1939; slipstream: momentum theory; carry-over: NACA TR-1307, 1957.
 */
export function streamFactors(
  of: StreamCase,
  lookup: SectionLookup,
  lineOf: (key: string) => MeanLine,
): Record<string, StreamFactors> {
  const { surfaces, bodies, drag, engine } = of;
  const wing = referenceSurface(surfaces);
  const reference = of.reference ?? referenceOf([...surfaces]);
  const flow = flowState(of.speed, of.altitude);
  const lattice = makeLattice({ surfaces: [{ ...wing, pressureRatio: 1 }], reference }, lineOf);
  const needed = (of.mass * GRAVITY) / (flow.dynamicPressure * reference.area);
  const [zero, tilted] = [0, 0.1].map((alpha) => lattice.coefficients({ alpha }).CL);
  const alpha = Math.max(-0.2, Math.min(0.25, (needed - zero) / ((tilted - zero) / 0.1)));
  const built = dragBuildUp({ surfaces: [...surfaces], bodies: [...bodies], reference, drag }, flow, lookup);
  // On the wing's own area, which is what a section's drag is told on.
  const wingArea = referenceOf([wing]).area;
  const profile = ((built.parts.find((p) => p.id === wing.id)?.CD ?? 0) * reference.area) / wingArea;
  const path = new FlowPath(lattice, alpha);
  const tube = pushes(engine) && 'position' in engine && diameterOf(engine) > 0 ? engine : null;
  const thrust = flow.dynamicPressure * reference.area * (built.CD + lattice.coefficients({ alpha }).CDi);
  return Object.fromEntries(
    surfaces.map((s): [string, StreamFactors] => {
      const carryOver = carryOverOf(s, bodies, lineOf);
      if (s.id === wing.id) return [s.id, { wake: 1, slipstream: 1, carryOver }];
      const places = placesOf(s);
      const wake = meanOver(places, (at) => 1 - wakeLoss(wing, at, profile, path));
      const slipstream = tube
        ? meanOver(places, (at) => {
            const behind = at.x - tube.position.x;
            if (behind <= 0) return 1;
            const { radius, speedRatio } = slipstreamAt(thrust, diameterOf(tube), of.speed, flow.density, behind);
            const z = path.heightAt(tube.position, at.x);
            return Math.hypot(at.y - tube.position.y, at.z - z) < radius ? speedRatio ** 2 : 1;
          })
        : 1;
      return [s.id, { wake, slipstream, carryOver }];
    }),
  );
}

/** Surfaces with what is to be counted of the effects on their stream; the same ones where nothing is. */
export function withStreamEffects(
  of: StreamCase,
  lookup: SectionLookup,
  lineOf: (key: string) => MeanLine,
): LiftingSurface[] {
  const wanted = ({ streamEffects: e }: LiftingSurface) => e && (e.wake || e.slipstream || e.carryOver);
  if (!of.surfaces.some(wanted)) return [...of.surfaces];
  const factors = streamFactors(of, lookup, lineOf);
  return of.surfaces.map((s) => {
    const e = s.streamEffects;
    if (!e || !wanted(s)) return s;
    const f = factors[s.id];
    const all = (e.wake ? f.wake : 1) * (e.slipstream ? f.slipstream : 1) * (e.carryOver ? f.carryOver : 1);
    // What is counted is not asked for again.
    const { streamEffects: _, ...rest } = s;
    return { ...rest, pressureRatio: (s.pressureRatio ?? 1) * all };
  });
}

const diameterOf = (engine: Engine): number =>
  engine.kind === 'motor' ? engine.propeller.diameter : 'diameter' in engine ? (engine.diameter ?? 0) : 0;

/** Quarter points along a surface, right or upper side, with the chords that they count by. */
function placesOf(s: LiftingSurface): { at: Point3; weight: number }[] {
  const placed = placeSurface(s);
  const total = s.bays.reduce((sum, b) => sum + b.span, 0);
  return Array.from({ length: PLACES }, (_, k) => {
    let offset = ((k + 0.5) / PLACES) * total;
    let bay = 0;
    while (bay < s.bays.length - 1 && offset > s.bays[bay].span) offset -= s.bays[bay++].span;
    const { quarterChord, chord } = placed.at(bay, Math.min(1, offset / s.bays[bay].span));
    return { at: quarterChord, weight: chord };
  });
}

const meanOver = (places: readonly { at: Point3; weight: number }[], value: (at: Point3) => number): number =>
  places.reduce((sum, p) => sum + p.weight * value(p.at), 0) / places.reduce((sum, p) => sum + p.weight, 0);

/** Loss of dynamic pressure at a point behind a wing; 0 ahead of it and beside its span. */
function wakeLoss(wing: LiftingSurface, at: Point3, profile: number, path: FlowPath): number {
  const placed = placeSurface(wing);
  let offset = Math.abs(at.y);
  let bay = 0;
  while (bay < wing.bays.length - 1 && offset > wing.bays[bay].span) offset -= wing.bays[bay++].span;
  if (offset > wing.bays[bay].span) return 0;
  const { leadingEdge, chord, along } = placed.at(bay, offset / wing.bays[bay].span);
  const edge = { x: leadingEdge.x + chord * along.x, y: at.y, z: leadingEdge.z + chord * along.z };
  if (at.x <= edge.x) return 0;
  const off = (at.z - path.heightAt(edge, at.x)) / chord;
  return lossAt(wakeSection(profile, (at.x - edge.x) / chord), off);
}

/** Lines that the air goes along about a wing, in planes along x. */
class FlowPath {
  private readonly amounts: [string, number][];
  private readonly known = new Map<string, number>();

  constructor(
    private readonly lattice: VortexLattice,
    private readonly alpha: number,
  ) {
    this.amounts = lattice.amountsOf({ alpha });
  }

  /** Height of the line through a point, further aft at x. */
  heightAt(from: Point3, x: number): number {
    // The wing's span hardly changes it: places that are near share one.
    const y = Math.round(from.y * 50) / 50;
    const key = `${from.x.toFixed(3)} ${y} ${from.z.toFixed(3)} ${x.toFixed(2)}`;
    let z = this.known.get(key);
    if (z === undefined) {
      z = from.z;
      const step = (x - from.x) / STEPS;
      for (let k = 0; k < STEPS; k++) z += step * this.slope(from.x + (k + 0.5) * step, y, z);
      this.known.set(key, z);
    }
    return z;
  }

  private slope(x: number, y: number, z: number): number {
    const wash = this.lattice.washAt(
      Float64Array.of(x, y, z),
      this.amounts.map(([id]) => id),
    );
    let [u, w] = [Math.cos(this.alpha), Math.sin(this.alpha)];
    for (const [id, amount] of this.amounts) {
      u += amount * wash.get(id)![0];
      w += amount * wash.get(id)![2];
    }
    return Math.max(-0.6, Math.min(0.6, w / Math.max(0.3, u)));
  }
}

/**
 * Lift of a mirrored surface with a body through its root over that of the surface alone, which the lattice lets run through the body: the exposed halves, put
 * together, times their factors.
 */
function carryOverOf(s: LiftingSurface, bodies: readonly Body[], lineOf: (key: string) => MeanLine): number {
  if (!s.mirrored || s.plane === 'vertical') return 1;
  const radius = bodyAtRoot(s, bodies);
  const half = s.bays.reduce((sum, b) => sum + b.span, 0);
  if (radius <= 0 || radius >= 0.9 * s.bays[0].span) return 1;
  const t = radius / s.bays[0].span;
  const [a, b] = s.stations;
  const root = { ...a, chord: a.chord + t * (b.chord - a.chord) };
  const exposed: LiftingSurface = {
    ...s,
    pressureRatio: 1,
    controls: [],
    attachedTo: undefined,
    stations: [root, ...s.stations.slice(1)],
    bays: [{ ...s.bays[0], span: s.bays[0].span - radius }, ...s.bays.slice(1)],
  };
  const slope = (surface: LiftingSurface) => {
    const lattice = makeLattice({ surfaces: [surface], reference: { area: 1, span: 1, chord: 1 } }, lineOf);
    const [up, down] = [0.02, -0.02].map((alpha) => lattice.coefficients({ alpha }).CL);
    return up - down;
  };
  const { wing, body } = carryOverFactors(radius / half);
  return ((wing + body) * slope(exposed)) / slope({ ...s, pressureRatio: 1, controls: [], attachedTo: undefined });
}

/** Half width of the body on the middle that a surface's root goes through, m; 0 where none does. */
function bodyAtRoot(s: LiftingSurface, bodies: readonly Body[]): number {
  const { quarterChord } = placeSurface(s).stations[0];
  for (const body of bodies) {
    if (body.mirrored) continue;
    const rings = bodyRings(body);
    const i = rings.findIndex(
      (r, k) => k + 1 < rings.length && r[0].x <= quarterChord.x && rings[k + 1][0].x > quarterChord.x,
    );
    if (i < 0) continue;
    const ys = rings[i].map((p) => p.y);
    const zs = rings[i].map((p) => p.z);
    const inside = quarterChord.z > Math.min(...zs) && quarterChord.z < Math.max(...zs);
    const half = Math.max(...ys) - quarterChord.y;
    if (inside && half > 0 && Math.min(...ys) < quarterChord.y) return half;
  }
  return 0;
}
