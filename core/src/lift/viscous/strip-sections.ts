import { placeSurface, type LiftingSurface } from '../../airframe';
import { DEG } from '../../numerics';
import type { MeanLine } from '../../section';
import { edgePoint, flapShares, stripShares, thinFlapLift } from '../controls';
import { chordPlaces, type Lattice, type LatticeSpread } from '../lattice';

/** A share of a strip's section, with its flap where one is set. */
export interface StripShare {
  section: string;
  flap: { hinge: number; angleDeg: number } | null;
  weight: number;
}

/** What a strip is made of; lengths in m, angles in rad. */
export interface StripSection {
  /** Part of the lattice and strip of it; −1 for the mirror image of a part that is held by its right side only. */
  part: number;
  strip: number;
  side: 1 | -1;
  /** Index of the surface. */
  surface: number;
  /** Share of the half span. */ station: number;
  chord: number;
  width: number;
  /** Distance along the surface from its root, negative on the left. */
  along: number;
  /** Cosine of the sweep of the quarter-chord line. */
  cosSweep: number;
  /** Angle of zero lift of the thin section against its chord line, as the lattice has it. */
  zeroLift: number;
  shares: StripShare[];
}

/** Key of a section with its flap. */
export const sectionKey = ({ section, flap }: Pick<StripShare, 'section' | 'flap'>): string =>
  flap ? `${section}|${flap.hinge}|${flap.angleDeg}` : section;

/** Weights of a mean line's slopes at the control points of a chord in the angle of zero lift; thin-section theory, by the lattice's own rule. */
function zeroLiftWeights(rows: number, spacing: LatticeSpread['spacing']): { c: number; weight: number }[] {
  const cosine = spacing === 'cosine' && rows > 1;
  const n = cosine ? rows : 64;
  const places = cosine ? chordPlaces(rows, 'cosine').control : null;
  return Array.from({ length: n }, (_, i) => {
    const theta = ((i + (places ? 1 : 0.5)) * Math.PI) / n;
    const end = places && i === n - 1 ? 0.5 : 1;
    return { c: 0.5 * (1 - Math.cos(theta)), weight: (end * (1 - Math.cos(theta))) / n };
  });
}

/** Steepest sweep for which the flow normal to the span says something. */
const LEAST_COSINE = 0.3;
/** Flaps are computed at steps of their angle, degrees, and read between them, so that a control that moves needs no polars of its own for each place. */
export const FLAP_STEP = 5;

/** Shares of the steps about a flap's angle, degrees. */
function flapSteps(angleDeg: number): { angleDeg: number; weight: number }[] {
  const low = Math.floor(angleDeg / FLAP_STEP + 1e-6) * FLAP_STEP;
  const share = Math.max(0, (angleDeg - low) / FLAP_STEP);
  return share < 1e-4
    ? [{ angleDeg: low, weight: 1 }]
    : [
        { angleDeg: low, weight: 1 - share },
        { angleDeg: low + FLAP_STEP, weight: share },
      ];
}

/** Hinges are told apart in hundredths of the chord. */
const hundredth = (v: number) => Math.round(v * 100) / 100;

/**
 * The sections of all strips, in the order of a lattice's strips: right sides part by part, then, where `bothSides`, the mirror images.
 * @param surfaces where they stand. @param deflections of controls, rad, by id; positive as controls define it.
 */
export function stripSections(
  surfaces: readonly LiftingSurface[],
  lattice: Lattice,
  lineOf: (key: string) => MeanLine,
  spacing: LatticeSpread['spacing'],
  deflections: Readonly<Record<string, number>>,
  bothSides: boolean,
): StripSection[] {
  const sides: (1 | -1)[] = bothSides && lattice.symmetry === 'half' ? [1, -1] : [1];
  const placed = surfaces.map((s) => placeSurface(s));
  return sides.flatMap((side) =>
    lattice.parts.flatMap((part, p) => {
      if (side < 0 && !part.mirrored) return [];
      const surface = surfaces[part.surface];
      const { rows, strips } = part;
      const left = part.station[0] < 0;
      const { bound } = chordPlaces(rows, spacing);
      const weights = zeroLiftWeights(rows, spacing);
      const controls = (surface.controls ?? [])
        .filter((c) => (deflections[c.id] ?? 0) !== 0)
        .map((c) => {
          const vertical = surface.plane === 'vertical';
          const alike = (c.kind === 'symmetric') !== vertical;
          const other = (left || side < 0) && !alike ? -1 : 1;
          const angle = (vertical ? -1 : 1) * other * deflections[c.id];
          return {
            spans: stripShares(part, c.from, c.to),
            hinge: c.hinge,
            angle,
            // Of a whole chord: what the turn of a flap does to the angle of zero lift.
            zeroLift: -flapEffect(rows, spacing, c.hinge) * angle,
          };
        });
      const total = surface.bays.reduce((sum, b) => sum + b.span, 0);
      let along = 0;
      const order = Array.from({ length: strips }, (_, i) => (left ? strips - 1 - i : i));
      const out: StripSection[] = new Array(strips);
      for (const s of order) {
        const offset = Math.abs(part.station[s]) * total;
        let bay = 0;
        let start = 0;
        while (bay < surface.bays.length - 1 && start + surface.bays[bay].span < offset)
          start += surface.bays[bay++].span;
        const share = Math.min(1, Math.max(0, (offset - start) / surface.bays[bay].span));
        const at = placed[part.surface].at(bay, share);
        const mix =
          at.blend && at.blend.section !== at.section && at.blend.share > 0
            ? [
                { section: at.section, weight: 1 - at.blend.share },
                { section: at.blend.section, weight: at.blend.share },
              ]
            : [{ section: at.section, weight: 1 }];
        let zeroLift = 0;
        for (const { section, weight } of mix) {
          const line = lineOf(section);
          for (const w of weights) zeroLift += weight * w.weight * line.slope(w.c);
        }
        let shares: StripShare[] = mix.map((m) => ({ ...m, flap: null }));
        for (const c of controls) {
          const k = c.spans[s];
          if (k <= 0) continue;
          zeroLift += k * c.zeroLift;
          const flaps = flapSteps(c.angle * DEG);
          shares = shares.flatMap((m) =>
            m.flap
              ? [m]
              : [
                  { ...m, weight: (1 - k) * m.weight },
                  ...flaps.map(({ angleDeg, weight }) => ({
                    section: m.section,
                    flap: angleDeg === 0 ? null : { hinge: hundredth(c.hinge), angleDeg },
                    weight: k * weight * m.weight,
                  })),
                ],
          );
        }
        shares = merged(shares);
        const a = edgePoint(part, bound, s, 0.25);
        const b = edgePoint(part, bound, s + 1, 0.25);
        const across = Math.hypot(b[1] - a[1], b[2] - a[2]);
        const sign = left ? -1 : side;
        out[s] = {
          part: p,
          strip: s,
          side,
          surface: part.surface,
          station: Math.abs(part.station[s]),
          chord: part.chord[s],
          width: part.width[s],
          along: sign * (along + 0.5 * part.width[s]),
          cosSweep: Math.max(LEAST_COSINE, across / Math.hypot(b[0] - a[0], across)),
          zeroLift,
          shares,
        };
        along += part.width[s];
      }
      return out;
    }),
  );
}

/** What is named twice, once; nothings are left out. */
function merged(shares: readonly StripShare[]): StripShare[] {
  const out = new Map<string, StripShare>();
  for (const s of shares) {
    if (s.weight <= 1e-6) continue;
    const known = out.get(sectionKey(s));
    if (known) known.weight += s.weight;
    else out.set(sectionKey(s), { ...s });
  }
  return [...out.values()];
}

/** Change of the angle of zero lift (taken positive) per rad of a flap's turn, as the lattice has it. */
function flapEffect(rows: number, spacing: LatticeSpread['spacing'], hinge: number): number {
  if (spacing === 'cosine' && rows > 1) {
    const shares = flapShares(rows, spacing, hinge);
    return zeroLiftWeights(rows, spacing).reduce((sum, w, i) => sum + w.weight * shares[i], 0);
  }
  return thinFlapLift(hinge) / (2 * Math.PI);
}
