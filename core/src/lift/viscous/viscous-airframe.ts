import { standing, type Body } from '../../airframe';
import { DEG, InvalidInput } from '../../numerics';
import type { MeanLine } from '../../section';
import { BodyFlow } from '../body-flow';
import { deflectionsOf } from '../controls';
import { DEFAULT_LATTICE } from '../lattice';
import { makeLattice, type LiftInput } from '../lift-analysis';
import type { AirframeLoads } from '../loads';
import type { Totals } from '../near-field';
import type { FlightState, Problem, Turned, VortexLattice } from '../vortex-lattice';
import type { SectionPolars } from './polar-curve';
import { READ, SectionPolar } from './section-polar';
import { StripBalance, type StripSolution, type StripState } from './strip-balance';
import { boundFractions, quarterPoint } from './strip-places';
import { sectionKey, stripSections, type StripSection } from './strip-sections';
import { usablePolar } from './usable-polar';

/** What a lift analysis with section polars needs beside the shape; SI, rad. */
export interface ViscousInput extends LiftInput {
  /** m/s */ speed: number;
  /** Of the stream, 1/m. */ reynoldsPerMetre: number;
  polars: SectionPolars[];
  /** Bodies that lift, as slender bodies. */
  bodies?: Body[];
  /** Drag of what has no polar: bodies and allowances. */
  parasite?: number;
}

/** A stretch of a surface's span that has stalled, as shares of the half span; negative on the left of a state without symmetry. */
export interface StalledStretch {
  surface: string;
  from: number;
  to: number;
}

/** Loads at one angle with the sections' polars. */
export interface ViscousLoads extends AirframeLoads {
  status: 'solved' | 'doubtful' | 'unsolved';
  reason?: string;
  /** Of the sections' polars. */ CDprofile: number;
  /** The same by surface. */ profiles: Record<string, number>;
  /** Of bodies and allowances. */ CDparasite: number;
  /** Induced, profile and parasite drag. */ CD: number;
  /** One a strip, in their order. */ states: StripState[];
  stalled: StalledStretch[];
}

/** A strip that carries nothing, and its drag. */
interface Resting {
  strip: StripSection;
  cd: number;
}
/** Strips of one kind of state, ready to be balanced; and those that have no part in it. */
interface Balanced {
  strips: StripSection[];
  resting: Resting[];
  balance: StripBalance;
}

/** The wing of an airframe with polars in the loop, ready for any state at one speed. */
export class ViscousAirframe {
  readonly lattice: VortexLattice;
  private readonly deflections: Record<string, number>;
  private readonly bodies: BodyFlow;
  private readonly polars: ReadonlyMap<string, SectionPolar>;
  private readonly ready = new Map<string, Balanced>();
  private readonly sections: Map<string, StripSection[]>;
  private readonly names: string[];

  /**
   * @param like an airframe of the same shape and polars, at another speed: what is the same is taken from there.
   * @throws InvalidInput from {@link makeLattice}; FailedComputation `polar-missing` when it is first asked.
   */
  constructor(
    private readonly input: Omit<ViscousInput, 'alphas'>,
    private readonly lineOf: (key: string) => MeanLine,
    like?: ViscousAirframe,
  ) {
    if (!(input.reynoldsPerMetre > 0) || !Number.isFinite(input.reynoldsPerMetre))
      throw new InvalidInput('speed-range', 'Polars need a speed that is greater than zero.', 'Give a speed.', 'speed');
    this.lattice = like?.lattice ?? makeLattice(input, lineOf);
    this.deflections = deflectionsOf(input.surfaces);
    this.bodies = like?.bodies ?? new BodyFlow(this.lattice, input.bodies ?? []);
    this.polars = like?.polars ?? new Map(input.polars.map((p) => [sectionKey(p), new SectionPolar(p)]));
    this.sections = like?.sections ?? new Map();
    this.names = input.surfaces.map((s) => s.name || s.id);
  }

  /** The same at another speed. */
  atSpeed(speed: number, reynoldsPerMetre: number, parasite = this.input.parasite): ViscousAirframe {
    return new ViscousAirframe({ ...this.input, speed, reynoldsPerMetre, parasite }, this.lineOf, this);
  }

  private balanceOf(lateral: boolean, state: FlightState): Balanced {
    const key = JSON.stringify([lateral, state.controls]);
    const known = this.ready.get(key);
    if (known) return known;
    const { lattice } = this.lattice;
    const surfaces = standing(this.input.surfaces);
    const { spacing } = this.input.spread ?? DEFAULT_LATTICE;
    // What a strip is made of is the same at any speed.
    const all =
      this.sections.get(key) ?? stripSections(surfaces, lattice, this.lineOf, spacing, state.controls ?? {}, lateral);
    this.sections.set(key, all);
    // In symmetric flow a surface in the plane of symmetry carries nothing, and has no part in it.
    const strips = lateral || lattice.symmetry === 'full' ? all : all.filter((s) => !lattice.parts[s.part].central);
    const joined = (surface: number) => {
      const s = surfaces[surface];
      return s.mirrored && Math.abs(s.position.y) < 0.05 * s.stations[0].chord;
    };
    const made: Balanced = {
      strips,
      resting: this.resting(all.filter((s) => !strips.includes(s))),
      balance: new StripBalance(
        strips,
        this.circulation(lateral),
        this.polars,
        this.input.reynoldsPerMetre,
        this.input.mach ?? 0,
        joined,
      ),
    };
    this.ready.set(key, made);
    return made;
  }

  /** Drag of strips that carry nothing, by their polars at no lift; those whose polars are not there are left out. */
  private resting(strips: readonly StripSection[]): Resting[] {
    const read = new Float64Array(READ);
    return strips.flatMap((strip) => {
      read.fill(0);
      for (const share of strip.shares) {
        const polar = usablePolar(this.polars, share)?.polar;
        if (!polar) return [];
        polar.add(strip.zeroLift, polar.place(this.input.reynoldsPerMetre * strip.chord), share.weight, read);
      }
      return [{ strip, cd: read[2] }];
    });
  }

  /** Circulations of the strips for unit turns of single strips: right sides, then the mirror images in a state without symmetry. */
  private circulation(lateral: boolean): Float64Array {
    const { lattice } = this.lattice;
    if (lattice.symmetry === 'full') return this.lattice.turning('all').circulation;
    const even = this.lattice.turning('even');
    if (!lateral) return even.circulation;
    const odd = this.lattice.turning('odd');
    const places = this.sides();
    const n = places.length;
    const indexIn = (list: typeof even.strips) =>
      places.map(({ part, strip }) => list.findIndex((s) => s.part === part && s.strip === strip));
    const [ie, io] = [indexIn(even.strips), indexIn(odd.strips)];
    const [ne, no] = [even.strips.length, odd.strips.length];
    const out = new Float64Array(n * n);
    for (let i = 0; i < n; i++)
      for (let k = 0; k < n; k++) {
        const o = odd.circulation[io[i] * no + io[k]];
        const [central, image] = [lattice.parts[places[k].part].central, places[i].side * places[k].side];
        // The turn of one side is half of one that is alike on both and half of one that is opposite; a central surface is its own image.
        if (central) out[i * n + k] = places[i].side * o;
        else {
          const e = ie[i] >= 0 && ie[k] >= 0 ? even.circulation[ie[i] * ne + ie[k]] : 0;
          out[i * n + k] = 0.5 * (e + image * o);
        }
      }
    return out;
  }

  private sides(): { part: number; strip: number; side: 1 | -1 }[] {
    const { parts } = this.lattice.lattice;
    return ([1, -1] as const).flatMap((side) =>
      parts.flatMap((p, part) =>
        side < 0 && !p.mirrored ? [] : Array.from({ length: p.strips }, (_, strip) => ({ part, strip, side })),
      ),
    );
  }

  /** Lift of the strips of a state before any section is turned. */
  private base(state: FlightState, strips: readonly StripSection[]): Float64Array {
    const { lattice } = this.lattice;
    const problems = this.lattice.problemsOf(state);
    const gammas = problems.map((p) => this.lattice.circulationsIn(state, p));
    const starts: number[] = [];
    lattice.parts.reduce((sum, p, i) => ((starts[i] = sum), sum + p.rows * p.strips), 0);
    return Float64Array.from(strips, ({ part, strip, side, chord }) => {
      const { rows } = lattice.parts[part];
      const at = starts[part] + strip * rows;
      let sum = 0;
      gammas.forEach((gamma, g) => {
        const sign = side < 0 && problems[g] === 'odd' ? -1 : 1;
        for (let r = 0; r < rows; r++) sum += sign * gamma[at + r];
      });
      return (2 * sum) / chord;
    });
  }

  private full(state: FlightState): FlightState {
    return { ...state, controls: { ...this.deflections, ...state.controls } };
  }

  /** Balances the strips of a state. @param from turns of a state near by. */
  balance(state: FlightState, from?: Float64Array): StripSolution {
    const whole = this.full(state);
    const lateral = this.lateral(whole);
    const { strips, balance } = this.balanceOf(lateral, whole);
    return balance.solve(this.base(whole, strips), from?.length === strips.length ? from : undefined);
  }

  /** The strips that a balance of a state is told for, in its order. */
  stripsOf(state: FlightState): readonly StripSection[] {
    const whole = this.full(state);
    return this.balanceOf(this.lateral(whole), whole).strips;
  }

  private lateral(state: FlightState): boolean {
    return this.lattice.lattice.symmetry === 'half' && this.lattice.problemsOf(state).includes('odd');
  }

  /** What the turns of strips add, by problem. */
  private turned(turns: Float64Array, lateral: boolean, state: FlightState): Turned[] {
    const { lattice } = this.lattice;
    const { strips } = this.balanceOf(lateral, state);
    const of = new Map(strips.map((s, i) => [`${s.part},${s.strip},${s.side}`, turns[i]]));
    const at = (part: number, strip: number, side: 1 | -1) => of.get(`${part},${strip},${side}`) ?? 0;
    const sum = (problem: Problem, amount: (part: number, strip: number) => number): Turned => ({
      symmetry: problem === 'odd' ? 'odd' : 'even',
      response: this.lattice.turnedBy(
        problem,
        this.lattice.turning(problem).strips.map(({ part, strip }) => amount(part, strip)),
      ),
    });
    if (lattice.symmetry === 'full') return [sum('all', (p, s) => at(p, s, 1))];
    if (!lateral) return [sum('even', (p, s) => at(p, s, 1))];
    return [
      sum('even', (p, s) => 0.5 * (at(p, s, 1) + at(p, s, -1))),
      sum('odd', (p, s) => (lattice.parts[p].central ? at(p, s, 1) : 0.5 * (at(p, s, 1) - at(p, s, -1)))),
    ];
  }

  /** Loads of states whose strips are balanced. States of one kind: all with symmetry, or all without. */
  loads(states: readonly FlightState[], solutions: readonly StripSolution[]): ViscousLoads[] {
    if (states.length === 0) return [];
    const whole = states.map((s) => this.full(s));
    const lateral = this.lateral(whole[0]);
    return whole.map((state, i) =>
      this.pointOf(state, solutions[i], this.turned(solutions[i].turns, lateral, state), lateral),
    );
  }

  /** Circulation that is there past the stall, over that of attached flow, 0 to 1; 1 where nothing has stalled. */
  private attachedShare(state: FlightState, solution: StripSolution, turned: readonly Turned[]): number {
    if (solution.states.every((s) => s.stalled === 0)) return 1;
    const sum = (g: Float64Array) => g.reduce((a, b) => a + b, 0);
    const linear = sum(this.lattice.circulationsIn(state, this.lattice.lattice.symmetry === 'full' ? 'all' : 'even'));
    const lost = turned.filter((t) => t.symmetry === 'even').reduce((a, t) => a + sum(t.response.gamma), 0);
    return Math.abs(linear) > 1e-9 ? Math.max(0, Math.min(1, (linear + lost) / linear)) : 1;
  }

  private pointOf(
    state: FlightState,
    solution: StripSolution,
    turned: readonly Turned[],
    lateral: boolean,
  ): ViscousLoads {
    const { strips, resting, balance } = this.balanceOf(lateral, state);
    const { reference, about } = this.lattice;
    const { parts } = this.lattice.lattice;
    const doubled = this.lattice.lattice.symmetry === 'half' && !lateral;
    const stream = [
      Math.cos(state.alpha) * Math.cos(state.sideslip ?? 0),
      -Math.sin(state.sideslip ?? 0),
      Math.sin(state.alpha) * Math.cos(state.sideslip ?? 0),
    ];
    const attached = this.attachedShare(state, solution, turned);
    let profile = 0;
    const profiles: Record<string, number> = {};
    const states: StripState[] = [];
    const extra = (): Totals => {
      const t = this.bodies.forces(state, attached);
      strips.forEach((s, i) => {
        const part = parts[s.part];
        const { cd, cm } = solution.states[i];
        const many = doubled && part.mirrored ? 2 : 1;
        const area = s.chord * s.width * part.pressure;
        profile += many * cd * area;
        profiles[part.id] = (profiles[part.id] ?? 0) + (many * cd * area) / reference.area;
        const place = quarterPoint(part, s.strip, s.side);
        const force = 0.5 * cd * area;
        const [fx, fy, fz] = stream.map((v) => v * force);
        const [rx, ry, rz] = [place.x - about.x, place.y - about.y, place.z - about.z];
        // The lattice's own moment of a section is that of its mean line; the polar's takes its place.
        const moment = 0.5 * (cm - this.lineMoment(state, s, turned)) * area * s.chord;
        t.fx += many * fx;
        t.fz += many * fz;
        t.my += many * (rz * fx - rx * fz) + many * moment * place.ey;
        if (many === 1) {
          t.fy += fy;
          t.mx += ry * fz - rz * fy;
          t.mz += rx * fy - ry * fx + moment * place.ez;
        }
      });
      // A fin in symmetric flow carries nothing, and drags all the same.
      for (const { strip: s, cd } of resting) {
        const part = parts[s.part];
        const area = s.chord * s.width * part.pressure;
        profile += cd * area;
        profiles[part.id] = (profiles[part.id] ?? 0) + (cd * area) / reference.area;
        const place = quarterPoint(part, s.strip, s.side);
        const [fx, fz] = [0.5 * cd * area * stream[0], 0.5 * cd * area * stream[2]];
        t.fx += fx;
        t.fz += fz;
        t.my += (place.z - about.z) * fx - (place.x - about.x) * fz;
      }
      return t;
    };
    const loads = this.lattice.at(state, turned, extra);
    // Strips of central surfaces have no state in symmetric flow.
    let k = 0;
    for (const side of lateral ? [1, -1] : [1])
      for (const part of parts) {
        if (side < 0 && !part.mirrored) continue;
        for (let s = 0; s < part.strips; s++)
          if (k < strips.length && parts[strips[k].part] === part && strips[k].side === side && strips[k].strip === s)
            states.push(solution.states[k++]);
          else states.push(AT_REST);
      }
    const CDprofile = profile / reference.area;
    const CDparasite = this.input.parasite ?? 0;
    const stalled = stretches(loads, states);
    const point: ViscousLoads = {
      ...loads,
      CDprofile,
      profiles,
      CDparasite,
      CD: loads.CDi + CDprofile + CDparasite,
      states,
      stalled,
      status: 'solved',
    };
    const reasons = this.doubts(solution, stalled, balance.instead);
    if (!solution.converged) {
      point.status = 'unsolved';
      point.reason = `The strips found no balance with their polars at ${(state.alpha * DEG).toFixed(2)}°.`;
    } else if (reasons.length > 0) {
      point.status = 'doubtful';
      point.reason = reasons.join(' ');
    }
    return point;
  }

  private doubts(
    solution: StripSolution,
    stalled: readonly StalledStretch[],
    instead: ReadonlyMap<number, number>,
  ): string[] {
    const reasons: string[] = [];
    const name = (id: string) => this.names[this.input.surfaces.findIndex((s) => s.id === id)] ?? id;
    if (stalled.length > 0)
      reasons.push(
        `Stalled: ${stalled.map((s) => `${name(s.surface)} from ${percent(s.from)} to ${percent(s.to)} of the half span`).join(', ')}; polars past their greatest lift are only a guide.`,
      );
    for (const [angle, other] of instead)
      reasons.push(`No polar with a flap of ${angle}° can be read; those of ${other}° are used.`);
    const low = solution.states.filter((s) => s.outside === 'below').length;
    const high = solution.states.filter((s) => s.outside === 'above').length;
    if (low + high > 0)
      reasons.push(
        `${low + high} of ${solution.states.length} strips run ${low > 0 ? 'below the lowest' : 'above the highest'} Reynolds number that is computed; the nearest polar is used.`,
      );
    const beyond = solution.states.filter((s) => s.beyond).length;
    if (beyond > 0)
      reasons.push(`${beyond} of ${solution.states.length} strips meet angles that their polars do not reach.`);
    return reasons;
  }

  /** Moment coefficient of a strip's section about its quarter chord as the lattice has it. */
  private lineMoment(state: FlightState, s: StripSection, turned: readonly Turned[]): number {
    const { lattice } = this.lattice;
    const part = lattice.parts[s.part];
    let start = 0;
    for (let p = 0; p < s.part; p++) start += lattice.parts[p].rows * lattice.parts[p].strips;
    const at = start + s.strip * part.rows;
    const gammas = this.stateGammas(state);
    const bound = boundFractions(part, s.strip);
    let sum = 0;
    for (let r = 0; r < part.rows; r++) {
      let g = 0;
      for (const { problem, gamma } of gammas) g += (s.side < 0 && problem === 'odd' ? -1 : 1) * gamma[at + r];
      for (const { symmetry, response } of turned)
        g += (s.side < 0 && symmetry === 'odd' ? -1 : 1) * response.gamma[at + r];
      sum += g * (bound[r] - 0.25);
    }
    return (-2 * sum) / s.chord;
  }

  private last?: { state: FlightState; gammas: { problem: Problem; gamma: Float64Array }[] };
  private stateGammas(state: FlightState) {
    if (this.last?.state !== state)
      this.last = {
        state,
        gammas: this.lattice
          .problemsOf(state)
          .map((problem) => ({ problem, gamma: this.lattice.circulationsIn(state, problem) })),
      };
    return this.last.gammas;
  }
}

const percent = (v: number) => `${(100 * v).toFixed(0)} %`;

/** The state of a strip that nothing flows across. */
const AT_REST: StripState = {
  angle: 0,
  cl: 0,
  cd: 0,
  cm: 0,
  clMax: Infinity,
  clMin: -Infinity,
  stalled: 0,
  beyond: false,
  outside: null,
};

/** Neighbouring strips past their greatest lift, as stretches. */
function stretches(loads: AirframeLoads, states: readonly StripState[]): StalledStretch[] {
  const bySurface = new Map<string, { from: number; to: number; stalled: boolean }[]>();
  const width = new Map<string, number>();
  const key = (i: number) => `${loads.strips[i].id}|${loads.strips[i].station < 0 ? -1 : 1}`;
  loads.strips.forEach((s, i) => width.set(key(i), (width.get(key(i)) ?? 0) + s.width));
  const order = loads.strips
    .map((_, i) => i)
    .sort((a, b) => Math.abs(loads.strips[a].station) - Math.abs(loads.strips[b].station));
  for (const i of order) {
    const list = bySurface.get(key(i)) ?? [];
    const from = list.length > 0 ? list[list.length - 1].to : 0;
    list.push({ from, to: from + loads.strips[i].width / width.get(key(i))!, stalled: states[i].stalled !== 0 });
    bySurface.set(key(i), list);
  }
  const out: StalledStretch[] = [];
  for (const [k, list] of bySurface) {
    const [surface, sign] = k.split('|');
    let open: StalledStretch | null = null;
    for (const { from, to, stalled } of list) {
      if (!stalled) open = null;
      else if (open) open.to = Number(sign) * Math.min(1, to);
      else {
        open = { surface, from: Number(sign) * from || 0, to: Number(sign) * Math.min(1, to) };
        out.push(open);
      }
    }
  }
  return out;
}
