import { buckledAt } from '../structure';
import type { CrossSection, MemberPart, Spot } from './cross-section';

/** What a member fails by. */
export type FailureMode = 'tension' | 'compression' | 'shear' | 'buckling' | 'shear buckling';

/** The stress of a member where it has the least in hand. */
export interface SpotStress {
  member: string;
  part: MemberPart;
  mode: FailureMode;
  /** Pa: of what it fails by; compression negative. */ stress: number;
  /** Pa: what it holds of that. */ allowable: number;
  /** Multiple of the loads at which it fails. */ factor: number;
}

/** Stress of a spot under a bending moment (tips up), a shear force (up) and a torque about the elastic axis (nose-up), with what it fails by first. */
function spotStress(s: Spot, EI: number, bending: number, shear: number, torque: number): SpotStress {
  const { material } = s;
  const direct = (-material.modulus * s.z * bending) / EI;
  const across = Math.abs(s.shear * shear + s.torque * torque);
  const pressed = Math.max(0, -direct);
  const told = { member: s.member, part: s.part };
  const all: SpotStress[] = [
    direct >= 0
      ? {
          ...told,
          mode: 'tension',
          stress: direct,
          allowable: material.tension,
          factor: material.tension / Math.max(0, direct),
        }
      : {
          ...told,
          mode: 'compression',
          stress: direct,
          allowable: material.compression,
          factor: material.compression / pressed,
        },
    { ...told, mode: 'shear', stress: across, allowable: material.shear, factor: material.shear / across },
  ];
  const [rc, rs] = [pressed / s.buckling, across / s.shearBuckling];
  const factor = buckledAt(rc, rs);
  all.push(
    rc >= rs
      ? { ...told, mode: 'buckling', stress: direct, allowable: s.buckling, factor }
      : { ...told, mode: 'shear buckling', stress: across, allowable: s.shearBuckling, factor },
  );
  return all.reduce((a, b) => (b.factor < a.factor ? b : a));
}

/** Every part of every member of a cross-section under loads, each where it has the least in hand. N m, N. */
export function sectionStress(of: CrossSection, bending: number, shear: number, torque: number): SpotStress[] {
  const worst = new Map<string, SpotStress>();
  for (const s of of.spots) {
    const here = spotStress(s, of.EI, bending, shear, torque);
    const key = `${s.member} ${s.part}`;
    const before = worst.get(key);
    if (!before || here.factor < before.factor) worst.set(key, here);
  }
  return [...worst.values()];
}

/** Multiples of the loads at which the parts of a member fail: by direct stress, and by shear or buckling. */
export interface PartFactors {
  member: string;
  part: MemberPart;
  direct: number;
  other: number;
}

/** What every part of a cross-section holds of loads. N m, N. */
export function partFactors(of: CrossSection, bending: number, shear: number, torque: number): PartFactors[] {
  const least = new Map<string, PartFactors>();
  for (const s of of.spots) {
    const key = `${s.member} ${s.part}`;
    let here = least.get(key);
    if (!here) least.set(key, (here = { member: s.member, part: s.part, direct: Infinity, other: Infinity }));
    const { material } = s;
    const stress = (-material.modulus * s.z * bending) / of.EI;
    const across = Math.abs(s.shear * shear + s.torque * torque);
    const direct = (stress > 0 ? material.tension : material.compression) / Math.abs(stress);
    here.direct = Math.min(here.direct, direct);
    const buckled = buckledAt(Math.max(0, -stress) / s.buckling, across / s.shearBuckling);
    here.other = Math.min(here.other, material.shear / across, buckled);
  }
  return [...least.values()];
}

/** Parts whose thickness makes the bending stiffness, where there are any. */
const BENDING: readonly MemberPart[] = ['cap', 'bar', 'tube'];

/**
 * What each part's own thickness answers for: a skin or a web beside caps strains as they do, so that they answer for its direct stress, and it for its shear and
 * its buckling. @param parts the least factors of a whole surface. @param safetyFactor ultimate over limit load.
 */
export function answeredReserves(
  parts: readonly PartFactors[],
  safetyFactor: number,
): { member: string; part: MemberPart; reserve: number }[] {
  const bend = (p: PartFactors) => BENDING.includes(p.part);
  const some = parts.some(bend);
  const strained = Math.min(...parts.map((p) => p.direct));
  return parts.map((p) => {
    const direct = bend(p) ? strained : some ? Infinity : p.direct;
    return { member: p.member, part: p.part, reserve: Math.min(direct, p.other) / safetyFactor - 1 };
  });
}
