import type { Point3 } from '../airframe';
import type { Totals } from './near-field';
import type { RightSide } from './streams';

/** Forces of a state, with the drag far behind; over density and speed squared. */
export interface Forces extends Totals {
  /** Of the wake far behind, m². */ drag: number;
}

/** Adds a multiple, in place: states are asked for by the thousand. */
function add(to: Forces, f: Forces, k: number): void {
  to.fx += k * f.fx;
  to.fy += k * f.fy;
  to.fz += k * f.fz;
  to.mx += k * f.mx;
  to.my += k * f.my;
  to.mz += k * f.mz;
  to.drag += k * f.drag;
}
const none = (): Forces => ({ fx: 0, fy: 0, fz: 0, mx: 0, my: 0, mz: 0, drag: 0 });

/** Forces with their moments about another point. @param from what they are about, m. */
export function aboutPoint<F extends Totals>(f: F, from: Point3, to: Point3): F {
  const [x, y, z] = [to.x - from.x, to.y - from.y, to.z - from.z];
  return {
    ...f,
    mx: f.mx - (y * f.fz - z * f.fy),
    my: f.my - (z * f.fx - x * f.fz),
    mz: f.mz - (x * f.fy - y * f.fx),
  };
}

/**
 * Forces are circulations times velocities, both linear in what a state is made of: F(w) = Σ wᵢ² Fᵢᵢ + Σ wᵢ wⱼ Fᵢⱼ. Each pair is evaluated once, and any state is
 * then a few products.
 */
export class PairForms {
  private readonly own = new Map<string, Forces>();
  /** By the ids of both, the lesser one first. */ private readonly pairs = new Map<string, Map<string, Forces>>();

  /** @param evaluate forces of a sum of right-hand sides with their amounts. */
  constructor(private readonly evaluate: (weights: readonly (readonly [RightSide, number])[]) => Forces) {}

  private alone(a: RightSide): Forces {
    let made = this.own.get(a.id);
    if (!made) this.own.set(a.id, (made = this.evaluate([[a, 1]])));
    return made;
  }

  private pair(a: RightSide, b: RightSide): Forces {
    const [first, second] = a.id < b.id ? [a.id, b.id] : [b.id, a.id];
    let some = this.pairs.get(first);
    if (!some) this.pairs.set(first, (some = new Map()));
    let made = some.get(second);
    if (!made) {
      const both = this.evaluate([
        [a, 1],
        [b, 1],
      ]);
      made = { ...both };
      add(made, this.alone(a), -1);
      add(made, this.alone(b), -1);
      some.set(second, made);
    }
    return made;
  }

  /** Forces of a state. @param weights its right-hand sides, each once. */
  of(weights: readonly (readonly [RightSide, number])[]): Forces {
    const out = none();
    weights.forEach(([a, k], i) => {
      if (k === 0) return;
      add(out, this.alone(a), k * k);
      for (let j = 0; j < i; j++) {
        const [b, m] = weights[j];
        if (m !== 0) add(out, this.pair(a, b), k * m);
      }
    });
    return out;
  }
}
