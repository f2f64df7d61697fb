import { placeSurface, ringOf, type LiftingSurface, type SectionLookup } from '../../airframe';
import type { Patch } from './patch';

const SAME = 1e-9;

/**
 * The right face of a surface that lies in the plane of symmetry, as one half of a body without lift: in symmetric flow it carries nothing.
 * @param whole its patch with both faces.
 */
export function halfFin(whole: Patch): Patch[] {
  const nc = whole.ni / 2;
  const { nj, nodes } = whole;
  const row = whole.ni + 1;
  // The upper face of a fin looks to the left: the other half of the ring is the right one.
  const face = new Float64Array(3 * (nc + 1) * (nj + 1));
  for (let j = 0; j <= nj; j++)
    for (let i = 0; i <= nc; i++) {
      const from = 3 * (j * row + nc + i);
      const edge = i === 0 || i === nc;
      face.set([nodes[from], edge ? 0 : Math.abs(nodes[from + 1]), nodes[from + 2]], 3 * (j * (nc + 1) + i));
    }
  const base = {
    ...whole,
    kind: 'body' as const,
    ni: nc,
    fractions: undefined,
    stations: undefined,
    middles: undefined,
    narrow: undefined,
  };
  const skin: Patch = { ...base, nodes: face, onPlane: { first: false, last: false, start: true, end: true } };
  const lids = [nj, 0].map((j, k): Patch => {
    const lid = new Float64Array(3 * (nc + 1) * 2);
    for (let i = 0; i <= nc; i++)
      for (let d = 0; d < 3; d++) {
        lid[3 * i + d] = face[3 * (j * (nc + 1) + i) + d];
        lid[3 * (nc + 1 + i) + d] = d === 1 ? 0 : face[3 * (j * (nc + 1) + i) + d];
      }
    return {
      ...base,
      kind: 'cap',
      nj: 1,
      nodes: lid,
      out: k === 0 ? 1 : -1,
      onPlane: { first: false, last: true, start: true, end: true },
    };
  });
  return [skin, ...lids];
}

/** Whether a surface lies in the plane of symmetry, its sections alike on both sides. */
export function inPlane(s: LiftingSurface, lookup: SectionLookup): boolean {
  if (s.mirrored || s.plane !== 'vertical') return false;
  const placed = placeSurface(s);
  return s.bays.every((_, b) =>
    [0, 0.5, 1].every((share) => {
      const at = placed.at(b, share);
      if (Math.abs(at.leadingEdge.y) > SAME || Math.abs(at.along.y) > SAME) return false;
      const ring = ringOf(lookup, at.section);
      return ring.every(([x, y], i) => {
        const [u, v] = ring[ring.length - 1 - i];
        return Math.abs(x - u) < 1e-4 && Math.abs(y + v) < 1e-4;
      });
    }),
  );
}
