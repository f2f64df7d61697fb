import type { Point3, Reference } from '../../airframe';
import { SingleMatrix } from '../../kernels';
import { DEG, type Factorisation, factorise, FailedComputation, solveFactorised } from '../../numerics';
import { Cancelled, type RunContext } from '../../results';
import { carriedOn, grazed, touchesOnly } from './beside-bodies';
import { clearOfWakes } from './clear-of-wakes';
import { gmres } from './gmres';
import type { Place } from './body-skin';
import { measured, panelsOf, type Panels } from './panel-geometry';
import { skinForces } from './panel-forces';
import { panelInfluence } from './panel-influence';
import type { PanelMesh } from './panel-mesh';
import { streamOf, type PanelPoint, type PanelState } from './panel-point';
import { patchGradient } from './skin-gradient';
import { CELLS, unitsOf, type Cutting, type Units } from './units';
import { WakeSheet, type WakeStrip } from './wake-sheet';
import { sidesOn, wakeEdges, type WakeEdge } from './wakes';

/** Of the iteration, against the right-hand side. */
const TOLERANCE = 1e-6;
/** Change of the solid angles of all wakes together, over the sphere's, from which a wake lies between two places; and of one strip that counts. */
const PASSED = 0.15;
const LEAST_CHANGE = 0.03;
/** Pressure coefficients below this are of no flow here; and by how much lift by pressures and by wakes may differ, by bodies, beside a share of it. */
const LEAST_PRESSURE = -80;
const APART = 0.1;
const APART_SHARE = 0.15;
/** Wakes that can lie on one body. */
const MOST_LINES = 15;
/** Share of a panel's width beyond which a condition does not move toward its edge: columns at tips are narrower than they are thick. */
const ASIDE = 0.4;
const INV4PI = 1 / (4 * Math.PI);

/**
 * Flow without viscosity about closed surfaces: sources and doublets of constant strength on flat panels, the potential of the disturbance zero
 * inside, the wake along the stream with the Kutta condition that its jump is that of the faces at the trailing edge.
 * @source Morino and Kuo, AIAA J. 12(2), 1974, 191–197; Katz and Plotkin, Low-Speed Aerodynamics, 2nd ed., 2001, §9.4 and §12.5.
 */
export class PanelFlow {
  readonly panels: Panels;
  private readonly units: Units;
  /** Pieces of the skins that the stream touches; and longer along x by 1∕β: there small disturbances are those of a stream without compressibility. */
  private readonly pieces: Panels;
  private readonly flat: Panels;
  /** By unit: its middle, where its condition is posed and its normal in the longer space; its area times its normal as it is. */
  private readonly centre: Float64Array;
  private readonly posed: Float64Array;
  private readonly surfaceOf: readonly string[];
  private readonly normal: Float64Array;
  private readonly faces: Float64Array;
  /** √(1 − M²). */ private readonly beta: number;
  /** Single numbers: the iteration passes over all of them many times, and what they round is far below what panels are. */
  private readonly matrix: SingleMatrix;
  /** What sources of a unit stream along x, y, z come to on the right-hand side. */
  private readonly right: Float64Array[];
  private readonly sheet: WakeSheet;
  /** Whether a trailing edge only grazes a body that its surface touches. */
  private readonly grazes: boolean;
  /** A surface that a body goes through which is narrow beside its columns. */
  private readonly narrow: string | undefined;
  private readonly offsets: number[];
  private readonly blocks: { from: number; size: number }[] = [];

  /**
   * @param about moment reference, m. @param coarse the same with half the panels along the chords: the circulation, whose error falls with the first
   *   power of their number, is carried on from both to the limit.
   * @param context told how far it has come, and asked whether to end.
   * @param mach of the stream, below 1.
   * @throws Cancelled when it is ended.
   */
  constructor(
    readonly mesh: PanelMesh,
    readonly reference: Reference,
    readonly about: Point3,
    private readonly coarse?: PanelFlow,
    context: RunContext = {},
    private readonly mach = 0,
  ) {
    this.beta = Math.sqrt(1 - mach * mach);
    this.panels = panelsOf(mesh);
    const edges = wakeEdges(mesh, mesh.inBodies, [...new Set(mesh.skins.values())]);
    this.units = unitsOf(mesh, cuttingOf(mesh, edges));
    this.pieces = measured(this.units.corners);
    this.flat = mach > 0 ? measured(this.units.corners, 1 / this.beta) : this.pieces;
    [this.centre, this.normal, this.faces] = this.measureUnits();
    this.posed = this.centre.slice();
    this.toFaceEachOther(this.posed);
    const ids = mesh.patches.flatMap((p) => new Array<string>(p.ni * p.nj).fill(p.id));
    this.surfaceOf = Array.from(this.units.panel, (panel) => ids[panel]);
    let sum = 0;
    this.offsets = mesh.patches.map((p) => {
      const at = sum;
      sum += p.ni * p.nj;
      return at;
    });
    const { first, count: n } = this.units;
    mesh.patches.forEach((p, k) => {
      const block = (panel: number, panels: number) => {
        const from = first[panel];
        const size = first[panel + panels] - from;
        if (size > 0) this.blocks.push({ from, size });
      };
      if (p.kind === 'wing') for (let j = 0; j < p.nj; j++) block(this.offsets[k] + j * p.ni, p.ni);
      else {
        const size = p.ni * p.nj;
        for (let at = 0; at < size; at += 64) block(this.offsets[k] + at, Math.min(64, size - at));
      }
    });
    const strips = edges.flatMap((edge) => this.strip(edge));
    this.grazes = touchesOnly(mesh, reference.span);
    this.narrow = mesh.patches.find((p) => p.narrow)?.id;
    this.sheet = new WakeSheet(carriedOn(strips, grazed(mesh)), reference.span, mesh.half, this.beta, mesh.turns);
    this.matrix = new SingleMatrix(n);
    this.right = [0, 1, 2].map(() => new Float64Array(n));
    this.assemble(context);
  }

  private measureUnits(): [Float64Array, Float64Array, Float64Array] {
    const { count, own, of } = this.units;
    const { flat, pieces } = this;
    const [centre, normal, faces] = [0, 1, 2].map(() => new Float64Array(3 * count));
    for (let k = 0; k < of.length; k++)
      for (let d = 0; d < 3; d++) {
        normal[3 * of[k] + d] += flat.area[k] * flat.normal[3 * k + d];
        faces[3 * of[k] + d] += pieces.area[k] * pieces.normal[3 * k + d];
      }
    for (let u = 0; u < count; u++) {
      const size = Math.hypot(normal[3 * u], normal[3 * u + 1], normal[3 * u + 2]);
      for (let d = 0; d < 3; d++) {
        centre[3 * u + d] = flat.centre[3 * own[u] + d];
        normal[3 * u + d] = size > 0 ? normal[3 * u + d] / size : 0;
      }
    }
    this.toMiddles(centre);
    return [centre, normal, faces];
  }

  /**
   * Conditions of whole panels of wings stand in the middle of their columns by the law of the columns' widths, not in that of the panels: where widths
   * shrink toward the tip, halfway across a column the sheet's velocity is too small, by a few per cent of the induced drag.
   */
  private toMiddles(centre: Float64Array): void {
    const { first, share } = this.units;
    let k = 0;
    for (const { ni, nj, nodes, middles } of this.mesh.patches)
      for (let j = 0; j < nj; j++)
        for (let i = 0; i < ni; i++, k++) {
          const u = first[k];
          if (!middles || first[k + 1] - u !== 1 || share[u] < 1) continue;
          const a = 3 * (j * (ni + 1) + i);
          const b = a + 3 * (ni + 1);
          for (let d = 0; d < 3; d++) {
            const across = 0.5 * (nodes[b + d] + nodes[b + 3 + d] - nodes[a + d] - nodes[a + 3 + d]);
            centre[3 * u + d] += ((middles[j] - 0.5) * across) / (d === 0 ? this.beta : 1);
          }
        }
  }

  /**
   * Conditions of the two faces of a thin wing stand across from each other, normal to its span. Where a wing rises and its sections stand upright, the middles of a
   * pair of panels lie along the span from each other; the difference of their conditions would then tell a slope of the inner potential along the span,
   * which constant doublets have wrong, and not the flow through the wing.
   */
  private toFaceEachOther(centre: Float64Array): void {
    const { first, share } = this.units;
    let start = 0;
    for (const { kind, ni, nj, nodes } of this.mesh.patches) {
      if (kind === 'wing')
        for (let j = 0; j < nj; j++) {
          // A column that something cuts stays as it is.
          const from = start + j * ni;
          if (first[from + ni] - first[from] !== ni || share.subarray(first[from], first[from + ni]).some((v) => v < 1))
            continue;
          for (let i = 0; i < ni / 2; i++) {
            const [u, l] = [first[from + i], first[from + ni - 1 - i]];
            const a = 3 * (j * (ni + 1) + i);
            const b = a + 3 * (ni + 1);
            const across = [0, 1, 2].map(
              (d) => 0.5 * (nodes[b + d] + nodes[b + 3 + d] - nodes[a + d] - nodes[a + 3 + d]),
            );
            across[0] /= this.beta;
            const width2 = across.reduce((sum, v) => sum + v * v, 0);
            let along = 0;
            for (let d = 0; d < 3; d++) along += ((centre[3 * u + d] - centre[3 * l + d]) * across[d]) / width2;
            const off = (0.5 * along) / (1 + (along / (2 * ASIDE)) ** 4);
            for (let d = 0; d < 3; d++) {
              centre[3 * u + d] -= off * across[d];
              centre[3 * l + d] += off * across[d];
            }
          }
        }
      start += ni * nj;
    }
  }

  private assemble({ report, cancelled }: RunContext): void {
    const p = this.flat;
    const { count: n, of, own } = this.units;
    const { normal } = p;
    const { posed: centre } = this;
    const [rx, ry, rz] = this.right;
    const out = new Float64Array(2);
    const { half } = this.mesh;
    const matrix = this.matrix.values;
    for (let i = 0; i < n; i++) {
      if (i % 64 === 0) {
        if (cancelled?.()) throw new Cancelled();
        report?.({ done: i, of: n });
      }
      const [x, y, z] = [centre[3 * i], centre[3 * i + 1], centre[3 * i + 2]];
      const row = i * n;
      let [sx, sy, sz] = [0, 0, 0];
      for (let k = 0; k < p.count; k++) {
        panelInfluence(p, k, x, y, z, own[i] === k, out);
        let angle = out[0];
        let source = out[1];
        if (half) {
          // The image of a panel is seen from here as the panel is from the image of here.
          panelInfluence(p, k, x, -y, z, false, out);
          angle += out[0];
          source += out[1];
        }
        matrix[row + of[k]] += angle * INV4PI;
        sx -= source * normal[3 * k];
        sy -= source * normal[3 * k + 1];
        sz -= source * normal[3 * k + 2];
      }
      rx[i] = (sx * INV4PI) / this.beta;
      ry[i] = sy * INV4PI;
      rz[i] = sz * INV4PI;
    }
  }

  /** The wake of a column, where units of both faces lie at its edge. */
  private strip(edge: WakeEdge): WakeStrip[] {
    const { patch, index, column, from, to } = edge;
    const upperPanel = this.offsets[index] + column * patch.ni;
    const lowerPanel = upperPanel + patch.ni - 1;
    const share = 0.5 * (from + to);
    const [upper, lower] = [unitAtEdge(this.units, upperPanel, share, 0), unitAtEdge(this.units, lowerPanel, share, 1)];
    return [{ ...edge, upper, lower }];
  }

  /**
   * The potential on the skins in one state.
   * @param jumps of the wake strips, where they are given; else they follow from the Kutta condition. @param start of the iteration.
   * @throws FailedComputation `panels-unsolved` where the iteration does not come to its end.
   */
  private potential(state: PanelState, jumps?: Float64Array, start?: Float64Array): Float64Array {
    const stream = streamOf(state);
    const n = this.units.count;
    const m = this.sheet.strips.length;
    const wake = this.wakeFor(stream);
    const { matrix } = this;
    const wakes = this.sheet.strips;
    const b = new Float64Array(n);
    for (let i = 0; i < n; i++) {
      b[i] = stream[0] * this.right[0][i] + stream[1] * this.right[1][i] + stream[2] * this.right[2][i];
      if (jumps) for (let w = 0; w < m; w++) b[i] -= wake[i * m + w] * jumps[w];
    }
    const factors = this.blockFactors(jumps ? null : wake);
    const jump = new Float64Array(m);
    const mu = start?.slice() ?? new Float64Array(n);
    const rest = gmres(
      (x, out) => {
        if (!jumps) for (let k = 0; k < m; k++) jump[k] = x[wakes[k].upper] - x[wakes[k].lower];
        out.set(matrix.times(x));
        if (jumps) return;
        for (let i = 0; i < n; i++) {
          let sum = 0;
          for (let w = 0, at = i * m; w < m; w++) sum += wake[at + w] * jump[w];
          out[i] += sum;
        }
      },
      (x) => {
        for (const { from, size, f } of factors) solveFactorised(f, x.subarray(from, from + size));
      },
      b,
      mu,
      TOLERANCE,
    );
    if (!(rest < 1e-4))
      throw new FailedComputation(
        'panels-unsolved',
        `The flow about the skins was not found at ${(state.alpha * DEG).toFixed(2)}°: a rest of ${rest.toExponential(1)} stays.`,
        'Look for parts that touch or pass through each other.',
      );
    return mu;
  }

  /** Jumps of the wake strips from the Kutta condition. */
  private kutta(state: PanelState): { jumps: Float64Array; mu: Float64Array } {
    const mu = this.potential(state, undefined, this.lastPotential);
    this.lastPotential = mu;
    return { jumps: Float64Array.from(this.sheet.strips, (w) => mu[w.upper] - mu[w.lower]), mu };
  }
  /** Of the state before, from which the next one goes on. */
  private lastPotential?: Float64Array;

  /** Solves one state. @throws FailedComputation `panels-unsolved` where the iteration does not come to its end. */
  at(state: PanelState): PanelPoint {
    const own = this.kutta(state);
    if (!this.coarse) return this.point(state, streamOf(state), own.mu, own.jumps);
    const before = this.coarse.kutta(state).jumps;
    const jumps = own.jumps.map((v, k) => 2 * v - before[k]);
    return this.point(state, streamOf(state), this.potential(state, jumps, own.mu), jumps);
  }

  private lastWake?: { key: string; wake: Float64Array };
  private wakeFor(stream: readonly [number, number, number]): Float64Array {
    const key = stream.join();
    if (this.lastWake?.key !== key) {
      const { mesh, sheet, units } = this;
      const aside = clearOfWakes(mesh, sheet.pieces(stream), stream, mesh.surfaces, units.panel);
      this.lastWake = {
        key,
        wake: sheet.influence(stream, this.centre, aside, { at: this.posed, surfaces: this.surfaceOf }),
      };
    }
    return this.lastWake.wake;
  }

  private blockFactors(wake: Float64Array | null): { from: number; size: number; f: Factorisation }[] {
    const n = this.units.count;
    const m = this.sheet.strips.length;
    return this.blocks.map(({ from, size }) => {
      const a = new Float64Array(size * size);
      for (let i = 0; i < size; i++)
        for (let k = 0; k < size; k++) a[i * size + k] = this.matrix.values[(from + i) * n + from + k];
      const inside = (u: number) => u >= from && u < from + size;
      this.sheet.strips.forEach((w, s) => {
        if (!wake || !inside(w.upper) || !inside(w.lower)) return;
        for (let i = 0; i < size; i++) {
          a[i * size + w.upper - from] += wake[(from + i) * m + s];
          a[i * size + w.lower - from] -= wake[(from + i) * m + s];
        }
      });
      return { from, size, f: factorise(a, size) };
    });
  }

  private point(state: PanelState, stream: Place, mu: Float64Array, jumps: Float64Array): PanelPoint {
    const { units, pieces, faces, normal, offsets, reference, about, mach, sheet } = this;
    const skin = {
      units,
      pieces,
      faces,
      normal,
      offsets,
      reference,
      about,
      half: this.mesh.half,
      mach,
      still: this.still(),
    };
    const far = { force: sheet.force(jumps, stream), at: sheet.carryOver(jumps) };
    const forces = skinForces(skin, sheet.strips, state, this.gradient(mu, stream, jumps), jumps, far);
    const doubt = doubtOf(forces, this.grazes, this.narrow);
    return {
      ...forces,
      CDi: sheet.trefftz(jumps, stream) / reference.area,
      cp: this.onPanels(forces.cp),
      strips: sheet.carried(jumps),
      ...(doubt ? { doubt } : {}),
    };
  }

  /** Panels of halves of fins, from one to before another. */
  private still(): [number, number][] {
    const { patches, surfaces } = this.mesh;
    const fins = new Set(patches.filter((p) => p.kind === 'body' && surfaces.has(p.id)).map((p) => p.id));
    return patches.flatMap(({ id, ni, nj }, k): [number, number][] =>
      fins.has(id) ? [[this.offsets[k], this.offsets[k] + ni * nj]] : [],
    );
  }

  /** Values of units as means on their panels; none on those that lie inside of others. */
  private onPanels(values: Float64Array): Float32Array {
    const { first } = this.units;
    const { faces } = this;
    return Float32Array.from({ length: this.panels.count }, (_, k) => {
      if (first[k + 1] - first[k] === 1) return values[first[k]];
      let [sum, area] = [0, 0];
      for (let u = first[k]; u < first[k + 1]; u++) {
        const size = Math.hypot(faces[3 * u], faces[3 * u + 1], faces[3 * u + 2]);
        sum += size * values[u];
        area += size;
      }
      return area > 0 ? sum / area : 0;
    });
  }

  /** Gradient of the potential along the skin at every unit, from its neighbours in both directions. */
  private gradient(mu: Float64Array, stream: Place, jumps: Float64Array): Float64Array {
    const out = new Float64Array(3 * this.units.count);
    const wake = this.wakeFor(stream);
    const m = this.sheet.strips.length;
    // Seen from one side of a sheet to the other, the solid angles of its strips change by the whole sphere together.
    const jump = (from: number, to: number): number => {
      let [all, by] = [0, 0];
      for (let s = 0, a = from * m, b = to * m; s < m; s++, a++, b++) {
        const change = wake[b] - wake[a];
        all += change;
        if (Math.abs(change) > LEAST_CHANGE) by += change * jumps[s];
      }
      return Math.abs(all) > PASSED ? by : 0;
    };
    const { units, centre, normal, mesh, beta } = this;
    mesh.patches.forEach((patch, p) => {
      const lying = this.sheet.strips.filter((w) => w.lines.some((l) => l.skin === mesh.skins.get(p)));
      const wakesFrom = Math.min(...lying.map(({ a, b }) => Math.min(a[0], b[0]) / beta));
      patchGradient({ units, centre, normal, wakesFrom, stretch: 1 / beta, jump }, patch, this.offsets[p], mu, out);
    });
    return out;
  }
}

/** Why a solution is not to be relied on. @param grazes whether a trailing edge only grazes a body that its surface touches. */
function doubtOf(
  { CL, CLpressure: near, cp }: ReturnType<typeof skinForces>,
  grazes: boolean,
  narrow: string | undefined,
): string | undefined {
  const least = cp.reduce((a, b) => Math.min(a, b), 1);
  if (least < LEAST_PRESSURE)
    return `The least pressure coefficient is ${least.toFixed(0)}: panels of parts that barely touch, or a wake close to a skin, spoil it.`;
  if (Math.abs(near - CL) > APART + APART_SHARE * Math.abs(CL))
    return `Pressures give a lift coefficient of ${near.toFixed(2)}, the wakes ${CL.toFixed(2)}: look for parts that barely touch.`;
  if (grazes)
    return 'The trailing edge of a surface only grazes a body that it touches: lift can be a tenth off, and more. Move them into each other, or apart.';
  if (narrow)
    return `A slim body passes through ${narrow}: what it does to the load there, and to the pitching moment, is told roughly.`;
  return undefined;
}

/** How the skins are cut: by what passes through them, and along the wakes that lie on them. */
function cuttingOf(mesh: PanelMesh, edges: readonly WakeEdge[]): Map<number, Cutting> {
  const lines = edges.flatMap((e) => e.lines);
  return new Map(
    [...mesh.hiding].map(([index, hidden]) => {
      const skin = mesh.skins.get(index);
      const own = skin ? lines.filter((l) => l.skin === skin).slice(0, MOST_LINES) : [];
      return [index, own.length > 0 ? { hidden, sides: (p: Place) => sidesOn(own, p) } : { hidden }];
    }),
  );
}

/** The unit of a panel at the trailing edge, at a share of its width. @param side 0 at the panel's first row, 1 at its last. */
function unitAtEdge({ cells, first }: Units, panel: number, share: number, side: 0 | 1): number {
  const own = cells.get(panel);
  if (!own) return first[panel + 1] > first[panel] ? first[panel] : -1;
  const row = Math.min(CELLS - 1, Math.floor(share * CELLS));
  return own[row * CELLS + (side === 0 ? 0 : CELLS - 1)];
}
