import {
  placeSurface,
  skinRings,
  twistsOf,
  dihedralsOf,
  type Body,
  type LiftingSurface,
  type SectionLookup,
} from '@veldtwind/core/airframe';
import { tableText } from '@veldtwind/core/spreadsheet';

const digits = (v: number) => Number(v.toFixed(9));

/** All stations of surfaces and bodies as CSV; metres and degrees, axes of the airframe. */
export function stationTable(surfaces: readonly LiftingSurface[], bodies: readonly Body[]): string {
  const rows: (string | number)[][] = [];
  for (const s of surfaces) {
    const placed = placeSurface(s).stations;
    const [twists, dihedrals] = [twistsOf(s), dihedralsOf(s)];
    placed.forEach((p, i) => {
      const { leadingEdge: le, quarterChord: q } = p;
      rows.push(
        [s.id, i + 1, p.section, ...[p.chord, s.incidenceDeg + twists[i], p.offset].map(digits)].concat(
          [le.x, le.y, le.z, q.x, q.y, q.z].map(digits),
          i < dihedrals.length ? [s.bays[i].span, dihedrals[i]].map(digits) : ['', ''],
          ['', ''],
        ),
      );
    });
  }
  for (const b of bodies)
    b.stations.forEach((t, i) =>
      rows.push(
        [
          b.id,
          i + 1,
          t.shape,
          '',
          '',
          digits(t.x),
          digits(b.position.x + t.x),
          digits(b.position.y),
          digits(b.position.z + t.z),
        ].concat(['', '', '', '', ''], [t.width, t.height].map(digits)),
      ),
    );
  return `${tableText([
    [
      'part',
      'station',
      'section',
      'chord',
      'pitchDeg',
      'along',
      'x',
      'y',
      'z',
      'quarterX',
      'quarterY',
      'quarterZ',
      'baySpan',
      'bayDihedralDeg',
      'width',
      'height',
    ],
    ...rows,
  ])}\n`;
}

/** The section at every station as points in space, CSV; metres. One side of mirrored surfaces. */
export function sectionTable(surfaces: readonly LiftingSurface[], lookup: SectionLookup): string {
  const rows: (string | number)[][] = [];
  for (const s of surfaces)
    for (const ring of skinRings(s, lookup)) {
      if (ring.station === null) continue;
      ring.points.forEach((p, i) => rows.push([s.id, ring.station! + 1, i + 1, digits(p.x), digits(p.y), digits(p.z)]));
    }
  return `${tableText([['part', 'station', 'point', 'x', 'y', 'z'], ...rows])}\n`;
}
