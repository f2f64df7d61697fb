import { factorise, InvalidInput, solveFactorised } from '../numerics';

/** A corner of a thin-walled cross-section, m: x aft, z up. */
export interface Corner {
  x: number;
  z: number;
  /** Stiffness of what is gathered there beside the walls, such as a cap, N. */ EA: number;
}

/** A straight wall between two corners. */
export interface Wall {
  a: number;
  b: number;
  /** m */ thickness: number;
  /** Moduli, Pa. */ E: number;
  G: number;
}

/** Shear flows of a thin-walled cross-section. */
export interface ShearFlows {
  /** x of the shear centre, m. */ centre: number;
  /** Torsional stiffness, N m². */ GJ: number;
  /** Shear flow of each wall from a to b at its middle, of one newton up through the shear centre, 1/m. */ shear: Float64Array;
  /** And of a torque of one newton metre, nose-up, N/m. */ torque: Float64Array;
}

/**
 * Shear flows of connected walls, open or with any number of cells, as flows between corners: each corner's flows balance what the bending stress there
 * changes along the span, each cell twists as all others do.
 * The section bends up and down only: what a lopsided one would bend fore and aft is held, as by the rest of the wing.
 * @param corners with at least one wall each. @throws InvalidInput `walls` where they are not all connected, or carry no bending.
 * @source the classical thin-walled beam (closed cells: VDI-Z. 40, 1896, 785–790): ∮ q ds/(G t) = 2 A θ′ for every cell, T = Σ 2 A q.
 */
export function shearFlows(corners: readonly Corner[], walls: readonly Wall[]): ShearFlows {
  const n = walls.length;
  const length = walls.map(({ a, b }) => Math.hypot(corners[b].x - corners[a].x, corners[b].z - corners[a].z));
  const EA = corners.map((c) => c.EA);
  walls.forEach((w, i) => {
    const half = 0.5 * w.E * w.thickness * length[i];
    EA[w.a] += half;
    EA[w.b] += half;
  });
  const whole = EA.reduce((s, v) => s + v, 0);
  const z0 = corners.reduce((s, c, i) => s + EA[i] * c.z, 0) / whole;
  const EI = corners.reduce((s, c, i) => s + EA[i] * (c.z - z0) ** 2, 0);
  const refuse = (): never => {
    throw new InvalidInput('walls', 'The walls of a cross-section do not hang together.', undefined, 'structure');
  };
  if (!(EI > 0)) refuse();
  // A tree of walls from the first corner; each further wall closes a cell.
  const up: ({ wall: number; to: number } | null | undefined)[] = corners.map(() => undefined);
  const depth = new Int32Array(corners.length);
  const at: number[][] = corners.map(() => []);
  walls.forEach((w, i) => {
    at[w.a].push(i);
    at[w.b].push(i);
  });
  up[0] = null;
  const tree = new Uint8Array(n);
  const queue = [0];
  for (let k = 0; k < queue.length; k++) {
    const from = queue[k];
    for (const i of at[from]) {
      const to = walls[i].a === from ? walls[i].b : walls[i].a;
      if (up[to] !== undefined) continue;
      up[to] = { wall: i, to: from };
      depth[to] = depth[from] + 1;
      tree[i] = 1;
      queue.push(to);
    }
  }
  if (queue.length < corners.length) refuse();
  const matrix = new Float64Array(n * n);
  const sheared = new Float64Array(n);
  const twisted = new Float64Array(n);
  let row = 0;
  for (let i = 1; i < corners.length; i++, row++) {
    for (const w of at[i]) matrix[row * n + w] += walls[w].a === i ? 1 : -1;
    sheared[row] = (-EA[i] * (corners[i].z - z0)) / EI;
  }
  const flexible = Math.max(...walls.map((w, i) => length[i] / (w.G * w.thickness)));
  for (let k = 0; k < n; k++) {
    if (tree[k]) continue;
    // Around the cell: along this wall, then back through the tree.
    let area = 0;
    const along = (i: number, from: number) => {
      const w = walls[i];
      const to = w.a === from ? w.b : w.a;
      matrix[row * n + i] += ((w.a === from ? 1 : -1) * length[i]) / (w.G * w.thickness * flexible);
      area += 0.5 * (corners[from].x * corners[to].z - corners[to].x * corners[from].z);
    };
    let [p, q] = [walls[k].b, walls[k].a];
    along(k, q);
    const back: [number, number][] = [];
    while (p !== q) {
      if (depth[p] >= depth[q]) {
        const u = up[p]!;
        along(u.wall, p);
        p = u.to;
      } else {
        const u = up[q]!;
        back.push([u.wall, u.to]);
        q = u.to;
      }
    }
    for (const [wall, from] of back.reverse()) along(wall, from);
    twisted[row] = (2 * area) / flexible;
    row++;
  }
  const f = factorise(matrix, n);
  const shear = solveFactorised(f, sheared);
  const rate = solveFactorised(f, twisted);
  const moment = (flow: Float64Array) =>
    walls.reduce((sum, { a, b }, i) => sum + flow[i] * (corners[a].x * corners[b].z - corners[b].x * corners[a].z), 0);
  const closed = moment(rate);
  const open = walls.reduce((sum, w, i) => sum + (w.G * length[i] * w.thickness ** 3) / 3, 0);
  const GJ = closed + open;
  const lift = walls.reduce((sum, { a, b }, i) => sum + shear[i] * (corners[b].z - corners[a].z), 0);
  // x aft, z up: a flow that turns x toward z turns the nose down.
  return { centre: moment(shear) / lift, GJ, shear: shear.map((q) => q / lift), torque: rate.map((q) => -q / GJ) };
}
