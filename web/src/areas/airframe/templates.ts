import { planformOf, type Surface } from '@veldtwind/core/airframe';
import { freeId } from '@/lib/ids';
import type { CandidatePart } from '@/lib/types';

/** A first surface of each role: a wing of a usual shape, tails sized by their volume to the wing that is there. */
export function newSurface(
  role: Surface['role'],
  candidate: CandidatePart,
  wingSection: string,
  tailSection: string,
  span: number,
): Surface {
  const id = freeId(role, (i) => candidate.surfaces.some((s) => s.id === i));
  const round = (v: number) => Number(v.toPrecision(3));
  const wing = candidate.surfaces.find((s) => s.role === 'wing');
  const base = {
    id,
    mirrored: role !== 'fin',
    plane: role === 'fin' ? ('vertical' as const) : ('horizontal' as const),
    role,
    incidenceDeg: 0,
  };
  const names = { wing: 'Wing', tailplane: 'Tailplane', fin: 'Fin' };
  const same = candidate.surfaces.filter((s) => s.role === role).length;
  const name = same === 0 ? names[role] : `${names[role]} ${same + 1}`;
  if (role === 'wing' || !wing) {
    const b = role === 'wing' ? span : span * 0.3;
    // A second wing is set off, so that it does not hide in the first.
    const off = same * 0.3 * b;
    return {
      ...base,
      name,
      position: { x: round(off), y: 0, z: 0 },
      stations: [
        { chord: round(b / 7), twistDeg: 0, section: wingSection },
        { chord: round(b / 11), twistDeg: role === 'wing' ? -1 : 0, section: wingSection },
      ],
      bays: [{ span: round(b / 2), sweepDeg: 2, dihedralDeg: role === 'wing' ? 3 : 0 }],
    };
  }
  const plan = planformOf(wing);
  const arm = 3.2 * plan.mac.chord + same * 0.3 * plan.mac.chord;
  const x = round(wing.position.x + 0.25 * plan.mac.chord + arm);
  if (role === 'tailplane') {
    const area = (0.5 * plan.area * plan.mac.chord) / arm;
    const b = Math.sqrt(area * 4.5);
    return {
      ...base,
      name,
      position: { x, y: 0, z: round(0.05 * plan.mac.chord + same * 0.3 * plan.mac.chord) },
      incidenceDeg: -1.5,
      stations: [
        { chord: round((area / b) * 1.15), twistDeg: 0, section: tailSection },
        { chord: round((area / b) * 0.85), twistDeg: 0, section: tailSection },
      ],
      bays: [{ span: round(b / 2), sweepDeg: 4, dihedralDeg: 0 }],
    };
  }
  const area = (0.035 * plan.area * plan.span) / arm;
  const h = Math.sqrt(area * 1.5);
  return {
    ...base,
    name,
    position: { x: round(x - 0.05 * plan.mac.chord), y: 0, z: round(0.08 * plan.mac.chord) },
    stations: [
      { chord: round((area / h) * 1.25), twistDeg: 0, section: tailSection },
      { chord: round((area / h) * 0.75), twistDeg: 0, section: tailSection },
    ],
    bays: [{ span: round(h), sweepDeg: 22, dihedralDeg: 0 }],
  };
}
