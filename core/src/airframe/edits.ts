import { freeId, fittedName } from '../limits';
import { InvalidInput } from '../numerics';
import { standing } from './attach';
import { crossings } from './crossings';
import { planformOf } from './planform';
import type { LiftingSurface } from './types';

const LONGEST_NAME = 60;
/** Lengths that are proposed are round: to a tenth of a millimetre, or to three digits. */
const millimetres = (v: number) => Number(v.toFixed(4));
const three = (v: number) => Number(v.toPrecision(3));

/** A copy of a surface, set off by a part of its chord so that it is seen. @param surfaces those it joins. */
export function copiedSurface(surface: LiftingSurface, surfaces: readonly LiftingSurface[]): LiftingSurface {
  const chord = surface.stations[0].chord;
  return {
    ...structuredCopy(surface),
    id: freeId(surface.role, (id) => surfaces.some((s) => s.id === id)),
    name: fittedName(surface.name, LONGEST_NAME, ' copy'),
    position: {
      ...surface.position,
      // One in the same plane would lie in it.
      x: millimetres(surface.position.x + (surface.plane === 'vertical' ? 1.2 : 0.5) * chord),
      z: millimetres(surface.position.z + 0.25 * chord),
    },
  };
}

const structuredCopy = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

/**
 * Takes a station away; the bays on both sides become one with the span of both.
 * @throws InvalidInput `surface-stations` where only two are left.
 */
export function removeStation(surface: LiftingSurface, index: number): void {
  if (surface.stations.length <= 2)
    throw new InvalidInput(
      'surface-stations',
      'A surface needs two stations.',
      'Remove the surface instead.',
      'stations',
    );
  const bay = Math.min(index, surface.bays.length - 1);
  const gone = surface.bays[bay];
  surface.stations.splice(index, 1);
  surface.bays.splice(bay, 1);
  const other = surface.bays[Math.min(Math.max(0, bay - 1), surface.bays.length - 1)];
  other.span = Number((other.span + gone.span).toFixed(6));
}

/** Tail arm over the wing's mean chord, and volumes of tails, that first surfaces are sized with. */
const TAIL_ARM = 3.2;
const TAILPLANE_VOLUME = 0.5;
const FIN_VOLUME = 0.035;
/** Of a first foreplane: its arm ahead of the wing's quarter chord over the mean chord, its area over the wing's, its aspect ratio. */
const FOREPLANE = { arm: 2.6, area: 0.16, aspect: 5 };
/** Shift of a new surface that would lie in another, over its chord, and how often. */
const CLEAR_BY = 0.15;
const MOST_SHIFTS = 20;
const ROLE_NAMES = { wing: 'Wing', tailplane: 'Tailplane', fin: 'Fin', foreplane: 'Foreplane' } as const;

/** What a new surface is made with. */
export interface NewSurface {
  role: LiftingSurface['role'];
  /** Key of its section. */
  section: string;
  /** m; span of a first wing. */
  span: number;
}

/**
 * A first surface of a role: a wing of a usual shape, tails sized by their volume to the wing that is there, a foreplane by a share of its area.
 * @param surfaces those it joins; it lies in none of them, and one of the same role is set off, so that it does not hide.
 * @source usual tail volumes: horizontal 0.5, vertical 0.035 of wing area times mean chord or span (NACA TN-1229, 1947, gives the range).
 */
export function newSurface(wanted: NewSurface, surfaces: readonly LiftingSurface[]): LiftingSurface {
  const made = proposed(wanted, surfaces);
  const [{ chord }] = made.stations;
  const along = made.role === 'foreplane' ? -1 : 1;
  const others = inPlace(surfaces);
  for (let k = 0; k < MOST_SHIFTS; k++) {
    if (!crossings([...others, made]).some((c) => c.a === made.id || c.b === made.id)) break;
    made.position.x = three(made.position.x + along * CLEAR_BY * chord);
    if (made.plane === 'horizontal') made.position.z = three(made.position.z + CLEAR_BY * chord);
  }
  return made;
}

/** Surfaces where they stand; as they are given where one cannot be placed. */
function inPlace(surfaces: readonly LiftingSurface[]): readonly LiftingSurface[] {
  try {
    return standing(surfaces);
  } catch {
    return surfaces;
  }
}

function proposed({ role, section, span }: NewSurface, surfaces: readonly LiftingSurface[]): LiftingSurface {
  const wing = surfaces.find((s) => s.role === 'wing');
  const same = surfaces.filter((s) => s.role === role).length;
  const base = {
    id: freeId(role, (id) => surfaces.some((s) => s.id === id)),
    name: same === 0 ? ROLE_NAMES[role] : `${ROLE_NAMES[role]} ${same + 1}`,
    mirrored: role !== 'fin',
    plane: role === 'fin' ? ('vertical' as const) : ('horizontal' as const),
    role,
    incidenceDeg: 0,
  };
  const station = (chord: number, twistDeg = 0) => ({ chord: three(chord), twistDeg, section });
  if (role === 'wing' || !wing) {
    const b = role === 'wing' ? span : span * 0.3;
    return {
      ...base,
      position: { x: three(same * 0.3 * b), y: 0, z: 0 },
      stations: [station(b / 7), station(b / 11, role === 'wing' ? -1 : 0)],
      bays: [{ span: three(b / 2), sweepDeg: 2, dihedralDeg: role === 'wing' ? 3 : 0 }],
    };
  }
  const plan = planformOf(wing);
  const chord = plan.mac.chord;
  const off = same * 0.3 * chord;
  const arm = TAIL_ARM * chord + off;
  const x = three(wing.position.x + 0.25 * chord + arm);
  if (role === 'tailplane') {
    const area = (TAILPLANE_VOLUME * plan.area * chord) / arm;
    const b = Math.sqrt(area * 4.5);
    return {
      ...base,
      position: { x, y: 0, z: three(0.05 * chord + off) },
      incidenceDeg: -1.5,
      stations: [station((area / b) * 1.15), station((area / b) * 0.85)],
      bays: [{ span: three(b / 2), sweepDeg: 4, dihedralDeg: 0 }],
    };
  }
  if (role === 'foreplane') {
    const b = Math.sqrt(FOREPLANE.area * plan.area * FOREPLANE.aspect);
    const root = (FOREPLANE.area * plan.area * 1.1) / b;
    return {
      ...base,
      position: {
        x: three(wing.position.x + 0.25 * chord - FOREPLANE.arm * chord - off - 0.25 * root),
        y: 0,
        z: three(0.1 * chord + off),
      },
      incidenceDeg: 2,
      stations: [station(root), station((root * 0.9) / 1.1)],
      bays: [{ span: three(b / 2), sweepDeg: 4, dihedralDeg: 0 }],
    };
  }
  const area = (FIN_VOLUME * plan.area * plan.span) / arm;
  const h = Math.sqrt(area * 1.5);
  return {
    ...base,
    // A further one in the same plane stands behind the one that is there.
    position: { x: three(x - 0.05 * chord + same * 1.6 * (area / h)), y: 0, z: three(0.08 * chord) },
    stations: [station((area / h) * 1.25), station((area / h) * 0.75)],
    bays: [{ span: three(h), sweepDeg: 22, dihedralDeg: 0 }],
  };
}
