import { BODY_LIMITS, SURFACE_LIMITS } from '../airframe';
import type { Dimension } from '../units';
import type { CandidatePart } from './parts';

/** Where two candidates differ: a number, a word, or a part that only one has (null on the other side). Lengths in m, angles in degrees. */
export interface Difference {
  id: string;
  part: string;
  what: string;
  a: number | string | null;
  b: number | string | null;
  dimension: Dimension;
}

interface Named {
  label: string;
  dimension: Dimension;
}
const plain = (label: string, dimension: Dimension = 'plain'): Named => ({ label, dimension });
const { station, bay, edge, control, position } = SURFACE_LIMITS;

/** What the last name of a field is called and measured in. */
const FIELDS: Record<string, Named> = {
  ...position,
  incidenceDeg: SURFACE_LIMITS.incidenceDeg,
  rollDeg: SURFACE_LIMITS.rollDeg,
  yawDeg: SURFACE_LIMITS.yawDeg,
  ...station,
  ...bay,
  ...edge,
  ...control,
  width: BODY_LIMITS.width,
  height: BODY_LIMITS.height,
  corner: BODY_LIMITS.corner,
  mass: plain('Mass', 'mass'),
  area: plain('Area', 'area'),
  fromDeg: plain('Sweep from', 'angle'),
  toDeg: plain('Sweep to', 'angle'),
  stepDeg: plain('Sweep step', 'angle'),
};
/** Names of lists, one of whose members is meant by its place. */
const MEMBERS: Record<string, string> = { stations: 'station', bays: 'bay', controls: 'control', limitsDeg: 'limit' };
/** What is told elsewhere, or is no property of the shape. */
const PASSED = new Set(['id', 'letter', 'style', 'note', 'held', 'settings', 'drag']);

type Leaf = { path: string; field: string; where: string; value: number | string };

/** Every number and word of a value, with where it stands. */
function* leaves(value: unknown, path: string[], where: string[]): Generator<Leaf> {
  if (value === null || value === undefined) return;
  if (typeof value === 'number' || typeof value === 'string' || typeof value === 'boolean') {
    const field = [...path].reverse().find((k) => !/^\d+$/.test(k)) ?? '';
    yield {
      path: path.join('.'),
      field,
      where: where.join(', '),
      value: typeof value === 'boolean' ? (value ? 'yes' : 'no') : value,
    };
    return;
  }
  if (Array.isArray(value)) {
    const name = MEMBERS[path[path.length - 1]] ?? '';
    for (const [i, v] of value.entries())
      yield* leaves(v, [...path, String(i)], name ? [...where, `${name} ${i + 1}`] : where);
    return;
  }
  for (const [key, v] of Object.entries(value as object))
    if (!PASSED.has(key))
      yield* leaves(
        v,
        [...path, key],
        key === 'leading' || key === 'trailing' || key === 'rise' ? [...where, `${key} edge`] : where,
      );
}

type Part = { id: string; name: string };

function* between(part: string, a: object, b: object): Generator<Difference> {
  const [left, right] = [a, b].map((v) => new Map([...leaves(v, [], [])].map((l) => [l.path, l])));
  for (const path of new Set([...left.keys(), ...right.keys()])) {
    const [p, q] = [left.get(path), right.get(path)];
    if (p?.value === q?.value) continue;
    const leaf = (p ?? q)!;
    const known = FIELDS[leaf.field] ?? plain(leaf.field.replace(/([A-Z])/g, ' $1').toLowerCase());
    const label = known.label.charAt(0).toLowerCase() + known.label.slice(1);
    yield {
      id: `${part}/${path}`,
      part,
      what: [leaf.where, label].filter(Boolean).join(': '),
      a: p?.value ?? null,
      b: q?.value ?? null,
      dimension: typeof leaf.value === 'number' ? known.dimension : 'plain',
    };
  }
}

/** Where two candidates differ, part by part: parts are matched by their ids. */
export function candidateDifferences(a: CandidatePart, b: CandidatePart): Difference[] {
  const out: Difference[] = [];
  for (const list of ['surfaces', 'bodies', 'massItems'] as const) {
    const [left, right] = [a[list] as Part[], b[list] as Part[]].map((l) => new Map(l.map((v) => [v.id, v])));
    for (const id of new Set([...left.keys(), ...right.keys()])) {
      const [p, q] = [left.get(id), right.get(id)];
      if (p && q) out.push(...between(p.name, p, q));
      else
        out.push({
          id: `${list}/${id}`,
          part: (p ?? q)!.name,
          what: 'is there',
          a: p ? 'yes' : null,
          b: q ? 'yes' : null,
          dimension: 'plain',
        });
    }
  }
  const rest = ({ name, reference, sweep }: CandidatePart) => ({ name, reference, sweep });
  out.push(...between('Candidate', rest(a), rest(b)));
  // Two parts may have one name.
  const seen = new Map<string, number>();
  return out.map((d) => {
    const n = (seen.get(d.id) ?? 0) + 1;
    seen.set(d.id, n);
    return n === 1 ? d : { ...d, id: `${d.id}#${n}` };
  });
}
