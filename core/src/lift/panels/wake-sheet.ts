import type { Place } from './body-skin';
import { solidAngle } from './panel-influence';
import type { PanelStrip } from './panel-point';
import type { Patch } from './patch';
import type { BodyLine, WakeEdge } from './wakes';

const INV4PI = 1 / (4 * Math.PI);
/** Length of the wake in spans. */
const WAKE = 60;

/** A wake's column with the units on both faces that it goes out from: its own, or its neighbour's where a body takes a part of it. */
export interface WakeStrip extends WakeEdge {
  upper: number;
  lower: number;
  /** Whether its circulation is that of its neighbour. */ carried?: boolean;
}

/** A straight piece of a wake: where it begins, which way it goes, and to which x. */
export interface WakePiece extends Pick<WakeEdge, 'patch' | 'a' | 'b'> {
  dir: Place;
  until: number;
}

/** Chord in the middle of a column, m. */
export function chordOf({ ni, nodes }: Patch, column: number): number {
  const at = (j: number) => {
    const [t, l] = [3 * j * (ni + 1), 3 * (j * (ni + 1) + ni / 2)];
    return Math.hypot(nodes[t] - nodes[l], nodes[t + 1] - nodes[l + 1], nodes[t + 2] - nodes[l + 2]);
  };
  return 0.5 * (at(column) + at(column + 1));
}

/** Where between the ends of a strip its circulation is: a strip that is cut has it in its middle. */
const middleOf = ({ patch, column, from, to }: WakeEdge): number =>
  from > 0 || to < 1 || !patch.middles ? 0.5 : patch.middles[column];

/** A piece of the sheet far behind, seen along the stream. */
interface SheetPiece {
  ya: number;
  za: number;
  yb: number;
  zb: number;
  g: number;
  /** Where between its ends its velocity is taken. */ share: number;
}

const BODY_AXIS: Place = [1, 0, 0];

/**
 * Wakes behind the trailing edges: along the stream, but beside a body that their surface stands on along its axis as far as its tail, with what of them
 * lies on it. Along the stream they would pass through it.
 */
export class WakeSheet {
  private readonly length: number;

  /** @param half whether the plane of symmetry stands for the other side. @param beta √(1 − M²) of the space in which influences are taken. @param turns by surface that stands on bodies, the x behind the last of them. */
  constructor(
    readonly strips: readonly WakeStrip[],
    span: number,
    private readonly half: boolean,
    private readonly beta: number,
    private readonly turns: ReadonlyMap<string, number>,
  ) {
    this.length = WAKE * span;
  }

  /**
   * Influence of the strips' jumps on the potential, row by row of the places, for a direction of the stream.
   * @param at three numbers a place. @param aside by how much places stand aside of the wakes of a surface, across these, m.
   */
  influence(
    dir: Place,
    at: Float64Array,
    aside: ReadonlyMap<string, Float64Array>,
    own?: { at: Float64Array; surfaces: readonly string[] },
  ): Float64Array {
    const n = at.length / 3;
    const m = this.strips.length;
    const out = new Float64Array(n * m);
    const flat = new Float64Array(12);
    /** Seen from above: inner trailing edge, far inner, far outer, outer; the order turns with the side. */
    const add = (w: WakeStrip, k: number, corners: readonly Place[]) => {
      const order = w.patch.out > 0 ? corners : [...corners].reverse();
      order.forEach(([px, py, pz], c) => flat.set([px / this.beta, py, pz], 3 * c));
      const by = aside.get(w.patch.id);
      for (let i = 0; i < n; i++) {
        const from = own?.surfaces[i] === w.patch.id ? own.at : at;
        let [x, y, z] = [from[3 * i], from[3 * i + 1], from[3 * i + 2]];
        if (by) {
          x += by[3 * i] / this.beta;
          y += by[3 * i + 1];
          z += by[3 * i + 2];
        }
        let angle = solidAngle(flat, 0, x, y, z);
        if (this.half) angle += solidAngle(flat, 0, x, -y, z);
        out[i * m + k] += angle * INV4PI;
      }
    };
    this.strips.forEach((w, k) => {
      const [a, b] = [this.turn(w, w.a), this.turn(w, w.b)];
      if (a !== w.a || b !== w.b) add(w, k, [w.a, a, b, w.b]);
      add(w, k, [a, this.far(a, dir), this.far(b, dir), b]);
      for (const line of w.lines) {
        const [near, on] = this.alongBody(w, line, dir);
        for (let q = 0; q + 1 < on.length; q++)
          add(
            w,
            k,
            line.end === 'inner' ? [on[q], on[q + 1], near[q + 1], near[q]] : [near[q], near[q + 1], on[q + 1], on[q]],
          );
      }
    });
    return out;
  }

  /** All straight pieces of the wakes, of the strips and of what closes in the middle behind their bodies; ends from root to tip. */
  pieces(dir: Place): WakePiece[] {
    return this.strips.flatMap((w): WakePiece[] => {
      const { patch, lines } = w;
      const ends: [Place, Place][] = [[w.a, w.b]];
      for (const line of lines) {
        const last = line.places.length - 1;
        const [near, on] = this.alongBody(w, line, dir).map((places) => places[last]);
        // From its root on: what lies between, in the body or beside it, is closed by then.
        const [{ 0: x }] = line.places;
        const [p, q]: Place[] = [
          [x, on[1], on[2]],
          [x, near[1], near[2]],
        ];
        ends.push(line.end === 'inner' ? [p, q] : [q, p]);
      }
      return ends.flatMap(([p, q]): WakePiece[] => {
        const [a, b] = [this.turn(w, p), this.turn(w, q)];
        const behind = { patch, a, b, dir, until: Infinity };
        if (a === p && b === q) return [behind];
        return [{ patch, a: p, b: q, dir: BODY_AXIS, until: Math.max(a[0], b[0]) }, behind];
      });
    });
  }

  /** Where the wake from a place turns into the stream: the place itself but beside bodies. */
  private turn({ patch }: WakeStrip, p: Place): Place {
    const x = this.turns.get(patch.id);
    return x === undefined || x <= p[0] ? p : [x, p[1], p[2]];
  }

  private far(p: Place, dir: Place): Place {
    const { length } = this;
    return [p[0] + length * dir[0], p[1] + length * dir[1], p[2] + length * dir[2]];
  }

  /** The sheet between the line behind the end of a trailing edge and the wake's edge on the body: places of both, to far behind. */
  private alongBody(w: WakeStrip, { places }: BodyLine, dir: Place): [Place[], Place[]] {
    const [root] = places;
    const last = places[places.length - 1];
    const near = places.map((p): Place => [p[0], root[1], root[2]]);
    const [a, b] = [this.turn(w, near[near.length - 1]), this.turn(w, last)];
    return [
      [...near, a, this.far(a, dir)],
      [...places, b, this.far(b, dir)],
    ];
  }

  /** What the strips carry. */
  carried(jumps: Float64Array): PanelStrip[] {
    return this.strips.map(({ patch, column, a, b }, k): PanelStrip => {
      const circulation = jumps[k];
      const chord = chordOf(patch, column);
      return {
        id: patch.id,
        station: patch.stations![column],
        y: a[1] + middleOf(this.strips[k]) * (b[1] - a[1]),
        chord,
        width: Math.hypot(b[1] - a[1], b[2] - a[2]),
        circulation,
        cl: (2 * circulation) / chord,
      };
    });
  }

  /** The sheet far behind, seen along the stream: ends of its pieces from left to right, and their circulations. */
  private section(jumps: Float64Array, stream: Place): SheetPiece[] {
    // Seen along the stream.
    const aside = (p: Place) => p[1] - (stream[1] / stream[0]) * p[0];
    const height = (p: Place) => p[2] - (stream[2] / stream[0]) * p[0];
    return this.strips.flatMap((w, k) => {
      const { a, b, patch, lines } = w;
      const pieces: (readonly [Place, Place])[] = [[this.turn(w, a), this.turn(w, b)]];
      // What lies between the wing and the place behind its body where the wake comes to rest is carried by the body.
      for (const line of lines) {
        const [near, on] = this.alongBody(w, line, stream).map((places) => places[places.length - 1]);
        pieces.push(line.end === 'inner' ? [on, near] : [near, on]);
      }
      const middle = middleOf(w);
      return pieces.flatMap(([from, to], piece) => {
        const [inner, outer] = patch.out > 0 ? [from, to] : [to, from];
        const one = {
          ya: aside(inner),
          za: height(inner),
          yb: aside(outer),
          zb: height(outer),
          g: jumps[k],
          share: piece > 0 ? 0.5 : patch.out > 0 ? middle : 1 - middle,
        };
        if (Math.hypot(one.yb - one.ya, one.zb - one.za) < 1e-9) return [];
        return this.half
          ? [one, { ya: -one.yb, za: one.zb, yb: -one.ya, zb: one.za, g: one.g, share: 1 - one.share }]
          : [one];
      });
    });
  }

  /** Force over the stream's pressure that the wake far behind tells, across the stream, m²; of both sides. */
  force(jumps: Float64Array, [sx, sy, sz]: Place): [number, number, number] {
    let [x, y, z] = [0, 0, 0];
    for (const { ya, za, yb, zb, g } of this.section(jumps, [sx, sy, sz])) {
      const [wy, wz] = [2 * g * (yb - ya), 2 * g * (zb - za)];
      x += wz * sy - wy * sz;
      y -= wz * sx;
      z += wy * sx;
    }
    return [x, y, z];
  }

  /** Where lift acts that goes over from the wings to bodies: the quarter chord of the strips beside these, of all where there are none. */
  carryOver(jumps: Float64Array): Place | null {
    const at: [number, number, number] = [0, 0, 0];
    let whole = 0;
    const beside = this.strips.flatMap((w, k) => (w.carried ? [k] : []));
    for (const k of beside.length > 0 ? beside : this.strips.keys()) {
      const { patch, column, a, b } = this.strips[k];
      const weight = Math.abs(jumps[k]) * Math.hypot(b[1] - a[1], b[2] - a[2]);
      const nose = 3 * (column * (patch.ni + 1) + patch.ni / 2);
      const next = nose + 3 * (patch.ni + 1);
      for (let d = 0; d < 3; d++)
        at[d] += weight * (0.375 * (patch.nodes[nose + d] + patch.nodes[next + d]) + 0.125 * (a[d] + b[d]));
      whole += weight;
    }
    return whole > 0 ? [at[0] / whole, this.half ? 0 : at[1] / whole, at[2] / whole] : null;
  }

  /** Induced drag area from the wake far behind: the sheet's normal velocity where each strip's condition is posed. */
  trefftz(jumps: Float64Array, stream: Place): number {
    const sheet = this.section(jumps, stream);
    let drag = 0;
    for (const s of sheet) {
      const [y, z] = [s.ya + s.share * (s.yb - s.ya), s.za + s.share * (s.zb - s.za)];
      const width = Math.hypot(s.yb - s.ya, s.zb - s.za);
      const [ny, nz] = [-(s.zb - s.za) / width, (s.yb - s.ya) / width];
      let w = 0;
      for (const t of sheet)
        for (const [ty, tz, sign] of [
          [t.yb, t.zb, 1],
          [t.ya, t.za, -1],
        ]) {
          const [dy, dz] = [y - ty, z - tz];
          const d2 = dy * dy + dz * dz;
          if (d2 > 1e-16) w += (sign * t.g * (-dz * ny + dy * nz)) / (2 * Math.PI * d2);
        }
      drag += -s.g * w * width;
    }
    return drag;
  }
}
