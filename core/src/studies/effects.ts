import type { Axis, Tries } from './tries';

/** What one variable does to one answer. */
export interface Effect {
  /** Change of the answer per unit of the variable; null where a try fails. */ slope: number | null;
  /** For the variable's sensible step. */ perStep: number | null;
  /** Whether differences over a step and over half of it agree. */ reliable: boolean;
}

/** Differences that differ by more than this share are not to be relied on. */
const AGREE = 0.02;
/** Rounding of the answers, as a share of their size. */
const ROUNDING = 1e-9;

/**
 * Slopes of every answer over every variable about the values as they stand: central differences over a step and half of it, brought together so that their
 * leading error falls out.
 * @returns rows of variables, columns of answers. @source Richardson's rule, any textbook of numerical analysis.
 */
export async function effectsOf(tries: Tries, axes: readonly Axis[], count: number): Promise<Effect[][]> {
  const stand = axes.map((a) => a.value);
  const centre = await tries.at(stand);
  const rows: Effect[][] = [];
  for (const [i, axis] of axes.entries()) {
    const h = Math.min(axis.step, 0.05 * (axis.to - axis.from));
    // At a bound the slope is that of a place a step inside.
    const about = Math.min(axis.to - h, Math.max(axis.from + h, axis.value));
    const at = async (by: number) => (await tries.at(stand.map((v, k) => (k === i ? about + by : v)))).answers;
    const [up, down, upHalf, downHalf] = [await at(h), await at(-h), await at(0.5 * h), await at(-0.5 * h)];
    rows.push(
      Array.from({ length: count }, (_, k): Effect => {
        const all = [up[k], down[k], upHalf[k], downHalf[k]];
        if (all.some((v) => v === null)) return { slope: null, perStep: null, reliable: false };
        const whole = (up[k]! - down[k]!) / (2 * h);
        const half = (upHalf[k]! - downHalf[k]!) / h;
        const slope = (4 * half - whole) / 3;
        const floor = (ROUNDING * Math.max(1e-12, Math.abs(centre.answers[k] ?? 0))) / h;
        return {
          slope,
          perStep: slope * axis.step,
          reliable: Math.abs(half - whole) <= AGREE * Math.abs(slope) + 1e3 * floor,
        };
      }),
    );
    tries.tell(i + 1, axes.length);
  }
  return rows;
}
