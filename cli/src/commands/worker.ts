import { availableParallelism } from 'node:os';
import { Command } from 'commander';
import { InvalidInput } from '@veldtwind/core/numerics';
import { redisUrl } from '@veldtwind/runs/queue/choose-backend';
import { startWorker } from '@veldtwind/runs/queue/worker';

const MOST_THREADS = 64;

export function workerCommand(): Command {
  return new Command('worker')
    .description(
      'Solves what the runs of servers ask for, through the Redis of VELDTWIND_REDIS_URL; on any number of machines',
    )
    .option('--threads <count>', 'sweeps beside each other (as many as there are cores)')
    .option('--quiet', 'say nothing of each sweep')
    .action(run);
}

async function run(options: { threads?: string; quiet?: boolean }): Promise<void> {
  const threads = options.threads === undefined ? availableParallelism() : Number(options.threads);
  if (!Number.isInteger(threads) || threads < 1 || threads > MOST_THREADS)
    throw new InvalidInput('threads', `--threads is from 1 to ${MOST_THREADS}; ${options.threads} is not.`);
  const url = redisUrl(process.env);
  if (!url)
    throw new InvalidInput(
      'redis-url',
      'No Redis is configured.',
      'Set VELDTWIND_REDIS_URL, such as redis://127.0.0.1:6379, here and for the server.',
    );
  const worker = startWorker(url, threads, (message) => {
    if (!options.quiet || !message.startsWith('takes')) process.stderr.write(`${message}\n`);
  });
  process.stderr.write(`Worker with ${threads} ${threads === 1 ? 'thread' : 'threads'}; ends with Ctrl-C.\n`);
  await new Promise<void>((resolve) => {
    process.once('SIGINT', resolve);
    process.once('SIGTERM', resolve);
  });
  await worker.close();
}
