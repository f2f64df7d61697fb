import { SURFACE_LIMITS, type LiftingSurface } from '../airframe';
import { MASS_ITEM_LIMITS } from '../balance';
import { limitBroken, stepOf, type FieldLimit } from '../limits';
import { InvalidInput, VeldtwindError } from '../numerics';
import { ENERGY_LIMITS } from '../performance';
import type { FamilyNumber } from '../polar';
import { BRIEF_LIMITS, type CandidatePart } from '../project';
import type { SectionSource } from '../shaping';
import { sectionNumbers, sectionOf, shapeNumber, shapeNumberOf, withShape } from './section-variables';

/** What a study varies: a candidate with its sections, in level flight. */
export interface StudySubject {
  candidate: CandidatePart;
  sections: Record<string, SectionSource>;
  /** m/s, m */ flight: { speed: number; altitude: number };
}

/** A number of a subject that may vary, by its address. Values are as stored: SI, degrees where the name says so. */
export interface Variable {
  /** Names and ids with dots between, such as `surfaces.w.stations.1.twistDeg`. */ path: string;
  label: string;
  limit: FieldLimit;
  /** As it stands. */ value: number;
  /** A sensible change. */ step: number;
}

/** Limits of what scales a whole surface: 1 is as it stands. */
const SCALE: FieldLimit = { label: 'Scale', dimension: 'plain', min: 0.2, max: 5, step: 0.05 };
const SCALES = { span: 'Span', chord: 'Chord', area: 'Area' } as const;
type ScaleOf = keyof typeof SCALES;

/** A surface with its spans and chords times a factor; the area goes with both. */
function scaled(s: LiftingSurface, what: ScaleOf, by: number): LiftingSurface {
  const k = what === 'area' ? Math.sqrt(by) : by;
  return {
    ...s,
    ...(what !== 'span' && { stations: s.stations.map((t) => ({ ...t, chord: t.chord * k })) }),
    ...(what !== 'chord' && { bays: s.bays.map((b) => ({ ...b, span: b.span * k })) }),
  };
}

/** The subject as one tree of names. */
const treeOf = ({ candidate, sections, flight }: StudySubject) => ({ ...candidate, sections, flight });
type Tree = Record<string, unknown>;

const child = (holder: unknown, key: string): unknown => {
  if (holder === null || typeof holder !== 'object') return undefined;
  if (Array.isArray(holder))
    return (
      (holder as { id?: string }[]).find((v) => v?.id === key) ?? (/^\d+$/.test(key) ? holder[Number(key)] : undefined)
    );
  return Object.hasOwn(holder, key) ? (holder as Tree)[key] : undefined;
};

/** The tree with another value at a path; nothing of what is given changes. */
function written(holder: unknown, keys: readonly string[], value: number | string): unknown {
  const [key, ...rest] = keys;
  const inner = rest.length === 0 ? value : written(child(holder, key), rest, value);
  if (!Array.isArray(holder)) return { ...(holder as Tree), [key]: inner };
  const found = (holder as { id?: string }[]).findIndex((v) => v?.id === key);
  const at = found >= 0 ? found : Number(key);
  return holder.map((v, i) => (i === at ? inner : v) as unknown);
}

/** Surface and size that a path such as `surfaces.w.scale.span` scales. */
const scaleOf = (path: string): { surface: string; what: ScaleOf } | null => {
  const [, surface, what] = /^surfaces\.([^.]+)\.scale\.(span|chord|area)$/.exec(path) ?? [];
  return surface ? { surface, what: what as ScaleOf } : null;
};

/** The number at a path. @throws InvalidInput `variable` where there is none. */
export function valueAt(subject: StudySubject, path: string): number {
  const scale = scaleOf(path);
  if (scale && subject.candidate.surfaces.some((s) => s.id === scale.surface)) return 1;
  const shape = shapeNumberOf(path);
  const source = shape && sectionOf(subject.sections, shape.section);
  if (source) return shapeNumber(source, shape.number);
  const found = path.split('.').reduce(child, treeOf(subject) as unknown);
  if (typeof found === 'number' && Number.isFinite(found)) return found;
  throw new InvalidInput(
    'variable',
    `There is no number at "${path}".`,
    'vw study --list-variables tells the paths of a candidate.',
    path,
  );
}

/** The word at a path, such as the key of a station's section. @throws InvalidInput `variable` where there is none. */
export function wordAt(subject: StudySubject, path: string): string {
  const found = path.split('.').reduce(child, treeOf(subject) as unknown);
  if (typeof found === 'string') return found;
  throw new InvalidInput(
    'variable',
    `There is no word at "${path}".`,
    'A choice sets words, such as surfaces.wing.stations.0.section.',
    path,
  );
}

/** The subject with other numbers and words at paths. @throws InvalidInput `variable` for a path that is not there. */
export function withValues(subject: StudySubject, values: ReadonlyMap<string, number | string>): StudySubject {
  let tree: unknown = treeOf(subject);
  const scales: { surface: string; what: ScaleOf; by: number }[] = [];
  const shapes = new Map<string, Map<FamilyNumber, number>>();
  for (const [path, value] of values) {
    if (typeof value === 'string') {
      wordAt(subject, path);
      tree = written(tree, path.split('.'), value);
      continue;
    }
    valueAt(subject, path);
    const scale = scaleOf(path);
    const shape = shapeNumberOf(path);
    if (scale) scales.push({ ...scale, by: value });
    else if (shape) shapes.set(shape.section, (shapes.get(shape.section) ?? new Map()).set(shape.number, value));
    else tree = written(tree, path.split('.'), value);
  }
  const { sections: own, flight, ...candidate } = tree as StudySubject['candidate'] & Omit<StudySubject, 'candidate'>;
  const sections = { ...own };
  for (const [key, set] of shapes) sections[key] = withShape(sectionOf(own, key)!, set);
  // Scales come last: they are of the surface as the others have left it.
  const surfaces = scales.reduce(
    (list, { surface, what, by }) => list.map((s) => (s.id === surface ? scaled(s, what, by) : s)),
    candidate.surfaces,
  );
  return { candidate: { ...candidate, surfaces }, sections, flight };
}

const typedKeys = <T extends object>(of: T) => Object.keys(of) as (keyof T)[];

/** Keys of the sections of a subject: its own, and those that its stations name by digits. */
const sectionKeys = ({ candidate, sections }: StudySubject): string[] => [
  ...new Set([...Object.keys(sections), ...candidate.surfaces.flatMap((s) => s.stations.map((t) => t.section))]),
];

/** Every number of a subject that has a limit of its own, in the order of the candidate; then those of its sections. */
export function variablesOf(subject: StudySubject): Variable[] {
  const { candidate } = subject;
  const out: Variable[] = [];
  const add = (path: string, of: string, limit: FieldLimit) => {
    const value = valueAt(subject, path);
    // What measures a length without a step of its own is varied by a hundredth of what it is.
    const step = stepOf(limit) ?? (Math.abs(value) > 0 ? 0.01 * Math.abs(value) : 0.01);
    out.push({
      path,
      label: `${of}: ${limit.label.replace(/^[A-Z](?=[a-z])/, (c) => c.toLowerCase())}`,
      limit,
      value,
      step,
    });
  };
  for (const key of ['speed', 'altitude'] as const) add(`flight.${key}`, 'Flight', BRIEF_LIMITS[key]);
  const L = SURFACE_LIMITS;
  for (const s of candidate.surfaces) {
    const at = `surfaces.${s.id}`;
    for (const key of Object.keys(SCALES) as ScaleOf[])
      add(`${at}.scale.${key}`, s.name, { ...SCALE, label: `${SCALES[key]} factor` });
    add(`${at}.incidenceDeg`, s.name, L.incidenceDeg);
    for (const axis of ['x', 'y', 'z'] as const) add(`${at}.position.${axis}`, s.name, L.position[axis]);
    s.stations.forEach((_, i) => {
      for (const key of ['chord', 'twistDeg'] as const)
        add(`${at}.stations.${i}.${key}`, `${s.name}, station ${i + 1}`, L.station[key]);
    });
    s.bays.forEach((_, i) => {
      for (const key of ['span', 'sweepDeg', 'dihedralDeg'] as const)
        add(`${at}.bays.${i}.${key}`, `${s.name}, bay ${i + 1}`, L.bay[key]);
    });
    for (const c of s.controls ?? []) {
      for (const key of ['from', 'to', 'hinge', 'deflectionDeg'] as const)
        add(`${at}.controls.${c.id}.${key}`, `${s.name}, ${c.name}`, L.control[key]);
      if (c.riggingDeg !== undefined)
        add(`${at}.controls.${c.id}.riggingDeg`, `${s.name}, ${c.name}`, L.control.riggingDeg);
    }
    // Halves differ where it is said.
    for (const key of typedKeys(L.asymmetry))
      if (s.asymmetry?.[key] !== undefined) add(`${at}.asymmetry.${key}`, `${s.name}, right − left`, L.asymmetry[key]);
  }
  for (const m of candidate.massItems) {
    add(`massItems.${m.id}.mass`, m.name, MASS_ITEM_LIMITS.mass);
    for (const axis of ['x', 'y', 'z'] as const)
      add(`massItems.${m.id}.position.${axis}`, m.name, MASS_ITEM_LIMITS.position[axis]);
  }
  const { energy } = candidate;
  if (energy)
    for (const key of energy.kind === 'battery'
      ? (['capacity', 'usable'] as const)
      : (['mass', 'consumption'] as const))
      add(`energy.${key}`, energy.kind === 'battery' ? 'Battery' : 'Fuel', ENERGY_LIMITS[key]);
  for (const key of sectionKeys(subject)) {
    const source = sectionOf(subject.sections, key);
    // Paths have dots of their own.
    if (!source || key.includes('.')) continue;
    try {
      for (const { path, label, ...n } of sectionNumbers(source))
        out.push({ ...n, path: `sections.${key}.${path}`, label: `Section ${key}: ${label}` });
    } catch (error) {
      if (!(error instanceof VeldtwindError)) throw error;
    }
  }
  return out;
}

/** What is wrong with a range of a variable; null where nothing is. */
export function rangeWrong(variable: Variable | undefined, from: number, to: number): string | null {
  if (!(from < to)) return `its range goes from ${from} to ${to}: the second must be greater`;
  const broken = variable && (limitBroken(variable.limit, from) ?? limitBroken(variable.limit, to));
  return broken ? broken.message : null;
}
