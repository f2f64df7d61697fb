import type { LiftingSurface } from '../airframe';
import type { SteadyPoint } from './aircraft';

/** What is left to a control that rolls where the wing begins to stall. */
export interface ControlMargin {
  control: string;
  name: string;
  surface: string;
  /** Least difference of a strip's greatest lift coefficient and its own, and as a share of the greatest, at the angle where stall begins. */
  left: number;
  share: number;
  /** First angle of the sweep at which one of its strips has stalled, rad; null where none does. */ stallsAt:
    number | null;
}

/**
 * Margins of the opposed controls at the angle where stall begins, between the points of a sweep.
 * @param points of a sweep over angles. @param alpha where stall begins, rad. Strips count by the share of the half span that their middle lies at.
 */
export function controlMargins(
  surfaces: readonly LiftingSurface[],
  points: readonly SteadyPoint[],
  alpha: number,
): ControlMargin[] {
  const sorted = points.filter((p) => p.status !== 'unsolved').sort((a, b) => a.alpha - b.alpha);
  const next = sorted.findIndex((p) => p.alpha >= alpha - 1e-9);
  if (next < 0) return [];
  const [b, a] = [sorted[next], sorted[Math.max(0, next - 1)]];
  const t = b.alpha > a.alpha ? (alpha - a.alpha) / (b.alpha - a.alpha) : 1;
  return surfaces.flatMap((surface) =>
    (surface.controls ?? [])
      .filter((c) => c.kind === 'opposed')
      .flatMap((c): ControlMargin[] => {
        const mine = (p: SteadyPoint) =>
          p.strips
            .map((s, i) => ({ s, state: p.states[i] }))
            .filter(({ s }) => s.id === surface.id && s.station >= c.from && s.station <= c.to);
        const leftIn = (p: SteadyPoint) =>
          mine(p).map(({ state }) => ({ left: state.clMax - state.cl, most: state.clMax }));
        const [before, after] = [leftIn(a), leftIn(b)];
        if (after.length === 0 || after.length !== before.length) return [];
        let [left, share] = [Infinity, Infinity];
        after.forEach((v, i) => {
          const [l, m] = [
            before[i].left + t * (v.left - before[i].left),
            before[i].most + t * (v.most - before[i].most),
          ];
          if (l < left) [left, share] = [l, l / m];
        });
        const stalls = sorted.find((p) => p.alpha > 0 && mine(p).some(({ state }) => state.stalled !== 0));
        return [{ control: c.id, name: c.name, surface: surface.id, left, share, stallsAt: stalls?.alpha ?? null }];
      }),
  );
}
