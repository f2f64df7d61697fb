import { limitBroken } from '../limits';
import { InvalidInput, RAD } from '../numerics';
import type { Body } from './body';
import { MOST_STATIONS, SURFACE_LIMITS } from './limits';
import type { DrawingView } from './outlines';
import { stationLines, twistsOf, dihedralsOf } from './placement';
import type { LiftingSurface } from './types';

const tidy = (v: number) => Number(v.toFixed(5));
const angle = (tangent: number) => Number((Math.atan(tangent) / RAD).toFixed(6));

/** A surface in its own axes: what is drawn, before it becomes bays. Lengths in m, from the leading edge of its root. */
export interface SurfaceLines {
  /** Along the span. */ offsets: number[];
  leading: number[];
  chords: number[];
  rises: number[];
}

/** The lines of a surface. */
export function linesOf(surface: LiftingSurface): SurfaceLines {
  const lines = stationLines(surface);
  const offsets = [0];
  for (const b of surface.bays) offsets.push(offsets[offsets.length - 1] + b.span);
  return {
    offsets,
    leading: lines.map((l) => l.leading),
    chords: surface.stations.map((s) => s.chord),
    rises: lines.map((l) => l.rise),
  };
}

/** Writes lines into a surface: spans, chords, sweeps and dihedrals. The surface given is changed; what is relative stays so. */
export function writeLines(surface: LiftingSurface, { offsets, leading, chords, rises }: SurfaceLines): void {
  surface.stations.forEach((s, i) => (s.chord = tidy(chords[i])));
  let inboard = 0;
  surface.bays.forEach((b, i) => {
    const span = tidy(offsets[i + 1] - offsets[i]);
    const at = b.sweepAt ?? 0.25;
    b.span = span;
    b.sweepDeg = angle((leading[i + 1] - leading[i] + at * (chords[i + 1] - chords[i])) / span);
    const dihedral = angle((rises[i + 1] - rises[i]) / span);
    b.dihedralDeg = b.dihedralRelative && i > 0 ? Number((dihedral - inboard).toFixed(6)) : dihedral;
    inboard = dihedral;
  });
}

/** What a handle moves: the whole part, the leading edge of a station with its place along the span, or its trailing edge (its chord). */
export type SurfaceHandle = { kind: 'part' } | { kind: 'leading' | 'trailing'; station: number };

/**
 * Moves a handle of a surface in a view by a step on the page, m, as {@link inView} has it (of the right or upper side). Stations outboard stay where they
 * are, and so do those inboard. The surface given is changed.
 * @throws InvalidInput `handle` where a station would pass its neighbour or a chord vanish; the surface is then as it was.
 */
export function moveSurfaceHandle(
  surface: LiftingSurface,
  handle: SurfaceHandle,
  view: DrawingView,
  [du, dv]: readonly [number, number],
): void {
  const [dx, dy, dz] = view === 'plan' ? [dv, du, 0] : view === 'front' ? [0, du, dv] : [du, 0, dv];
  if (handle.kind === 'part') {
    const { position: p } = surface;
    surface.position = { x: tidy(p.x + dx), y: tidy(p.y + dy), z: tidy(p.z + dz) };
    return;
  }
  const roll = (surface.rollDeg ?? 0) * RAD;
  const [c, s] = [Math.cos(roll), Math.sin(roll)];
  const vertical = surface.plane === 'vertical';
  // Back into the surface's own axes. A view that shows the span shortened moves along it as far as it seems.
  const [across, up] = vertical ? [dz, -dy] : [dy, dz];
  let [along, rise] = [across * c + up * s, up * c - across * s];
  if (view !== 'front') [along, rise] = [across === 0 ? 0 : across / c, 0];
  const lines = linesOf(surface);
  const i = handle.station;
  const refuse = (what: string, path: string): never => {
    throw new InvalidInput('handle', `${surface.name}: ${what}.`, undefined, path);
  };
  if (handle.kind === 'trailing') {
    const chord = lines.chords[i] + dx;
    const broken = limitBroken(SURFACE_LIMITS.station.chord, chord);
    if (broken) refuse(broken.message, `stations.${i}.chord`);
    lines.chords[i] = chord;
    // The leading edge stays where it is.
    writeLines(surface, lines);
    return;
  }
  if (i === 0) {
    moveSurfaceHandle(surface, { kind: 'part' }, view, [du, dv]);
    return;
  }
  const offset = lines.offsets[i] + along;
  const least = SURFACE_LIMITS.bay.span.above!.nearest;
  if (offset < lines.offsets[i - 1] + least)
    refuse('a station cannot pass the one inboard of it', `bays.${i - 1}.span`);
  if (i < surface.bays.length && offset > lines.offsets[i + 1] - least)
    refuse('a station cannot pass the one outboard of it', `bays.${i}.span`);
  lines.offsets[i] = offset;
  lines.leading[i] += dx;
  lines.rises[i] += rise;
  const slopes = [i - 1, i].filter((b) => b < surface.bays.length);
  for (const b of slopes) {
    const span = lines.offsets[b + 1] - lines.offsets[b];
    const most = Math.tan(SURFACE_LIMITS.bay.dihedralDeg.max * RAD);
    if (Math.abs((lines.rises[b + 1] - lines.rises[b]) / span) > most)
      refuse('a dihedral of more than 75° is none', `bays.${b}.dihedralDeg`);
    if (Math.abs((lines.leading[b + 1] - lines.leading[b]) / span) > most)
      refuse('a sweep of more than 75° is none', `bays.${b}.sweepDeg`);
  }
  writeLines(surface, lines);
}

/** What a handle of a body moves: all of it, or a station with its width (from above) or height (from the side). */
export type BodyHandle = { kind: 'part' } | { kind: 'station'; station: number };

/** Moves a handle of a body as {@link moveSurfaceHandle} does. @throws InvalidInput `handle` where stations would pass each other. */
export function moveBodyHandle(
  body: Body,
  handle: BodyHandle,
  view: DrawingView,
  [du, dv]: readonly [number, number],
): void {
  const [dx, dy, dz] = view === 'plan' ? [dv, du, 0] : view === 'front' ? [0, du, dv] : [du, 0, dv];
  if (handle.kind === 'part') {
    const p = body.position;
    body.position = { x: tidy(p.x + dx), y: tidy(p.y + dy), z: tidy(p.z + dz) };
    return;
  }
  const i = handle.station;
  const s = body.stations[i];
  const x = tidy(s.x + dx);
  if ((i > 0 && !(x > body.stations[i - 1].x)) || (i < body.stations.length - 1 && !(x < body.stations[i + 1].x)))
    throw new InvalidInput(
      'handle',
      `${body.name}: a station cannot pass its neighbour.`,
      undefined,
      `stations.${i}.x`,
    );
  s.x = x;
  s.width = tidy(Math.max(0, s.width + 2 * dy));
  s.height = tidy(Math.max(0, s.height + 2 * dz));
}

/**
 * Puts a station into a bay; the shape stays as it is, as far as a station can tell it. The surface given is changed.
 * @param share of the bay's span. @throws InvalidInput `surface-stations` where it has as many as it may.
 */
export function insertStation(surface: LiftingSurface, bay: number, share = 0.5, most = MOST_STATIONS): void {
  if (surface.stations.length >= most)
    throw new InvalidInput(
      'surface-stations',
      `A surface has at most ${most} stations.`,
      'Remove one first.',
      'stations',
    );
  const lines = linesOf(surface);
  const mix = (list: readonly number[]) => (1 - share) * list[bay] + share * list[bay + 1];
  const twists = twistsOf(surface);
  const own = surface.bays[bay];
  const [a, b] = [surface.stations[bay], surface.stations[bay + 1]];
  const twist = mix(twists);
  const dihedral = dihedralsOf(surface)[bay];
  const made = {
    chord: tidy(mix(lines.chords)),
    twistDeg: Number((b.twistRelative ? twist - twists[bay] : twist).toFixed(6)),
    ...(b.twistRelative ? { twistRelative: true } : {}),
    ...(a.twistAbout !== undefined && a.twistAbout === b.twistAbout ? { twistAbout: a.twistAbout } : {}),
    section: share > 0.5 ? b.section : a.section,
  };
  if (b.twistRelative) b.twistDeg = Number((twists[bay + 1] - twist).toFixed(6));
  surface.stations.splice(bay + 1, 0, made);
  const outer = {
    ...own,
    span: tidy(own.span * (1 - share)),
    ...(own.dihedralRelative ? { dihedralRelative: false, dihedralDeg: dihedral } : {}),
  };
  surface.bays.splice(bay, 1, { ...own, span: tidy(own.span * share) }, outer);
}

/** Swaps what two neighbouring stations are; spans between them stay. The surface given is changed. @param by 1 outboard, −1 inboard. */
export function moveStation(surface: LiftingSurface, index: number, by: 1 | -1): void {
  const to = index + by;
  if (to < 0 || to >= surface.stations.length) return;
  const lines = linesOf(surface);
  const twists = twistsOf(surface);
  const swap = <T>(list: T[]) => ([list[index], list[to]] = [list[to], list[index]]);
  swap(surface.stations);
  swap(twists);
  swap(lines.chords);
  surface.stations.forEach((s, i) => {
    s.twistDeg = Number((s.twistRelative && i > 0 ? twists[i] - twists[i - 1] : twists[i]).toFixed(6));
    // Edges that have no neighbour where they are now run straight.
    const missing = (run?: string) =>
      (run === 'outboard' && i === surface.stations.length - 1) || (run === 'inboard' && i === 0 && !surface.mirrored);
    if (s.edges && Object.values(s.edges).some((e) => missing(e?.run))) delete s.edges;
  });
  writeLines(surface, lines);
}
