import { randomUUID } from 'node:crypto';
import {
  closeIn,
  CURVE_VERSION,
  curvePoints,
  polarFacts,
  sweepsIn,
  sweepsOf,
  placesOf,
  valueAt,
  type CurveInput,
  type CurvePoint,
  type PolarFacts,
  type RunPlan,
  type Sweep,
} from '@veldtwind/core/polar';
import { isSolved, stateBytes, stateOf, type Outcome, type ViscousPoint } from '@veldtwind/core/section-flow';
import type { Db } from './open';
import { runQueries } from './run-queries';
import type { CurveRow, ImportedCurve, RunRow, RunState, RunTask, TaskStep } from './run-types';
import { Slices } from './slices';
import { writing } from './writing';

export * from './run-types';

type StoredCurve = Omit<CurveRow, 'input' | 'facts'> & { inputJson: string; factsJson: string | null };

/** Sweeps that are put down in one transaction. */
const SLICE = 40;
const bare = (point: ViscousPoint) => JSON.stringify(isSolved(point) ? { ...point, reason: undefined } : point);

/** Curves, their points, and the runs that solve them. Every step is a transaction, so that what is told is kept. */
export class RunStore {
  private readonly q: ReturnType<typeof runQueries>;

  constructor(private readonly db: Db) {
    this.q = runQueries(db);
  }

  /** Plans a run: its curves, and a task for each. What is known already is not waited for. @returns the run. */
  create(projectId: string | null, name: string, plan: RunPlan, priority = 0): RunRow {
    return this.createOf(projectId, name, plan, sweepsOf(plan), priority);
  }

  /** Begins a run of given sweeps. @param asked what it came from, kept with it. @param again whether unsolved points are tried again. */
  private createOf(
    projectId: string | null,
    name: string,
    asked: object,
    sweeps: readonly Sweep[],
    priority: number,
    again = false,
  ): RunRow {
    const id = randomUUID();
    const now = new Date().toISOString();
    writing(this.db, () => {
      this.q.addRun.run(id, projectId, name, JSON.stringify(asked), priority, now);
      this.addSweeps(id, sweeps, 0, again);
      if (this.q.open.get(id) === 0) this.q.setRun.run('finished', now, id);
    });
    return this.run(id)!;
  }

  /**
   * The same as {@link create} in slices, so that whoever else wants the loop has it meanwhile. The run is at rest until all of its curves are there; what is
   * left of one that was broken off stays cancelled.
   */
  async createInSlices(projectId: string | null, name: string, plan: RunPlan, priority = 0): Promise<RunRow> {
    const slices = new Slices();
    const id = this.beginAtRest(projectId, name, plan, priority);
    let ordinal = 0;
    let some: Sweep[] = [];
    const put = () => {
      writing(this.db, () => this.addSweeps(id, some, ordinal, false));
      ordinal += some.length;
      some = [];
    };
    for (const sweep of sweepsIn(plan)) {
      some.push(sweep);
      if (some.length < SLICE) continue;
      put();
      await slices.rest();
    }
    put();
    this.setState(id, 'running');
    return this.run(id)!;
  }

  /** A run that nothing is taken from until it is whole. @returns its id. */
  private beginAtRest(projectId: string | null, name: string, asked: object, priority = 0): string {
    const id = randomUUID();
    writing(this.db, () => {
      this.q.addRun.run(id, projectId, name, JSON.stringify(asked), priority, new Date().toISOString());
      this.q.setRun.run('cancelled', null, id);
    });
    return id;
  }

  /** Tasks for sweeps of a run, and curves where they are not there yet. */
  private addSweeps(id: string, sweeps: readonly Sweep[], from: number, again: boolean): void {
    const now = new Date().toISOString();
    sweeps.forEach((sweep, i) => {
      const ordinal = from + i;
      const found = this.q.curveId.get(sweep.key) as number | undefined;
      const curve =
        found ??
        Number(this.q.addCurve.run(sweep.key, CURVE_VERSION, JSON.stringify(sweep.input), now).lastInsertRowid);
      const there = found === undefined ? [] : this.placesOf(curve, again);
      const known = this.countKnown(there, placesOf(sweep));
      const whole = known === sweep.values.length;
      this.q.addTask.run(
        id,
        ordinal,
        curve,
        sweep.name,
        sweep.section ?? null,
        JSON.stringify(sweep.values),
        whole ? 'done' : 'waiting',
        sweep.values.length,
        known,
      );
    });
  }

  /** Places of a curve that are known: to a run that closes in, those that are solved. */
  private placesOf(curve: number, again: boolean): number[] {
    return (again ? this.q.solvedPlaces : this.q.places).all(curve) as number[];
  }

  private countKnown(there: readonly number[], wanted: readonly number[]): number {
    const set = new Set(there);
    return wanted.filter((p) => set.has(p)).length;
  }

  /**
   * Plans a run that tries the unsolved stretches of curves again, in smaller steps. Curves are shared: an unsolved point stays until there is another in its place.
   * @param only these curves; all of the project without. @returns the run; nothing where there is nothing to try.
   */
  closeIn(projectId: string | null, only?: readonly number[]): RunRow | undefined {
    const sweeps: Sweep[] = [];
    for (const curve of this.curves(projectId)) {
      if (curve.unsolved === 0 || (only && !only.includes(curve.id))) continue;
      const points = this.points(curve.id);
      const places = closeIn(curve.input, points);
      if (places.length === 0) continue;
      sweeps.push({
        key: curve.key,
        name: curve.name,
        ...(curve.section ? { section: curve.section } : {}),
        input: curve.input,
        values: places.map((p) => valueAt(curve.input, p)),
      });
    }
    if (sweeps.length === 0) return undefined;
    const name = `Closing in on ${sweeps.length === 1 ? sweeps[0].name : `${sweeps.length} curves`}`;
    return this.createOf(projectId, name.slice(0, 80), { closeIn: sweeps.map((s) => s.key) }, sweeps, 0, true);
  }

  /** How many points of a plan are known. */
  known(plan: RunPlan): number {
    let known = 0;
    for (const sweep of sweepsOf(plan)) {
      const curve = this.q.curveId.get(sweep.key) as number | undefined;
      if (curve !== undefined) known += this.countKnown(this.q.places.all(curve) as number[], placesOf(sweep));
    }
    return known;
  }

  /** The same in slices. */
  async knownInSlices(plan: RunPlan): Promise<number> {
    const slices = new Slices();
    let known = 0;
    for (const sweep of sweepsIn(plan)) {
      const curve = this.q.curveId.get(sweep.key) as number | undefined;
      if (curve !== undefined) known += this.countKnown(this.q.places.all(curve) as number[], placesOf(sweep));
      await slices.rest();
    }
    return known;
  }

  /** Says who began a run. */
  sign(id: string, by: string): void {
    this.q.signRun.run(by, id);
  }

  run(id: string): RunRow | undefined {
    return this.q.run.get(id) as RunRow | undefined;
  }

  runs(projectId: string | null): RunRow[] {
    return this.q.ofProject.all(projectId) as RunRow[];
  }

  plan(id: string): RunPlan | undefined {
    const json = this.q.plan.get(id) as string | undefined;
    return json === undefined ? undefined : (JSON.parse(json) as RunPlan);
  }

  /** Runs that go on, oldest first. */
  running(): string[] {
    return this.q.running.all() as string[];
  }

  /** Takes the next task, of the run with the highest priority; no two tasks of one curve run beside each other. */
  take(): RunTask | undefined {
    return writing(this.db, () => {
      const id = this.q.next.get() as number | undefined;
      if (id === undefined) return undefined;
      const row = this.q.task.get(id) as {
        runId: string;
        curve: number;
        inputJson: string;
        valuesJson: string;
        knownJson: string | null;
        attempts: number;
      };
      const again = 'closeIn' in (this.plan(row.runId) ?? {});
      const input = JSON.parse(row.inputJson) as CurveInput;
      const values = JSON.parse(row.valuesJson) as number[];
      const wanted = new Set(placesOf({ input, values }));
      // What was known when the task was begun for the first time; what it solved since then stands in its steps.
      const places =
        row.knownJson !== null
          ? (JSON.parse(row.knownJson) as number[])
          : this.placesOf(row.curve, again).filter((p) => wanted.has(p));
      this.q.begin.run(JSON.stringify(places), places.length, id);
      // Sweeps that keep no journal go on from all that is known by now.
      const journaled = input.kind === 'fixed-re' && input.swept === 'alpha';
      const known = (journaled ? places : this.placesOf(row.curve, again).filter((p) => wanted.has(p))).map((place) =>
        this.pointAt(row.curve, place)!,
      );
      const past = (this.q.steps.all(id) as string[]).map((json) => {
        const { place, ...outcome } = JSON.parse(json) as Outcome & { place?: number };
        const state = place === undefined ? undefined : this.pointAt(row.curve, place)?.state;
        return { ...outcome, ...(state ? { state } : {}) };
      });
      return { id, runId: row.runId, curve: row.curve, input, values, known, past, attempts: row.attempts + 1 };
    });
  }

  private pointAt(curve: number, place: number): CurvePoint | undefined {
    const row = this.q.point.get(curve, place) as { place: number; json: string; state: Buffer | null } | undefined;
    if (!row) return undefined;
    const state = row.state ? stateOf(row.state) : undefined;
    return { place: row.place, point: JSON.parse(row.json) as ViscousPoint, ...(state ? { state } : {}) };
  }

  /**
   * Keeps steps of a task that runs, all or none. What was kept before, whoever brought it, stays.
   * @returns how many points were new.
   */
  keep(task: Pick<RunTask, 'id' | 'curve'>, steps: readonly TaskStep[]): number {
    return writing(this.db, () => {
      if (this.q.taskState.get(task.id) !== 'running') return 0;
      let fresh = 0;
      for (const { seq, outcome, point } of steps) {
        if (outcome) {
          const { state, ...rest } = outcome;
          const place = state && point ? point.place : undefined;
          this.q.addStep.run(task.id, seq, JSON.stringify({ ...rest, ...(place === undefined ? {} : { place }) }));
        }
        if (!point) continue;
        const state = point.state ? Buffer.from(stateBytes(point.state)) : null;
        const { status } = point.point;
        // One that was not solved gives way to what came of another try.
        const before = this.q.unsolvedAt.get(task.curve, point.place) as string | undefined;
        if (before !== undefined && before !== bare(point.point)) this.q.dropPoint.run(task.curve, point.place);
        if (this.q.addPoint.run(task.curve, point.place, status, bare(point.point), state).changes === 0) continue;
        this.q.count[status].run(task.id);
        fresh++;
      }
      return fresh;
    });
  }

  /** Ends a task, and its run with the last one. */
  finish(id: number, error: string | null = null): void {
    writing(this.db, () => {
      if (this.q.taskState.get(id) !== 'running') return;
      this.q.setTask.run(error === null ? 'done' : 'failed', error, id);
      this.q.dropSteps.run(id);
      const { runId } = this.q.task.get(id) as { runId: string };
      if (this.q.open.get(runId) === 0 && this.run(runId)!.state === 'running')
        this.q.setRun.run('finished', new Date().toISOString(), runId);
    });
  }

  /** Begins a run that curves are read into. It rests until `endImport`, so that nothing of it is solved. @returns its id. */
  beginImport(projectId: string | null): string {
    return this.beginAtRest(projectId, 'Being read', { imported: true });
  }

  /** Takes a curve into such a run. What is known already stays as it is. @returns how many points were new. */
  importCurve(runId: string, curve: ImportedCurve): number {
    return writing(this.db, () => {
      const found = this.q.curveId.get(curve.key) as number | undefined;
      const id =
        found ??
        Number(
          this.q.addCurve.run(curve.key, curve.version, JSON.stringify(curve.input), new Date().toISOString())
            .lastInsertRowid,
        );
      const values = curve.points.map((p) => valueAt(curve.input, p.place));
      const ordinal = this.q.tasksIn.get(runId) as number;
      const task = this.q.addTask.run(
        runId,
        ordinal,
        id,
        curve.name,
        curve.section,
        JSON.stringify(values),
        'done',
        values.length,
        values.length,
      );
      let fresh = 0;
      for (const { place, point, state } of curve.points)
        fresh += this.q.addPoint.run(id, place, point.status, bare(point), state).changes;
      return task.changes > 0 ? fresh : 0;
    });
  }

  endImport(runId: string, name: string): void {
    this.q.nameRun.run(name, runId);
    this.q.setRun.run('finished', new Date().toISOString(), runId);
  }

  /** The points of a curve as they are stored, in order. */
  raw(curve: number): { place: number; json: string; state: Buffer | null }[] {
    return this.q.pointsWithState.all(curve) as { place: number; json: string; state: Buffer | null }[];
  }

  /** Gives a task back that was not brought to its end; its steps stay. @param counts whether it was an attempt that failed. */
  release(id: number, counts = false): void {
    if (this.q.taskState.get(id) !== 'running') return;
    this.q.setTask.run('waiting', null, id);
    if (!counts) this.q.uncount.run(id);
  }

  /** Whether a task of a run that goes on waits to be taken. */
  waits(): boolean {
    return this.q.next.get() !== undefined;
  }

  /** Gives back all tasks that are said to run and that nobody solves. @param under ids of those that somebody does. @returns how many there were. */
  takeBack(under: readonly number[]): number {
    return this.q.adrift.run(JSON.stringify(under)).changes;
  }

  /** After a crash: what ran waits again. */
  recover(): void {
    this.q.recover.run();
  }

  /** Changes whether a run goes on. Going on again also tries failed tasks again. */
  setState(id: string, state: Exclude<RunState, 'finished'>): void {
    writing(this.db, () => {
      if (state === 'running') {
        this.q.retry.run(id);
        const open = this.q.open.get(id) as number;
        this.q.setRun.run(open === 0 ? 'finished' : 'running', open === 0 ? new Date().toISOString() : null, id);
      } else this.q.setRun.run(state, state === 'cancelled' ? new Date().toISOString() : null, id);
    });
  }

  setPriority(id: string, priority: number): void {
    this.q.setPriority.run(priority, id);
  }

  /** Tasks of a run that are being solved. */
  runningTasks(id: string): number[] {
    return this.q.tasksOf.all(id) as number[];
  }

  /** Removes a run; curves that no other run asks for go with it. */
  remove(id: string): void {
    writing(this.db, () => {
      this.q.removeRun.run(id);
      this.q.orphans.run();
    });
  }

  /** Lets go of curves that no run asks for any more. */
  collect(): number {
    return this.q.orphans.run().changes;
  }

  /** Finds the facts of a curve anew, and keeps them until its points change. */
  private findFacts(id: number): PolarFacts {
    const facts = polarFacts(this.points(id).map((p) => p.point));
    this.q.keepFacts.run(JSON.stringify(facts), id);
    return facts;
  }

  private rows(list: unknown[]): CurveRow[] {
    return (list as StoredCurve[]).map((row) => this.rowOf(row));
  }

  private rowOf({ inputJson, factsJson, ...row }: StoredCurve): CurveRow {
    const input = JSON.parse(inputJson) as CurveInput;
    const facts =
      input.swept === 're' ? null : factsJson !== null ? (JSON.parse(factsJson) as PolarFacts) : this.findFacts(row.id);
    return { ...row, input, facts };
  }

  /** The same as {@link curves} in slices, and as pieces of JSON: a list of thousands is neither made nor written at once. */
  async *curvesText(projectId: string | null, only?: readonly number[]): AsyncGenerator<string> {
    const slices = new Slices();
    const list = this.q.curves.all({ project: projectId, only: only ? JSON.stringify(only) : null }) as StoredCurve[];
    for (const row of list) {
      yield JSON.stringify(this.rowOf(row));
      await slices.rest();
    }
  }

  /** Curves that a project's runs ask for. @param only these of them. */
  curves(projectId: string | null, only?: readonly number[]): CurveRow[] {
    return this.rows(this.q.curves.all({ project: projectId, only: only ? JSON.stringify(only) : null }));
  }

  curvesOfRun(runId: string): CurveRow[] {
    return this.rows(this.q.curvesOfRun.all(runId));
  }

  curve(id: number): { id: number; key: string; input: CurveInput } | undefined {
    const row = this.q.curve.get(id) as { id: number; key: string; inputJson: string } | undefined;
    return row && { id: row.id, key: row.key, input: JSON.parse(row.inputJson) as CurveInput };
  }

  /** The points of a curve in order, marked. @param withState with what their distributions are read from. */
  points(id: number, withState = false): CurvePoint[] {
    const curve = this.curve(id);
    if (!curve) return [];
    const rows = (withState ? this.q.pointsWithState : this.q.pointsOf).all(id) as {
      place: number;
      json: string;
      state?: Buffer | null;
    }[];
    return curvePoints(
      curve.input,
      rows.map(({ place, json, state }) => {
        const found = state ? stateOf(state) : undefined;
        return { place, point: JSON.parse(json) as ViscousPoint, ...(found ? { state: found } : {}) };
      }),
    );
  }

  /** The stored state of a point, as text. */
  stateText(id: number, place: number): string | undefined {
    const row = this.q.point.get(id, place) as { state: Buffer | null } | undefined;
    return row?.state?.toString('base64');
  }

  /** Whether a run of a project asks for a curve. */
  has(projectId: string | null, curve: number): boolean {
    return this.q.inProject.get(curve, projectId) !== undefined;
  }

  /** All points stored. */
  get size(): number {
    return this.q.allPoints.get() as number;
  }
}
