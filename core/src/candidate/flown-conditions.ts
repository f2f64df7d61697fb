import { VeldtwindError } from '../numerics';
import type { BriefPart } from '../project';
import { designPoint, type DesignBrief, type DesignCandidate } from './evaluate';

/** A condition that a wing's section is flown at. */
export interface FlownAt {
  id: 'cruise' | 'climb' | 'stall';
  name: string;
  cl: number;
  reynolds: number;
  mach: number;
}

/** The stall side is looked at so much faster than the greatest stall speed: at the stall itself there is often no flow. */
const STALL_SIDE = 1.1;

/**
 * The conditions that a section is flown at by the brief: its lift is the wing's, its Reynolds number that of the chord where it stands.
 * @param section its key; one that stands nowhere is looked at on the mean chord. @returns those that the brief has speeds for; none for a shape without area.
 */
export function flownConditions(
  brief: DesignBrief & Pick<BriefPart, 'climbSpeed' | 'stallSpeed'>,
  candidate: DesignCandidate | undefined,
  section: string,
): FlownAt[] {
  if (!candidate) return [];
  const chords = candidate.surfaces.flatMap((s) => s.stations.filter((t) => t.section === section).map((t) => t.chord));
  const own = chords.length > 0 ? chords.reduce((a, b) => a + b, 0) / chords.length : null;
  const list = [
    ['cruise', 'Cruise', brief.speed],
    ['climb', 'Climb', brief.climbSpeed],
    ['stall', 'Stall side', brief.stallSpeed === null ? null : STALL_SIDE * brief.stallSpeed],
  ] as const;
  return list.flatMap(([id, name, speed]) => {
    if (speed === null) return [];
    try {
      const { CL, reynolds, flow } = designPoint({ ...brief, speed }, candidate);
      if (CL === null || reynolds === null) return [];
      const re = own === null ? reynolds.mean : flow.reynoldsPerMetre * own;
      return [
        {
          id,
          name,
          cl: Number(CL.toFixed(3)),
          reynolds: Number(re.toPrecision(3)),
          mach: Number(flow.mach.toFixed(3)),
        },
      ];
    } catch (error) {
      if (error instanceof VeldtwindError) return [];
      throw error;
    }
  });
}
