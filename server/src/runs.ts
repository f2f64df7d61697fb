import type { Logger } from 'pino';
import { RunEngine } from '@veldtwind/runs/engine';
import { chooseBackend } from '@veldtwind/runs/queue/choose-backend';
import type { RunRow, RunStore } from '@veldtwind/store/runs';
import type { Config } from './config';
import type { EventHub } from './http/events';

/** Least time between two messages about one run, ms. */
const EVERY = 250;

/** The engine of this server: whoever solves, and what it tells those who look on. */
export function serverEngine(
  runs: RunStore,
  events: EventHub,
  log: Logger,
  config: Pick<Config, 'redis' | 'database'>,
): RunEngine {
  const waiting = new Map<string, { curves: Set<number>; row: RunRow; timer?: NodeJS.Timeout }>();
  const fresh = new Map<string, Set<number>>();
  const send = (id: string) => {
    const told = waiting.get(id);
    if (!told) return;
    waiting.delete(id);
    if (told.row.projectId === null) return;
    events.send(told.row.projectId, 'runs', { run: told.row, curves: [...told.curves] });
  };
  return new RunEngine(runs, chooseBackend(config.redis, config.database), {
    kept: (task, steps) => {
      if (!steps.some((s) => s.point)) return;
      const set = fresh.get(task.runId) ?? new Set();
      fresh.set(task.runId, set.add(task.curve));
    },
    changed: (row) => {
      const told = waiting.get(row.id) ?? { curves: new Set<number>(), row };
      for (const curve of fresh.get(row.id) ?? []) told.curves.add(curve);
      fresh.delete(row.id);
      told.row = row;
      told.timer ??= setTimeout(() => send(row.id), EVERY);
      waiting.set(row.id, told);
    },
    notice: () => {
      for (const id of runs.running()) {
        const row = runs.run(id)!;
        if (row.projectId !== null) events.send(row.projectId, 'runs', { run: row, curves: [] });
      }
    },
    trouble: (message, error) => log.error({ err: error }, message),
  });
}
