import type { SurfaceLattice } from './lattice';

/** How far the end of a surface may stand from an edge of another to be laid on it: a share of the strip there, or of the shorter span. */
const OF_STRIP = 0.3;
const OF_SPAN = 0.01;
/** What lies farther apart anywhere, as a share of the chord, is not joined. */
const OF_CHORD = 0.2;

/** y and z of an edge along x. */
interface EdgeLine {
  x: number[];
  y: number[];
  z: number[];
}

function edgeLine(p: SurfaceLattice, edge: number): EdgeLine {
  const line: EdgeLine = { x: [], y: [], z: [] };
  for (let i = 0; i <= p.rows; i++) {
    const at = 3 * (edge * (p.rows + 1) + i);
    line.x.push(p.corners[at]);
    line.y.push(p.corners[at + 1]);
    line.z.push(p.corners[at + 2]);
  }
  return line;
}

const mean = (list: readonly number[]) => 0.5 * (list[0] + list[list.length - 1]);

/** On the line at x: ahead of it as its first stretch runs, behind it along the wake. */
function on(line: EdgeLine, key: 'y' | 'z', x: number): number {
  const last = line.x.length - 1;
  if (x >= line.x[last]) return line[key][last];
  let k = 0;
  while (k < last - 1 && line.x[k + 1] < x) k++;
  const t = (x - line.x[k]) / (line.x[k + 1] - line.x[k]);
  return line[key][k] + t * (line[key][k + 1] - line[key][k]);
}

const spanOf = (p: SurfaceLattice) => p.width.reduce((sum, w) => sum + w, 0);

/** How far two lines that run along each other are apart where they are nearest: 0 where they cross, Infinity where they are apart by a part of the chord. */
function between(a: EdgeLine, b: EdgeLine): number {
  const last = b.x.length - 1;
  let [nearest, side] = [Infinity, [0, 0]];
  for (let i = 0; i <= last; i++) {
    const d = [on(a, 'y', b.x[i]) - b.y[i], on(a, 'z', b.x[i]) - b.z[i]];
    const away = Math.hypot(d[0], d[1]);
    if (away > OF_CHORD * (b.x[last] - b.x[0])) return Infinity;
    if (d[0] * side[0] + d[1] * side[1] < 0) nearest = 0;
    nearest = Math.min(nearest, away);
    side = d;
  }
  return nearest;
}

/** The edge of `a` that an end of `b` runs along; null where there is none. */
function edgeUnder(a: SurfaceLattice, b: SurfaceLattice, end: EdgeLine): EdgeLine | null {
  const reach = OF_SPAN * Math.min(spanOf(a), spanOf(b));
  let found: EdgeLine | null = null;
  let nearest = Infinity;
  for (let e = 0; e <= a.strips; e++) {
    const line = edgeLine(a, e);
    if (!(end.x[0] < line.x[a.rows] && line.x[0] < end.x[b.rows])) continue;
    const strip = Math.min(a.width[Math.max(0, e - 1)], a.width[Math.min(a.strips - 1, e)]);
    // An end meets an end within what looks like one place; an edge between strips only where it runs along it.
    const near = e === 0 || e === a.strips ? Math.max(OF_STRIP * strip, reach) : OF_STRIP * strip;
    const away = between(line, end);
    if (away < near && away < nearest) {
      nearest = away;
      found = line;
    }
  }
  return found;
}

/**
 * Lays the ends of surfaces on the edges of others that they stand on: a fin at a twisted tip, or on a tailplane that is set at an angle, would else have the
 * vortices of the other's edge run across its first strips, close to its control points, where they have no smooth answer. First what lies in the surface's own
 * plane is moved, which changes none of its slopes; then what camber leaves across it, with the slopes as they were, as the theory of thin surfaces has them.
 * What is moved fades along the span. Widths of strips are measured again.
 */
export function layEnds(parts: readonly SurfaceLattice[]): void {
  for (const across of [false, true])
    for (const b of parts)
      for (const end of [0, b.strips]) {
        const line = edgeLine(b, end);
        for (const a of parts) {
          if (a === b || a.surface === b.surface) continue;
          const under = edgeUnder(a, b, line);
          if (under && shift(b, end, line, under, across)) break;
        }
      }
}

/** Whether an edge lies in the plane of symmetry. */
const onPlane = (line: EdgeLine) => line.y.every((y) => Math.abs(y) < 1e-6 * (line.x[line.x.length - 1] - line.x[0]));

/** @returns whether anything was moved. */
function shift(b: SurfaceLattice, end: number, line: EdgeLine, under: EdgeLine, across: boolean): boolean {
  const { rows, strips, corners, controls } = b;
  const stride = 3 * (rows + 1);
  const beside = edgeLine(b, end === 0 ? 1 : strips - 1);
  const length = Math.hypot(mean(beside.y) - mean(line.y), mean(beside.z) - mean(line.z));
  const within = [(mean(beside.y) - mean(line.y)) / length, (mean(beside.z) - mean(line.z)) / length];
  const along = across ? [-within[1], within[0]] : within;
  // Both halves of a mirrored surface meet in the plane of symmetry.
  if (b.mirrored && Math.abs(along[0]) > 0.01 && onPlane(line)) return false;
  const moves = line.x.map(
    (x, i) => (on(under, 'y', x) - line.y[i]) * along[0] + (on(under, 'z', x) - line.z[i]) * along[1],
  );
  const most = Math.max(...moves.map(Math.abs));
  if (most < 1e-9 || most > 0.5 * spanOf(b)) return most < 1e-9;
  const total = spanOf(b);
  let reached = 0;
  for (let e = 0; e <= strips; e++) {
    const share = end === 0 ? 1 - reached / total : reached / total;
    for (let i = 0; i <= rows; i++) {
      const at = e * stride + 3 * i;
      corners[at + 1] += share * moves[i] * along[0];
      corners[at + 2] += share * moves[i] * along[1];
    }
    if (e < strips) reached += b.width[e];
  }
  for (let s = 0; s < strips; s++) {
    const share = end === 0 ? 1 - b.station[s] : b.station[s];
    for (let i = 0; i < rows; i++) {
      const [from, to] = [s * stride + 3 * i, (s + 1) * stride + 3 * i];
      const [x0, x1] = [0.5 * (corners[from] + corners[to]), 0.5 * (corners[from + 3] + corners[to + 3])];
      const at = 3 * (s * rows + i);
      const t = Math.min(1, Math.max(0, (controls[at] - x0) / (x1 - x0)));
      const move = share * ((1 - t) * moves[i] + t * moves[i + 1]);
      controls[at + 1] += move * along[0];
      controls[at + 2] += move * along[1];
    }
    const [left, right] = [s * stride + 3 * rows, (s + 1) * stride + 3 * rows];
    b.width[s] = Math.hypot(corners[right + 1] - corners[left + 1], corners[right + 2] - corners[left + 2]);
    b.middleY[s] = (1 - b.share[s]) * corners[left + 1] + b.share[s] * corners[right + 1];
    b.middleZ[s] = (1 - b.share[s]) * corners[left + 2] + b.share[s] * corners[right + 2];
  }
  return true;
}
