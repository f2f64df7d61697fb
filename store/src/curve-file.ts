import { checkedCurve, curveKey, CURVE_VERSION, placesOf, valueAt } from '@veldtwind/core/polar';
import { parseJson } from '@veldtwind/core/limits';
import { InvalidInput } from '@veldtwind/core/numerics';
import { stateOf, type ViscousPoint } from '@veldtwind/core/section-flow';
import { z } from 'zod';
import { readArchive } from './archive';
import type { Db } from './open';
import { RunStore, type CurveRow, type ImportedCurve, type RunRow } from './runs';

/**
 * A set of curves as open files, described in docs/polars.md: `set.json` says what it is, each line of `curves.jsonl` is a curve with all of its points
 * and the states that their distributions are read from. Tables beside them are for people and other programs; they are not read back.
 */
export const SET_FORMAT = 'veldtwind-curves';
export const SET_VERSION = 1;
export const SET_FILES = { head: 'set.json', curves: 'curves.jsonl', end: 'end.json' } as const;

const headSchema = z.object({
  format: z.literal(SET_FORMAT, 'is not that of a set of curves'),
  formatVersion: z.number().int().max(SET_VERSION, 'was written by a newer Veldtwind; open it with that version'),
  name: z.string().trim().min(1).max(120),
});
const endSchema = z.object({ curves: z.number().int().min(0) });

export const setHead = (name: string): string =>
  `${JSON.stringify({ format: SET_FORMAT, formatVersion: SET_VERSION, methodVersion: CURVE_VERSION, name: name.slice(0, 120) || 'Curves' }, null, 2)}\n`;
export const setEnd = (curves: number): string => `${JSON.stringify({ curves })}\n`;

const number = z.number();
const common = { reynolds: number, reason: z.string().max(500).optional() };
/** A point as it is kept: enough of it is looked at that a damaged one is not taken. */
const storedPoint = z.union([
  z.looseObject({
    ...common,
    status: z.enum(['solved', 'doubtful']),
    alpha: number,
    cl: number,
    cd: number,
    cdFriction: number,
    cdPressure: number,
    cm: number,
    cpMin: number,
    doubts: z.array(z.unknown()).max(50),
  }),
  z.looseObject({ ...common, status: z.literal('unsolved'), alpha: number.nullable() }),
]);
/** Points of one curve. */
const MOST_ON_LINE = 10_000;
const curveLine = z.object({
  name: z.string().min(1).max(120),
  section: z.string().max(64).nullable().optional(),
  methodVersion: z.number().int().min(0).max(1e6),
  input: z.unknown(),
  points: z
    .array(
      z.object({
        place: z.number().int(),
        point: storedPoint,
        state: z.string().max(200_000).nullable(),
      }),
    )
    .max(MOST_ON_LINE),
});

/** A curve as one line. */
export function curveText(
  store: RunStore,
  curve: Pick<CurveRow, 'id' | 'name' | 'section' | 'input' | 'version'>,
): string {
  const { id, name, section, input, version } = curve;
  const points = store
    .raw(id)
    .map(
      ({ place, json, state }) =>
        `{"place":${place},"point":${json},"state":${state ? `"${state.toString('base64')}"` : 'null'}}`,
    );
  return `{"name":${JSON.stringify(name)},"section":${JSON.stringify(section)},"methodVersion":${version},"input":${JSON.stringify(input)},"points":[${points.join(',')}]}\n`;
}

/**
 * Reads a line of curves.jsonl.
 * @param known ids of sections that the curve may belong to. @param tell told what was left out of it.
 * @throws InvalidInput for a line that is no curve.
 */
export function readCurve(bytes: Uint8Array, known: ReadonlySet<string>, tell: (what: string) => void): ImportedCurve {
  const parsed = curveLine.safeParse(parseJson(Buffer.from(bytes).toString('utf8'), 'a line'));
  if (!parsed.success) {
    const issue = parsed.error.issues[0];
    throw new InvalidInput(
      'curve-line',
      `A curve was left out: ${issue.path.join('.') || 'its line'} ${issue.message}.`,
    );
  }
  const { name, section, methodVersion, points } = parsed.data;
  const input = checkedCurve(parsed.data.input);
  let unreadable = 0;
  const read = points.map(({ place, point, state }) => {
    const bytes = state === null ? null : Buffer.from(state, 'base64');
    const whole = bytes !== null && stateOf(bytes) !== undefined;
    if (bytes !== null && !whole) unreadable++;
    return { place, point: point as unknown as ViscousPoint, state: whole ? bytes : null };
  });
  if (unreadable > 0)
    tell(`${name}: ${unreadable} points were taken without their distributions, which cannot be read.`);
  const values = read.map((p) => valueAt(input, p.place));
  if (placesOf({ input, values }).some((place, i) => place !== read[i].place))
    throw new InvalidInput('curve-line', `A curve was left out: ${name} has points at impossible places.`);
  return {
    key: curveKey(input, methodVersion),
    name,
    section: section && known.has(section) ? section : null,
    version: methodVersion,
    input,
    points: read,
  };
}

/** What came of an import. */
export interface ImportedSet {
  run: RunRow;
  curves: number;
  points: number;
  /** Points that were there already. */
  known: number;
  left: string[];
}

/** Things left out that are told one by one. */
const MOST_TOLD = 50;

/**
 * Takes a set of curves into a project, as a run that is finished. Curves of another version of the method are kept apart from those solved here.
 * @throws InvalidInput `curve-set…` where it is none, or not whole; then nothing of it stays.
 */
export async function readCurveSet(db: Db, store: RunStore, projectId: string, path: string): Promise<ImportedSet> {
  const left: string[] = [];
  const tell = (what: string) => {
    if (left.length < MOST_TOLD) left.push(what);
    else if (left.length === MOST_TOLD) left.push('and more');
  };
  let head: z.infer<typeof headSchema> | undefined;
  let end: z.infer<typeof endSchema> | undefined;
  let lines = 0;
  let other = 0;
  const sections = new Set(
    db
      .prepare("SELECT substr(key, 9) FROM part WHERE project_id = ? AND key LIKE 'section:%'")
      .pluck()
      .all(projectId) as string[],
  );
  const run = store.beginImport(projectId);
  const whole =
    <T>(name: string, schema: z.ZodType<T>) =>
    (bytes: Uint8Array): T => {
      const parsed = schema.safeParse(parseJson(Buffer.from(bytes).toString('utf8'), name, 'Is the file complete?'));
      if (parsed.success) return parsed.data;
      const issue = parsed.error.issues[0];
      throw new InvalidInput(
        'curve-set',
        `${name}: ${issue.path.join('.') || 'it'} ${issue.message}.`,
        'Is it a set of curves?',
      );
    };
  let [curves, points, known] = [0, 0, 0];
  try {
    await readArchive(db, path, 'curve-set', (file) => {
      const name = file.replace(/^[^/]+\/(?=(set|end)\.json$|curves\.jsonl$)/, '');
      if (name === SET_FILES.head) return (b) => (head = whole(name, headSchema)(b));
      if (name === SET_FILES.end) return (b) => (end = whole(name, endSchema)(b));
      if (name !== SET_FILES.curves) return null;
      return (b) => {
        lines++;
        try {
          const curve = readCurve(b, sections, tell);
          const fresh = store.importCurve(run, curve);
          if (curve.version !== CURVE_VERSION) other++;
          curves++;
          points += curve.points.length;
          known += curve.points.length - fresh;
        } catch (error) {
          if ((error as { code?: string }).code?.startsWith('SQLITE')) throw error;
          tell((error as Error).message);
        }
      };
    });
    if (!head)
      throw new InvalidInput(
        'curve-set',
        'The file holds no set.json.',
        'Give a set of curves that was exported here.',
      );
    if (lines === 0)
      throw new InvalidInput(
        'curve-set',
        'The file holds no curves: curves.jsonl is missing or empty.',
        'Export the set again.',
      );
    if (end?.curves !== lines)
      throw new InvalidInput('curve-set', 'The file is not complete: its end is missing.', 'Export the set again.');
    if (curves === 0)
      throw new InvalidInput('curve-set', `No curve of the file can be read. ${left[0] ?? ''}`, 'Is it damaged?');
  } catch (error) {
    store.remove(run);
    throw error;
  }
  if (other > 0)
    tell(
      `${other} curves were solved by another version of the method: they stand beside those solved here, and are not mixed with them.`,
    );
  store.endImport(run, `Read from ${head.name}`.slice(0, 80));
  return { run: store.run(run)!, curves, points, known, left };
}
