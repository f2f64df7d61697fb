/** A strip of a surface as a load: of the air and of its own mass. */
export interface LoadStrip {
  /** Of its middle along the span from the root, m. */ along: number;
  /** m */ width: number;
  /** Across the surface, toward its upper side, N. */ force: number;
  /** Where the force acts, m aft. */ x: number;
  /** About that point, nose-up, N·m. */ moment: number;
}

/** A load at one place, such as an engine's weight. */
export type LoadPoint = Omit<LoadStrip, 'width'>;

/** Internal loads of a surface at places along its span, root first: of all that lies outboard. */
export interface SpanLoads {
  /** Along the span from the root, m. */ y: number[];
  /** N */ shear: number[];
  /** About the chord line of the beam, tips up positive, N·m. */ bending: number[];
  /** About the beam, nose-up positive, N·m. */ torsion: number[];
}

/**
 * Shear, bending moment and torsion of a surface as a cantilever, from its tip to its root. A strip's force is spread evenly over its width.
 * @param strips in any order; @param points loads at places. @param places along the span where loads are told, m.
 * @param axis x of the beam's axis at a place along the span, m; its slope turns bending and torsion into the beam's own axes.
 */
export function spanLoads(
  strips: readonly LoadStrip[],
  points: readonly LoadPoint[],
  places: readonly number[],
  axis: (along: number) => number,
): SpanLoads {
  const out: SpanLoads = { y: [...places], shear: [], bending: [], torsion: [] };
  const reach = Math.max(1e-9, ...strips.map((s) => s.along + 0.5 * s.width));
  for (const y of places) {
    const x = axis(y);
    const h = 1e-4 * reach;
    const [fore, aft] = [Math.max(0, y - h), Math.min(reach, y + h)];
    const sweep = Math.atan((axis(aft) - axis(fore)) / (aft - fore));
    const [cos, sin] = [Math.cos(sweep), Math.sin(sweep)];
    let [shear, about, pitch] = [0, 0, 0];
    const add = (force: number, at: number, place: number, moment: number) => {
      shear += force;
      about += force * (at - y);
      pitch += moment + force * (x - place);
    };
    for (const s of strips) {
      const [from, to] = [Math.max(y, s.along - 0.5 * s.width), s.along + 0.5 * s.width];
      if (to <= from) continue;
      const share = (to - from) / s.width;
      add(share * s.force, 0.5 * (from + to), s.x, share * s.moment);
    }
    for (const p of points) if (p.along > y) add(p.force, p.along, p.x, p.moment);
    out.shear.push(shear);
    out.bending.push(about * cos - pitch * sin);
    out.torsion.push(about * sin + pitch * cos);
  }
  return out;
}
