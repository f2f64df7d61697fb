import { Readable } from 'node:stream';
import { MOST_STATES } from '@veldtwind/core/polar';
import { isSolved } from '@veldtwind/core/section-flow';
import { curveText, SET_FILES, setEnd, setHead } from '@veldtwind/store/curve-file';
import type { CurveRow, RunStore } from '@veldtwind/store/runs';
import { ZipFile } from 'yazl';
import { fileOf, folderOf, setTables } from './open-set';

/** Gives the distributions of stored points as tables; null for those that cannot be read. */
export type TablesOf = (input: CurveRow['input'], states: string[]) => Promise<(string | null)[]>;

/**
 * A set of curves as one open file, piece by piece: what is read again, and tables of points, facts and every distribution beside it, as the folder of
 * `vw polars` has them.
 * @param tablesOf makes the tables of one curve's points, somewhere else than in this thread.
 */
export async function* writeCurveSet(
  store: RunStore,
  curves: readonly CurveRow[],
  name: string,
  tablesOf: TablesOf,
): AsyncGenerator<Uint8Array> {
  const zip = new ZipFile();
  const out = zip.outputStream as Readable;
  zip.on('error', (error: Error) => out.destroy(error));
  const file = (path: string, text: () => Iterable<string>) =>
    zip.addReadStreamLazy(path, (done) => done(null, Readable.from(text(), { objectMode: false })));
  file(SET_FILES.head, () => [setHead(name)]);
  file(SET_FILES.curves, function* () {
    for (const curve of curves) yield curveText(store, curve);
  });
  let tables: { points: string; facts: string } | undefined;
  file('points.csv', () => [(tables ??= setTables(store, curves)).points]);
  file('facts.csv', () => [(tables ??= setTables(store, curves)).facts]);
  for (const curve of curves) {
    const places = store
      .points(curve.id)
      .flatMap((p) => (isSolved(p.point) && store.stateText(curve.id, p.place) !== undefined ? [p.place] : []))
      .slice(0, MOST_STATES);
    // The tables of a curve are made together when its first file's turn comes, and dropped with its last.
    let made: Promise<(string | null)[]> | undefined;
    places.forEach((place, i) =>
      zip.addReadStreamLazy(`distributions/${folderOf(curve)}/${fileOf(curve.input, place)}`, (done) => {
        made ??= tablesOf(
          curve.input,
          places.map((p) => store.stateText(curve.id, p)!),
        );
        made.then(
          (texts) => {
            const text = texts[i] ?? '';
            if (i === places.length - 1) made = undefined;
            done(null, Readable.from([text], { objectMode: false }));
          },
          (error: Error) => done(error, Readable.from([])),
        );
      }),
    );
  }
  file(SET_FILES.end, () => [setEnd(curves.length)]);
  zip.end();
  for await (const piece of out) yield piece as Buffer;
}
