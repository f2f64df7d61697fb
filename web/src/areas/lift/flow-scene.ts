import { pointOn, type LiftingSurface } from '@veldtwind/core/airframe';
import type { FlowLines, StripLoad, StripState } from '@veldtwind/core/lift';

/** A line in space: x, y, z of each point. */
export interface SpaceLine {
  points: number[];
  colour: string;
  opacity: number;
}
/** A strip of paper between two lines of as many points. */
export interface SpaceRibbon {
  foot: number[];
  edge: number[];
  colour: string;
}

/** Height of the ribbon where the load is greatest, half spans. */
const HEIGHT = 0.3;

const image = (points: readonly number[]) => points.map((v, i) => (i % 3 === 1 ? -v : v));

/** Lines of the wake and of the stream on both sides. */
export function spaceLines({ half, wake, stream }: FlowLines): SpaceLine[] {
  const both = (points: number[]) => (half ? [points, image(points)] : [points]);
  return [
    ...wake.flatMap((l) => both(l.points).map((points) => ({ points, colour: 'var(--sky)', opacity: 0.75 }))),
    ...stream.flatMap((l) => both(l.points).map((points) => ({ points, colour: 'var(--soft)', opacity: 0.5 }))),
  ];
}

/**
 * The local lift as a ribbon over each surface: its edge stands off the quarter chord across stream and span, by lift times chord; stalled stretches in
 * another colour.
 * @param surfaces where they stand. @param strips of one state, with their sections' states where there are any. @param span of the aircraft, m.
 */
export function liftRibbons(
  surfaces: readonly LiftingSurface[],
  strips: readonly StripLoad[],
  states: readonly StripState[] | undefined,
  alpha: number,
  span: number,
): SpaceRibbon[] {
  const greatest = Math.max(1e-9, ...strips.map((s) => Math.abs(s.cl * s.chord)));
  const out: SpaceRibbon[] = [];
  for (const surface of surfaces) {
    const own = strips
      .map((strip, i) => ({ strip, stalled: (states?.[i]?.stalled ?? 0) !== 0 }))
      .filter(({ strip }) => strip.id === surface.id);
    const right = own.filter(({ strip }) => strip.station >= 0).sort((a, b) => a.strip.station - b.strip.station);
    const left = own.filter(({ strip }) => strip.station < 0).sort((a, b) => b.strip.station - a.strip.station);
    for (const side of surface.mirrored ? [1, -1] : [1]) {
      const list = side < 0 && left.length > 0 ? left : right;
      if (list.length < 2) continue;
      const foot: number[] = [];
      const edge: number[] = [];
      const at = list.map(({ strip }) => pointOn(surface, Math.abs(strip.station), 0.25));
      list.forEach(({ strip }, i) => {
        const [a, b] = [at[Math.max(0, i - 1)], at[Math.min(at.length - 1, i + 1)]];
        const size = Math.max(1e-12, Math.hypot(b.y - a.y, b.z - a.z));
        const [ey, ez] = [(b.y - a.y) / size, (b.z - a.z) / size];
        const high = (HEIGHT * 0.5 * span * strip.cl * strip.chord) / greatest;
        foot.push(at[i].x, side * at[i].y, at[i].z);
        // Across the stream and the span: V × e.
        edge.push(
          at[i].x - Math.sin(alpha) * ey * high,
          side * (at[i].y - Math.cos(alpha) * ez * high),
          at[i].z + Math.cos(alpha) * ey * high,
        );
      });
      for (let i = 0; i < list.length;) {
        let j = i + 1;
        while (j < list.length && list[j].stalled === list[i].stalled) j++;
        const last = Math.min(list.length - 1, j);
        out.push({
          foot: foot.slice(3 * i, 3 * last + 3),
          edge: edge.slice(3 * i, 3 * last + 3),
          colour: list[i].stalled ? 'var(--clay)' : 'var(--ochre)',
        });
        i = j;
      }
    }
  }
  return out;
}
