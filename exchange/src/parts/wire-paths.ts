import { tableText } from '@veldtwind/core/spreadsheet';
import type { BuiltSurface, SurfaceShape } from '@veldtwind/core/members';
import { outset, type Pair } from './part';

const MM = 1000;

/** Wire paths of a core: a bay's two ends, cut at once by a wire between two carriages. */
export interface WirePath {
  label: string;
  /** mm; as many points at both ends, passed in the same time. */ inner: Pair[];
  outer: Pair[];
  /** Between the two ends along the span, mm. */ span: number;
}

/**
 * Wire paths of the cores of a built surface, bay by bay, inside of its skin. Sections turn with the twist, about their leading edge; the inner end's chord is level.
 * @param kerf mm that the wire melts, all of its width.
 */
export function wirePaths(surface: BuiltSurface, shape: SurfaceShape, kerf: number): WirePath[] {
  if (!surface.structure.core) return [];
  const skin = surface.structure.skin?.thickness ?? 0;
  const stations = shape.stations.map((s) => s / shape.total);
  return stations.slice(1).map((to, bay): WirePath => {
    const ends = [stations[bay], to].map((share) => shape.at(share));
    const [root] = ends;
    const lines = ends.map(({ ring, station }): Pair[] => {
      const turn = station.pitch - root.station.pitch;
      const [c, s] = [Math.cos(turn), Math.sin(turn)];
      const [dx, dz] = [station.leadingEdge.x - root.station.leadingEdge.x, 0];
      return outset(
        ring.map(([x, z]): Pair => [MM * x, MM * z]),
        0.5 * kerf - MM * skin,
      ).map(([x, z]): Pair => [MM * dx + c * x + s * z, MM * dz - s * x + c * z]);
    });
    return {
      label: `${surface.name} core ${bay + 1}`,
      inner: lines[0],
      outer: lines[1],
      span: MM * (to - stations[bay]) * shape.total,
    };
  });
}

/** A wire path as a table. */
export const wireTable = ({ inner, outer }: WirePath): string =>
  tableText([
    ['inner x, mm', 'inner z, mm', 'outer x, mm', 'outer z, mm'],
    ...inner.map((p, i) => [...p, ...outer[i]].map((v) => Number(v.toFixed(4)))),
  ]);
