import type { Draft } from 'immer';
import { newSurface, type LiftingSurface } from '../airframe';
import { freeId, fittedName, nextLetter } from '../limits';
import { pairsFromOutline } from '../section';
import { sourceOutline, type SectionSource } from '../shaping';
import type { ProjectDocument } from './document';
import { designationSection, freshCandidate } from './fresh';
import { LONGEST_CANDIDATE_NAME, type CandidatePart } from './parts';

type Document = Draft<ProjectDocument>;
const STYLES = 64;
/** Sections of first surfaces. */
const WING_DESIGNATION = '2411';
const TAIL_DESIGNATION = '0009';
/** m, where the brief sets no span. */
const FIRST_SPAN = 3;

/** Adds a candidate, empty or as a copy of one. @returns its id. */
export function addCandidate(document: Document, from?: CandidatePart): string {
  const all = Object.values(document.candidates);
  const letter = nextLetter(all.map((c) => c.letter));
  const id = freeId(letter, (i) => Object.hasOwn(document.candidates, i));
  const style = (Math.max(-1, ...all.map((c) => c.style)) + 1) % STYLES;
  document.candidates[id] = from
    ? {
        ...from,
        id,
        letter,
        style,
        name: fittedName(from.name, LONGEST_CANDIDATE_NAME, ' copy'),
        note: `Copied from ${from.letter} ${from.name}.`,
      }
    : freshCandidate(id, letter, `Candidate ${letter}`, style);
  return id;
}

/**
 * Adds a candidate that was read from a file, with the sections that it brings: one of the same name and source is used again, any other is added
 * under an id of its own.
 * @param sections of the file by key. @returns the candidate's id.
 */
export function addReadCandidate(
  document: Document,
  read: CandidatePart,
  sections: Readonly<Record<string, SectionSource>>,
): string {
  const ids = new Map<string, string>();
  const idOf = (key: string): string => {
    const known = ids.get(key);
    if (known) return known;
    const source = sections[key];
    const designation = source ? null : /^naca:([0-9]{4,5})(?::(sharp|published))?$/i.exec(key);
    if (!source && !designation) return key;
    const given = source ?? {
      kind: 'designation' as const,
      designation: designation![1],
      trailingEdge: (designation![2] as 'sharp' | undefined) ?? 'published',
    };
    // A recipe's result is taken as it is: its steps are not in the file.
    const plain =
      given.kind === 'designation' || given.kind === 'coordinates'
        ? given
        : { kind: 'coordinates' as const, points: pairsFromOutline(sourceOutline(given)) };
    const same = Object.values(document.sections).find(
      (s) => s.steps.length === 0 && JSON.stringify(s.source) === JSON.stringify(plain),
    );
    const name = designation ? `Section ${designation[1]}` : key;
    const id = same?.id ?? freeId(name, (k) => Object.hasOwn(document.sections, k));
    if (!same) document.sections[id] = { id, name, source: plain, steps: [], tags: [], note: '' };
    ids.set(key, id);
    return id;
  };
  const surfaces = read.surfaces.map((s) => ({
    ...s,
    stations: s.stations.map((t) => ({ ...t, section: idOf(t.section) })),
  }));
  const id = addCandidate(document, { ...read, surfaces });
  document.candidates[id].name = fittedName(read.name, LONGEST_CANDIDATE_NAME);
  document.candidates[id].note = read.note || 'Read from a file.';
  return id;
}

/** The section of a designation, made where the project has none. @returns its id. */
function sectionFor(document: Document, designation: string): string {
  const known = Object.values(document.sections).find(
    (s) => s.source.kind === 'designation' && s.source.designation === designation && s.steps.length === 0,
  );
  if (known) return known.id;
  const name = `Section ${designation}`;
  const id = freeId(name, (i) => Object.hasOwn(document.sections, i));
  document.sections[id] = designationSection(id, name, designation);
  return id;
}

/** The section that a new surface of a role is given: that of its kin, or one that is made where there is none. @returns its id. */
export function sectionForRole(document: Document, candidateId: string, role: LiftingSurface['role']): string {
  const surfaces = document.candidates[candidateId]?.surfaces ?? [];
  const wing = surfaces.find((s) => s.role === 'wing');
  return role === 'wing'
    ? (wing?.stations[0].section ?? Object.keys(document.sections)[0] ?? sectionFor(document, WING_DESIGNATION))
    : (surfaces.find((s) => s.role !== 'wing')?.stations[0].section ?? sectionFor(document, TAIL_DESIGNATION));
}

/**
 * Adds a first surface of a role to a candidate, and the section that it needs where there is none.
 * @returns the surface; undefined where there is no such candidate.
 */
export function addSurface(
  document: Document,
  candidateId: string,
  role: LiftingSurface['role'],
): LiftingSurface | undefined {
  const candidate = document.candidates[candidateId];
  if (!candidate) return undefined;
  const { surfaces } = candidate;
  const section = sectionForRole(document, candidateId, role);
  const made = newSurface({ role, section, span: document.brief.spanLimit ?? FIRST_SPAN }, surfaces);
  surfaces.push(made);
  return made;
}

/** Adds a mass item beside the last one, or at a place. @returns its id. */
export function addMassItem(candidate: Draft<CandidatePart>, x: number): string {
  const items = candidate.massItems;
  const id = freeId('item', (i) => items.some((m) => m.id === i));
  const last = items[items.length - 1];
  items.push({
    id,
    name: `Item ${items.length + 1}`,
    mass: 1,
    position: last
      ? { ...last.position, x: Number((last.position.x + 0.05).toFixed(3)) }
      : { x: Number(x.toFixed(3)), y: 0, z: 0 },
  });
  return id;
}
