import { placeStations } from '@veldtwind/core/airframe';
import { sectionLookup, type DesignPoint } from '@veldtwind/core/candidate';
import { DEG } from '@veldtwind/core/numerics';
import type { CandidatePart, ProjectDocument } from '@veldtwind/core/project';
import { sectionFacts } from '@veldtwind/core/section';
import { sourceOutline } from '@veldtwind/core/shaping';

/** A station of a surface with what is told of it; m, degrees. */
export interface StationRow {
  id: string;
  name: string;
  y: number;
  chord: number;
  pitchDeg: number;
  /** At the design point; null where it is none. */ reynolds: number | null;
  thickness: number | null;
  section: string;
}

/** All stations of a candidate. @param candidate with its surfaces where they stand. */
export function stationRows(
  candidate: CandidatePart,
  document: ProjectDocument,
  design: DesignPoint | null,
): StationRow[] {
  const lookup = sectionLookup(document.sections);
  const thick = new Map<string, number | null>();
  const thicknessOf = (key: string) => {
    if (!thick.has(key))
      try {
        thick.set(key, sectionFacts(sourceOutline(lookup(key))).thickness.max);
      } catch {
        thick.set(key, null);
      }
    return thick.get(key)!;
  };
  return candidate.surfaces.flatMap((s) => {
    try {
      return placeStations(s).map((p, i): StationRow => {
        const t = thicknessOf(p.section);
        const place = i === 0 ? 'root' : i === s.stations.length - 1 ? 'tip' : `station ${i + 1}`;
        return {
          id: `${s.id}/${i}`,
          name: `${s.name}, ${place}`,
          y: p.leadingEdge.y,
          chord: p.chord,
          pitchDeg: p.pitch * DEG,
          reynolds: design ? design.flow.reynoldsPerMetre * p.chord : null,
          thickness: t === null ? null : t * p.chord,
          section: document.sections[p.section]?.name ?? p.section,
        };
      });
    } catch {
      return [];
    }
  });
}
