import { existsSync, readdirSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { join, resolve } from 'node:path';
import { Command } from 'commander';
import { InvalidInput } from '@veldtwind/core/numerics';
import { countOf, MANY_POINTS, SECONDS_A_POINT } from '@veldtwind/core/polar';
import { RunEngine } from '@veldtwind/runs/engine';
import { OpenSet } from '@veldtwind/runs/open-set';
import { chooseBackend, redisUrl } from '@veldtwind/runs/queue/choose-backend';
import { makeFolder } from '@veldtwind/store/folder';
import { openDatabase } from '@veldtwind/store/open';
import { RunStore } from '@veldtwind/store/runs';
import { CannotStart, holdFile } from '@veldtwind/store/start';
import { readPlan } from '../plan-file';
import { printJson } from '../output';

/** How often the progress is told, and the tables are written anew while points come in: at most a share of the time goes into them. */
const TOLD_EVERY = 1000;
const SHARE_OF_TABLES = 0.04;
const MOST_WORKERS = 64;

interface Options {
  plan: string;
  out: string;
  workers?: string;
  resume?: boolean;
  yes?: boolean;
  json?: boolean;
}

export function polarsCommand(): Command {
  return new Command('polars')
    .description('Many polars at once, from a plan: sections × Reynolds numbers × Mach numbers × angles, on all cores')
    .requiredOption('--plan <file>', 'the plan, JSON')
    .requiredOption('--out <folder>', 'points.csv, facts.csv and distributions/, which grow as points are solved')
    .option(
      '--workers <count>',
      'threads beside each other (as many as there are cores; without it, the workers of VELDTWIND_REDIS_URL where that is set)',
    )
    .option('--resume', 'go on with what the folder holds, and compute only what is missing')
    .option('--yes', `run more than ${MANY_POINTS} points without asking`)
    .option('--json', 'print JSON')
    .addHelpText(
      'after',
      `
A plan: { "sections": ["naca:4415", "my.dat"], "reynolds": [1e5, 3e5], "mach": [0], "ncrit": 9, "alpha": "-4:10:1",
          "tripTop": null, "tripBottom": null, "flap": null, "sweep": "fixed-re" }
Also: "cl" instead of "alpha"; "turbulence" instead of "ncrit"; "ncritTop", "ncritBottom", "grain", "panels";
"flap": "0.75,0.5,10" (x, height, degrees down); "sweep": "fixed-lift" or "over-re".`,
    )
    .action(run);
}

function workersOf(text: string | undefined): number {
  if (text === undefined) return availableParallelism();
  const count = Number(text);
  if (!Number.isInteger(count) || count < 1 || count > MOST_WORKERS)
    throw new InvalidInput('workers', `--workers is from 1 to ${MOST_WORKERS}; ${text} is not.`);
  return count;
}

async function run(options: Options): Promise<void> {
  const workers = workersOf(options.workers);
  const plan = readPlan(options.plan);
  const count = countOf(plan);
  if (count > MANY_POINTS && !options.yes) {
    const hours = (count * SECONDS_A_POINT) / workers / 3600;
    throw new InvalidInput(
      'plan-size',
      `The plan asks for ${count} points: about ${hours < 1 ? `${Math.ceil(60 * hours)} minutes` : `${hours.toFixed(1)} hours`} on ${workers} cores.`,
      'Give --yes if that is what you want.',
    );
  }
  const folder = resolve(options.out);
  const file = join(folder, 'run.sqlite');
  const begun = existsSync(file);
  if (begun && !options.resume)
    throw new InvalidInput(
      'out',
      `${options.out} holds a run already.`,
      'Give --resume to go on with it, or another folder.',
    );
  if (!begun && existsSync(folder) && readdirSync(folder).length > 0 && !options.resume)
    throw new InvalidInput('out', `${options.out} is not empty.`, 'Give a new folder.');
  try {
    makeFolder(folder);
  } catch (error) {
    throw new InvalidInput(
      'out',
      `${options.out} cannot be made (${(error as NodeJS.ErrnoException).code}).`,
      'Give another folder.',
    );
  }
  let lock;
  try {
    lock = holdFile(file);
  } catch (error) {
    if (error instanceof CannotStart)
      throw new InvalidInput(
        'out',
        `${options.out} is in use by another run.`,
        'Wait for its end, or give another folder.',
      );
    throw error;
  }
  const db = openDatabase(file);
  // A process that dies loses nothing; after a power cut the last points are solved again.
  db.pragma('synchronous = NORMAL');
  try {
    await solve(options, workers, plan, folder, new RunStore(db));
  } finally {
    db.close();
    lock.close();
  }
}

async function solve(
  options: Options,
  workers: number,
  plan: ReturnType<typeof readPlan>,
  folder: string,
  store: RunStore,
): Promise<void> {
  const started = Date.now();
  // Threads that are asked for are of this machine.
  const redis = options.workers === undefined ? redisUrl(process.env) : undefined;
  const text = JSON.stringify(plan);
  const before = store.runs(null).find((r) => JSON.stringify(store.plan(r.id)) === text && r.state !== 'finished');
  store.recover();
  const { id } = before ?? store.create(null, options.plan, plan);
  if (before) store.setState(id, 'running');
  const had = store.run(id)!;
  const alreadyThere = had.known + had.solved + had.doubtful + had.unsolved;
  const set = new OpenSet(folder, store, id);
  let tables = started;
  let told = started;
  const troubles: string[] = [];
  const engine = new RunEngine(store, chooseBackend(redis, join(folder, 'run.sqlite'), workers), {
    kept: (task, steps) => {
      for (const { point } of steps) if (point) set.add(task.curve, point);
    },
    changed: (now) => {
      const time = Date.now();
      if (time > tables) {
        set.tables();
        tables = Date.now() + Math.max(TOLD_EVERY, (Date.now() - time) / SHARE_OF_TABLES);
      }
      if (time - told < TOLD_EVERY) return;
      told = time;
      const done = now.known + now.solved + now.doubtful + now.unsolved;
      const fresh = done - alreadyThere;
      const left = fresh > 0 ? Math.round((((time - started) / fresh) * (now.points - done)) / 1000) : undefined;
      process.stderr.write(`${done} of ${now.points} points${left === undefined ? '' : `, ${left} s left`}\n`);
    },
    trouble: (message) => {
      troubles.push(message);
      process.stderr.write(`${message}\n`);
    },
  });
  let ended = false;
  const end = () => {
    ended = true;
    void engine.close();
  };
  process.once('SIGINT', end);
  process.once('SIGTERM', end);
  engine.start();
  await engine.idle();
  if (!ended) await engine.close();
  process.off('SIGINT', end);
  process.off('SIGTERM', end);
  await set.complete();
  const last = store.run(id)!;
  // Doubts that only neighbours show are marked when a curve is read.
  const statuses = store.curvesOfRun(id).flatMap((c) => store.points(c.id).map((p) => p.point.status));
  const number = (status: string) => statuses.filter((s) => s === status).length;
  const result = {
    points: last.points,
    computed: last.known + last.solved + last.doubtful + last.unsolved - alreadyThere,
    known: alreadyThere,
    solved: number('solved'),
    doubtful: number('doubtful'),
    unsolved: number('unsolved'),
    ...(last.failed > 0 ? { failed: last.failed, error: last.error } : {}),
    seconds: Math.round((Date.now() - started) / 10) / 100,
    workers,
  };
  if (options.json) printJson(result);
  else
    process.stdout.write(
      `${result.points} points: ${result.computed} computed, ${result.known} known; ${result.solved} solved, ${result.doubtful} doubtful, ${result.unsolved} unsolved; ${result.seconds} s on ${workers} threads\n` +
        (last.failed > 0 ? `${last.failed} of ${last.tasks} sweeps failed: ${last.error}\n` : ''),
    );
  if (ended) {
    process.stderr.write('Stopped before the end; --resume goes on from here.\n');
    process.exitCode = 130;
  } else if (last.failed > 0 || troubles.some((t) => /cannot be kept/.test(t))) process.exitCode = 1;
}
