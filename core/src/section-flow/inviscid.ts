import { factoriseDense } from '../kernels';
import { DEG, type Factorisation, FailedComputation, InvalidInput, solveFactorised } from '../numerics';
import type { Outline } from '../section';
import { sourceStream, vortexStream } from './influence';
import { panelNodes, type PanelNodes, type PanelSpread, DEFAULT_SPREAD } from './panelling';

/** Gap of the trailing edge, in panel lengths there, below which it counts as sharp. */
const SHARP = 1e-4;

/** One angle of the inviscid flow about a section; everything in chords and stream speeds. */
export interface InviscidPoint {
  /** rad */ alpha: number;
  cl: number;
  /** Zero by theory: an inviscid section has no drag. */
  cd: number;
  /** About the quarter chord, nose-up positive. */
  cm: number;
  /** Greatest suction. */
  cpMin: number;
  /** Pressure drag that the panels leave over: a measure of their error. */
  strayDrag: number;
  status: 'solved' | 'doubtful';
  reason?: string;
  /** Pressure coefficient at the nodes. */
  cp: Float64Array;
  /** Tangential speed at the nodes, positive along the loop (upper trailing edge → nose → lower trailing edge). */
  speed: Float64Array;
}

export const HIGHEST_MACH = 0.7;
export const HIGHEST_ANGLE = Math.PI / 4;

/**
 * The inviscid flow about a section: vortex sheets of linear strength on straight panels, constant stream function on the outline inside,
 * Kutta condition; solved once for two unit streams, from which any angle follows.
 *
 * Unknowns: γ at the n nodes and the stream function ψ₀ of the outline. Rows: ψ = ψ₀ at the nodes; γ₁ + γₙ = 0 at the trailing edge. A
 * sharp edge has two equal nodes; the second one's row is replaced by the condition that the mean of the speeds above and below has no kink
 * there. A blunt edge is closed by a panel whose source and vortex strength let the flow leave along the bisector.
 * @source stream-function formulation: AIAA J. 25(10), 1987; Lecture Notes in Engineering 54, 1989.
 */
export class InviscidSection {
  readonly nodes: PanelNodes;
  /** Vortex strength at the nodes for a unit stream along x and along y. */
  readonly alongX: Float64Array;
  readonly alongY: Float64Array;
  readonly blunt: boolean;
  /** The factorised system and its size less one, for right-hand sides beyond the two streams. */
  readonly system: Factorisation;

  /**
   * @param outline a checked outline in chords, or panel ends that are placed already.
   * @throws InvalidInput, FailedComputation `singular-matrix`.
   */
  constructor(outline: Outline | PanelNodes, spread: PanelSpread = DEFAULT_SPREAD) {
    this.nodes = 's' in outline ? outline : panelNodes(outline, spread);
    const { x, y } = this.nodes;
    const n = x.length;
    const size = n + 1;
    const a = new Float64Array(size * size);
    const pair = new Float64Array(2);
    const gap = Math.hypot(x[0] - x[n - 1], y[0] - y[n - 1]);
    this.blunt = gap > SHARP * Math.hypot(x[1] - x[0], y[1] - y[0]);
    let source = 0;
    let vortex = 0;
    if (this.blunt) [source, vortex] = trailingEdgeShares(x, y);
    for (let i = 0; i < n; i++) {
      const row = i * size;
      for (let j = 0; j + 1 < n; j++) {
        vortexStream(x[j], y[j], x[j + 1], y[j + 1], x[i], y[i], pair);
        a[row + j] += pair[0];
        a[row + j + 1] += pair[1];
      }
      if (this.blunt) {
        vortexStream(x[n - 1], y[n - 1], x[0], y[0], x[i], y[i], pair);
        const edge = vortex * (pair[0] + pair[1]) + source * sourceStream(x[n - 1], y[n - 1], x[0], y[0], x[i], y[i]);
        a[row] += 0.5 * edge;
        a[row + n - 1] -= 0.5 * edge;
      }
      a[row + n] = -1;
    }
    if (!this.blunt) {
      const row = (n - 1) * size;
      a.fill(0, row, row + size);
      // Straight on from the last two nodes of each surface, at their own spacing.
      const { s } = this.nodes;
      const up = (s[1] - s[0]) / (s[2] - s[1]);
      const low = (s[n - 1] - s[n - 2]) / (s[n - 2] - s[n - 3]);
      a[row] = 1;
      a[row + 1] = -1 - up;
      a[row + 2] = up;
      a[row + n - 1] = -1;
      a[row + n - 2] = 1 + low;
      a[row + n - 3] = -low;
    }
    a[n * size] = 1;
    a[n * size + n - 1] = 1;
    const f = factoriseDense(a, size);
    this.system = f;
    const bx = new Float64Array(size);
    const by = new Float64Array(size);
    const rows = this.blunt ? n : n - 1;
    for (let i = 0; i < rows; i++) {
      bx[i] = -y[i];
      by[i] = x[i];
    }
    this.alongX = solveFactorised(f, bx).slice(0, n);
    this.alongY = solveFactorised(f, by).slice(0, n);
    for (let i = 0; i < n; i++) {
      if (!Number.isFinite(this.alongX[i]) || !Number.isFinite(this.alongY[i])) {
        throw new FailedComputation(
          'singular-matrix',
          'The flow about this outline could not be solved.',
          'Check its points.',
        );
      }
    }
  }

  /**
   * The flow at one angle of attack.
   * @param alpha rad, within ±45°. @param mach below 0.7; pressures by the Kármán–Tsien rule (NACA TN-1006, 1946).
   * @throws InvalidInput `angle-range` or `mach-range`.
   */
  at(alpha: number, mach = 0): InviscidPoint {
    checkAngle(alpha);
    checkMach(mach);
    const { x, y } = this.nodes;
    const n = x.length;
    const cos = Math.cos(alpha);
    const sin = Math.sin(alpha);
    const beta = Math.sqrt(1 - mach * mach);
    const tsien = (mach * mach) / (1 + beta) / 2;
    const cp = new Float64Array(n);
    const speed = new Float64Array(n);
    let cpMin = Infinity;
    for (let i = 0; i < n; i++) {
      const gamma = cos * this.alongX[i] + sin * this.alongY[i];
      speed[i] = -gamma;
      cp[i] = pressureOf(gamma, beta, tsien);
      if (cp[i] < cpMin) cpMin = cp[i];
    }
    const { fx, fy, moment } = pressureForce(x, y, cp, (i, j) => pressureOf(0.5 * (speed[i] + speed[j]), beta, tsien));
    const critical = mach > 0 ? criticalPressure(mach) : -Infinity;
    const supersonic = cpMin < critical;
    return {
      alpha,
      cl: fy * cos - fx * sin,
      cd: 0,
      cm: moment,
      cpMin,
      strayDrag: fx * cos + fy * sin,
      status: supersonic ? 'doubtful' : 'solved',
      ...(supersonic
        ? { reason: 'The flow is supersonic over part of the section; the compressibility rule no longer holds.' }
        : {}),
      cp,
      speed,
    };
  }
}

/** Pressure coefficient at which the local flow reaches the speed of sound. @source NACA TR-1135, 1953. */
export function criticalPressure(mach: number): number {
  const k = 1.4;
  return (2 / (k * mach * mach)) * (((1 + 0.5 * (k - 1) * mach * mach) / (1 + 0.5 * (k - 1))) ** (k / (k - 1)) - 1);
}

/** Source and vortex strength of the closing panel per unit speed leaving the edge: the flow leaves along the bisector. */
export function trailingEdgeShares(x: Float64Array, y: Float64Array): [number, number] {
  const n = x.length;
  const ul = Math.hypot(x[0] - x[1], y[0] - y[1]);
  const ll = Math.hypot(x[n - 1] - x[n - 2], y[n - 1] - y[n - 2]);
  let sx = (x[0] - x[1]) / ul + (x[n - 1] - x[n - 2]) / ll;
  let sy = (y[0] - y[1]) / ul + (y[n - 1] - y[n - 2]) / ll;
  const norm = Math.hypot(sx, sy);
  sx /= norm;
  sy /= norm;
  const gap = Math.hypot(x[0] - x[n - 1], y[0] - y[n - 1]);
  const tx = (x[0] - x[n - 1]) / gap;
  const ty = (y[0] - y[n - 1]) / gap;
  return [sx * ty - sy * tx, -(sx * tx + sy * ty)];
}

function pressureOf(speed: number, beta: number, tsien: number): number {
  const incompressible = 1 - speed * speed;
  return incompressible / (beta + tsien * incompressible);
}

/**
 * Force and moment coefficients of the pressure on the loop, moment about (0.25, 0), nose-up. Along a panel the speed is linear, so the
 * pressure is integrated by Simpson's rule with the pressure of the middle; the blunt edge carries the mean of its ends.
 */
function pressureForce(
  x: Float64Array,
  y: Float64Array,
  cp: Float64Array,
  middle: (i: number, j: number) => number,
): { fx: number; fy: number; moment: number } {
  const n = x.length;
  let fx = 0;
  let fy = 0;
  let moment = 0;
  for (let i = 0; i < n; i++) {
    const closing = i + 1 === n;
    const j = closing ? 0 : i + 1;
    const dx = x[j] - x[i];
    const dy = y[j] - y[i];
    const mean = closing ? 0.5 * (cp[i] + cp[j]) : (cp[i] + 4 * middle(i, j) + cp[j]) / 6;
    // The outward normal of a counter-clockwise loop is (dy, −dx); pressure pushes inward.
    fx -= mean * dy;
    fy += mean * dx;
    const mx = 0.5 * (x[i] + x[j]) - 0.25;
    const my = 0.5 * (y[i] + y[j]);
    moment -= mean * (mx * dx + my * dy) + ((cp[j] - cp[i]) / 12) * (dx * dx + dy * dy);
  }
  return { fx, fy, moment };
}

/** Refuses an angle of attack outside ±45°. @param alpha rad. @throws InvalidInput `angle-range`. */
export function checkAngle(alpha: number): void {
  if (!Number.isFinite(alpha) || Math.abs(alpha) > HIGHEST_ANGLE + 1e-12) {
    throw new InvalidInput(
      'angle-range',
      `The angle of attack must lie within ±45°; ${Number.isFinite(alpha) ? (alpha * DEG).toFixed(1) : alpha}° does not.`,
      undefined,
      'alpha',
    );
  }
}

/** Refuses a Mach number outside the compressibility rule. @throws InvalidInput `mach-range` below 0 or from 0.7 on. */
export function checkMach(mach: number): void {
  if (!(mach >= 0 && mach < HIGHEST_MACH)) {
    throw new InvalidInput(
      'mach-range',
      `The Mach number must be from 0 to below ${HIGHEST_MACH}; ${mach} is not.`,
      'The compressibility rule holds for subsonic flow only.',
      'mach',
    );
  }
}
