import type { QueryOf } from '@veldtwind/contract';
import { sectionLookup } from '@veldtwind/core/candidate';
import { VeldtwindError } from '@veldtwind/core/numerics';
import type { CandidatePart, SectionPart } from '@veldtwind/core/project';
import { exportAirframe } from '@veldtwind/exchange/export';
import { readHole, readPrinter, readSheet, type RibOptions } from '@veldtwind/exchange/options';
import type { Outcome } from './worker';

/** What a thread is given to write: a candidate and the project's sections as JSON, and what is asked for. */
export interface ExportTask {
  candidate: string;
  sections: string;
  ask: QueryOf<'exportAirframe'>;
}
export interface ExportedAirframe {
  content: Uint8Array;
  type: string;
  letter: string;
  /** What it is of, for its name. */ what: string;
  notes: string[];
}
export type ExportOutcome = { ok: true; file: ExportedAirframe } | Extract<Outcome, { ok: false }>;

/** Writes an airframe in a thread. */
export default async function run({ candidate, sections, ask }: ExportTask): Promise<ExportOutcome> {
  try {
    const c = JSON.parse(candidate) as CandidatePart;
    const known = JSON.parse(sections) as Record<string, SectionPart>;
    const { skin, spacing, ring } = ask;
    const given: Partial<RibOptions> = {
      ...(skin === undefined ? {} : { skin }),
      ...(spacing === undefined ? {} : { spacing }),
      ...(ring === undefined ? {} : { ring }),
      ...(ask.sheet ? { sheet: readSheet(ask.sheet) } : {}),
      ...(ask.holes ? { holes: ask.holes.split(',').map((t) => readHole(t)) } : {}),
    };
    const made = await exportAirframe({
      name: `${c.letter} ${c.name}`,
      surfaces: c.surfaces,
      bodies: c.bodies,
      lookup: sectionLookup(known),
      format: ask.as,
      what: ask.what,
      unit: ask.unit,
      ribs: given,
      ...(ask.printer ? { printer: readPrinter(ask.printer) } : {}),
      ...(ask.kerf === undefined ? {} : { kerf: ask.kerf }),
    });
    const content = typeof made.content === 'string' ? Buffer.from(made.content, 'utf8') : made.content;
    return { ok: true, file: { content, type: made.type, letter: c.letter, what: ask.what ?? '', notes: made.notes } };
  } catch (error) {
    if (!(error instanceof VeldtwindError)) throw error;
    const { name, code, message, hint, path } = error;
    return { ok: false, name, code, message, hint, path };
  }
}
