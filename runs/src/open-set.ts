import { existsSync, mkdirSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { tableText } from '@veldtwind/core/spreadsheet';
import { runAnalysis } from '@veldtwind/core/analysis';
import { DEG } from '@veldtwind/core/numerics';
import {
  distributionTable,
  polarFacts,
  valueAt,
  type CurveInput,
  type CurvePoint,
  type PolarFacts,
} from '@veldtwind/core/polar';
import { isSolved } from '@veldtwind/core/section-flow';
import { curveText, SET_FILES, setEnd, setHead } from '@veldtwind/store/curve-file';
import type { CurveRow, RunStore } from '@veldtwind/store/runs';

/** Significant digits of numbers in the files. */
const DIGITS = 7;
const shown = (v: number | null | undefined): string =>
  v === null || v === undefined || !Number.isFinite(v) ? '' : String(Number(v.toPrecision(DIGITS)));

const CONDITIONS = ['section', 'reynolds', 'mach', 'ncrit'] as const;
export const POINT_FIELDS = [
  ...CONDITIONS,
  'alphaDeg',
  'cl',
  'cd',
  'cdFriction',
  'cdPressure',
  'cm',
  'cpMin',
  'transitionTop',
  'transitionBottom',
  'status',
  'reason',
] as const;
const FACTS: [string, (f: PolarFacts) => number | boolean | null | undefined][] = [
  ['clMax', (f) => f.clMax],
  ['alphaClMaxDeg', (f) => f.alphaClMaxDeg],
  ['clMaxReached', (f) => f.clMaxReached],
  ['liftKept', (f) => f.liftKept],
  ['cdMin', (f) => f.cdMin],
  ['clAtCdMin', (f) => f.clAtCdMin],
  ['lowDragFrom', (f) => f.lowDragRange?.[0]],
  ['lowDragTo', (f) => f.lowDragRange?.[1]],
  ['bestLiftToDrag', (f) => f.bestLiftToDrag],
  ['clAtBestLiftToDrag', (f) => f.clAtBestLiftToDrag],
  ['bestClimb', (f) => f.bestClimb],
  ['alphaZeroLiftDeg', (f) => f.alphaZeroLiftDeg],
  ['liftSlopePerDeg', (f) => f.liftSlopePerDeg],
  ['cmZeroLift', (f) => f.cmZeroLift],
  ['cmGreatest', (f) => f.cmGreatest],
  ['cmGreatestNoseUp', (f) => f.cmGreatestNoseUp],
];

const conditionsOf = (name: string, input: CurveInput, reynolds: number) => [
  name,
  shown(reynolds),
  shown(input.conditions.mach ?? 0),
  shown(input.conditions.criticalAmplification ?? 9),
];

/** A row of points.csv. */
function pointRow(name: string, input: CurveInput, { place, point }: CurvePoint): string[] {
  const given = input.swept === 'alpha' ? valueAt(input, place) : point.alpha === null ? null : point.alpha * DEG;
  const p = isSolved(point) ? point : undefined;
  return [
    ...conditionsOf(name, input, point.reynolds),
    shown(given),
    ...[p?.cl, p?.cd, p?.cdFriction, p?.cdPressure, p?.cm, p?.cpMin, p?.transitionTop, p?.transitionBottom].map(shown),
    point.status,
    point.reason ?? '',
  ];
}

/** The points and the facts of curves, as tables. */
export function setTables(store: RunStore, curves: readonly CurveRow[]): { points: string; facts: string } {
  const points: string[][] = [];
  const facts: string[][] = [];
  for (const curve of curves) {
    const list = store.points(curve.id);
    for (const p of list) points.push(pointRow(curve.name, curve.input, p));
    if (curve.input.swept === 're') continue;
    const found = polarFacts(list.map((p) => p.point));
    facts.push([
      ...conditionsOf(curve.name, curve.input, curve.input.conditions.reynolds),
      ...FACTS.map(([, of]) => {
        const v = of(found);
        return typeof v === 'boolean' ? String(v) : shown(v);
      }),
    ]);
  }
  return {
    points: `${tableText([POINT_FIELDS, ...points])}\n`,
    facts: `${tableText([[...CONDITIONS, ...FACTS.map(([name]) => name)], ...facts])}\n`,
  };
}

/** A name as a part of a path: letters, digits, dots and dashes. */
const slug = (text: string) => text.replace(/[^A-Za-z0-9.-]+/g, '_').replace(/^[._]+/, '') || 'section';
export const folderOf = (curve: Pick<CurveRow, 'name' | 'input' | 'key'>) =>
  `${slug(curve.name).slice(0, 60)}_re${shown(curve.input.conditions.reynolds)}_m${shown(curve.input.conditions.mach ?? 0)}_${curve.key.slice(0, 6)}`;
export const fileOf = (input: CurveInput, place: number) =>
  `${input.swept === 'alpha' ? 'a' : input.swept}${shown(valueAt(input, place))}.csv`;

/** Written whole or not at all. */
function replace(path: string, text: string): void {
  writeFileSync(`${path}.part`, text);
  renameSync(`${path}.part`, path);
}

/** The open form of a run in a folder: points.csv, facts.csv, and a file of distributions for every solved point. */
export class OpenSet {
  private readonly curves = new Map<number, CurveRow>();

  constructor(
    readonly folder: string,
    private readonly store: RunStore,
    private readonly runId: string,
  ) {
    for (const curve of store.curvesOfRun(runId)) this.curves.set(curve.id, curve);
    mkdirSync(join(folder, 'distributions'), { recursive: true });
  }

  /** Writes a point's distributions as it is solved. */
  add(curveId: number, { place, distributions }: CurvePoint): void {
    const curve = this.curves.get(curveId);
    if (!curve || !distributions) return;
    const folder = join(this.folder, 'distributions', folderOf(curve));
    if (!existsSync(folder)) mkdirSync(folder);
    replace(join(folder, fileOf(curve.input, place)), distributionTable(distributions));
  }

  /** Writes the tables anew, in the order of the plan. */
  tables(): void {
    const { points, facts } = setTables(this.store, this.store.curvesOfRun(this.runId));
    replace(join(this.folder, 'points.csv'), points);
    replace(join(this.folder, 'facts.csv'), facts);
  }

  /** Writes what a broken off run left unwritten, from the stored states. */
  async complete(): Promise<void> {
    for (const curve of this.curves.values())
      for (const { place, point } of this.store.points(curve.id)) {
        if (
          !isSolved(point) ||
          existsSync(join(this.folder, 'distributions', folderOf(curve), fileOf(curve.input, place)))
        )
          continue;
        const state = this.store.stateText(curve.id, place);
        if (state === undefined) continue;
        const { distributions } = await runAnalysis('stored-point', { curve: curve.input, state });
        this.add(curve.id, { place, point, distributions });
      }
    this.tables();
    const rows = this.store.curvesOfRun(this.runId);
    replace(join(this.folder, SET_FILES.head), setHead(this.store.run(this.runId)?.name ?? 'Run'));
    replace(join(this.folder, SET_FILES.curves), rows.map((c) => curveText(this.store, c)).join(''));
    replace(join(this.folder, SET_FILES.end), setEnd(rows.length));
  }
}
