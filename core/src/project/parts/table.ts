import { attachmentKind } from './attachment';
import { briefKind } from './brief';
import { bodyKind, candidateKind, massItemKind, surfaceKind } from './candidate';
import { flightRecordKind } from './flight-record';
import type { PartKind } from './kind';
import { noteKind } from './note';
import { measurementKind } from './measurement';
import { reportKind } from './report';
import { pictureKind } from './picture';
import { scenarioKind } from './scenario';
import { originalKind, sectionKind } from './section';
import { studyKind } from './study';

/** Every kind of part, by the name that its keys begin with. */
export const PART_KINDS = {
  brief: briefKind,
  section: sectionKind,
  original: originalKind,
  candidate: candidateKind,
  surface: surfaceKind,
  'mass-item': massItemKind,
  body: bodyKind,
  note: noteKind,
  measurement: measurementKind,
  study: studyKind,
  picture: pictureKind,
  scenario: scenarioKind,
  'flight-record': flightRecordKind,
  report: reportKind,
  attachment: attachmentKind,
};

export type PartKindName = keyof typeof PART_KINDS;
type ValueOf<K> = K extends PartKind<infer V> ? V : never;
/** The value of a part, whatever its kind. */
export type PartValue = ValueOf<(typeof PART_KINDS)[PartKindName]>;

const kinds = PART_KINDS as unknown as Record<PartKindName, PartKind>;
export const KIND_NAMES = Object.keys(PART_KINDS) as PartKindName[];

/** The kind of a name. */
export const kindOf = (name: PartKindName): PartKind => kinds[name];

/** Kinds whose values stand in lists of another kind. */
export const kindsIn = (owner: PartKindName): [PartKindName, PartKind & { place: { at: 'list'; field: string } }][] =>
  KIND_NAMES.flatMap((name) => {
    const kind = kinds[name];
    return kind.place.at === 'list' && kind.place.owner === owner
      ? [[name, kind as PartKind & { place: { at: 'list'; field: string } }] as const]
      : [];
  }) as [PartKindName, PartKind & { place: { at: 'list'; field: string } }][];

/** The newest version among the kinds: the version of a whole document. */
export const SCHEMA_VERSION = Math.max(...KIND_NAMES.map((name) => kinds[name].version));
