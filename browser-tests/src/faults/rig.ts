import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { rmSync, statfsSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import { seeded } from './random';
import { TestRedis } from '@veldtwind/runs/testing/redis';
import { openBrowser, Page, TestServer } from '../harness';
import { Tester, type Tested } from './tester';
import { Typist, type Typed } from './typist';

/** What came of it. */
export interface Broken {
  seconds: number;
  faults: Record<string, number>;
  testers: Tested;
  page: Typed;
  runs: { begun: number; finished: number; stuck: string[] };
  /** Faults that this machine does not let happen. */ leftOut: string[];
  complaints: string[];
}

/** So few edits prove nothing. */
const LEAST_EDITS = 8;
/** Room of the disk that is made full, MB. */
const DISK = 600;
const wait = (ms: number) => new Promise<void>((go) => setTimeout(go, ms));
const CLOCK = resolve('browser-tests/src/faults/clock.mjs');

/** A small disk of the test's own, where this machine allows one. */
function mountDisk(folder: string): boolean {
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', `size=${DISK}m`, 'tmpfs', folder], { stdio: 'ignore' });
    return true;
  } catch {
    return false;
  }
}

/**
 * Testers and a page at work on a server that is broken in every way at random moments: killed, its disk full, its clock set, its Redis killed, emptied,
 * refusing or slow, the page cut from it or kept from its storage.
 * @param seconds how long. @param seed of what is done and what breaks, and when.
 */
export async function breakThings(seconds: number, seed: number, testers = 3): Promise<Broken> {
  const random = seeded(seed);
  const redis = await TestRedis.start().catch(() => null);
  const server = new TestServer({
    ...(redis && { VELDTWIND_REDIS_URL: redis.url }),
    NODE_OPTIONS: `--import=${pathToFileURL(CLOCK).href}`,
  });
  const disk = mountDisk(server.folder);
  const filler = join(server.folder, 'filler');
  let worker: ChildProcess | undefined;
  let story: string[] = [];
  const told = () => story.slice(-4).join(', ') || 'nothing broken yet';
  const faults: Record<string, number> = {};
  const leftOut = [
    ...(disk ? [] : ['full disk: no small disk can be mounted']),
    ...(redis ? [] : ['Redis is not installed']),
  ];
  await server.start();
  if (redis)
    worker = spawn(process.execPath, [resolve('scripts/vw.mjs'), 'worker'], {
      env: { ...process.env, VELDTWIND_REDIS_URL: redis.url },
      stdio: 'ignore',
    });
  const base = () => server.base;
  const browser = await openBrowser();
  const page = new Page(browser.driver, server.base);
  const people = Array.from({ length: testers }, (_, k) => new Tester(base, `tester ${k + 1}`, seed * 31 + k, told));
  const typist = new Typist(page, await server.demo(), base, seeded(seed + 7), told);
  const network = async (offline: boolean) => {
    const chrome = browser.driver as unknown as { setNetworkConditions: (c: object) => Promise<void> };
    const conditions = { offline, latency: 0, download_throughput: -1, upload_throughput: -1 };
    // A page that asks before it is left lets no command through.
    for (let k = 0; k < 20; k++) {
      try {
        return await chrome.setNetworkConditions(conditions);
      } catch {
        await wait(250);
      }
    }
  };
  const inRedis = (...command: string[]) => {
    try {
      execFileSync('redis-cli', ['-p', String(redis!.port), ...command], { stdio: 'ignore', timeout: 8000 });
    } catch {
      // It may be down already.
    }
  };

  /** What breaks, and what mends it. */
  const FAULTS: Record<string, (pause: () => Promise<void>) => Promise<void>> = {
    async 'server killed'(pause) {
      await server.kill();
      await pause();
      await server.start();
    },
    async 'clock set'() {
      process.kill(server.pid, 'SIGUSR2');
    },
    async 'page cut off'(pause) {
      await network(true);
      await pause();
      await network(false);
    },
    ...(disk && {
      async 'disk full'(pause: () => Promise<void>) {
        const { bavail, bsize } = statfsSync(server.folder);
        try {
          execFileSync('fallocate', ['-l', String(Math.max(1, bavail * bsize - 8192)), filler], { stdio: 'ignore' });
          writeFileSync(`${filler}2`, Buffer.alloc(65536));
        } catch {
          // So full that not even that has room.
        }
        await pause();
        rmSync(filler, { force: true });
        rmSync(`${filler}2`, { force: true });
      },
    }),
    ...(redis && {
      async 'Redis killed'(pause: () => Promise<void>) {
        await redis.down();
        await pause();
        await redis.up();
      },
      async 'Redis emptied'() {
        inRedis('FLUSHALL');
      },
      async 'Redis refusing'(pause: () => Promise<void>) {
        inRedis('CONFIG', 'SET', 'maxmemory', '1');
        await pause();
        inRedis('CONFIG', 'SET', 'maxmemory', '0');
      },
      async 'Redis slow'() {
        inRedis('CLIENT', 'PAUSE', '2500');
      },
    }),
  };
  const begun = Date.now();
  // A machine with other work gets few edits done: it goes on until there are some, four times as long at most.
  const over = () => {
    const spent = (Date.now() - begun) / 1000;
    const edits = people.reduce((sum, p) => sum + p.tested.edits, 0);
    return spent > seconds && (edits >= LEAST_EDITS || spent > 4 * seconds);
  };
  const begunRuns = new Map<string, string>();
  const breaking = async () => {
    const kinds = Object.keys(FAULTS);
    // Each kind at least once where there is time, then as it comes.
    for (let k = 0; !over(); k++) {
      await wait(800 + 2500 * random());
      const kind = k < kinds.length ? kinds[k] : kinds[Math.floor(random() * kinds.length)];
      const at = Math.round((Date.now() - begun) / 1000);
      story.push(`${kind} at ${at} s`);
      story = story.slice(-40);
      faults[kind] = (faults[kind] ?? 0) + 1;
      await FAULTS[kind](() => wait(400 + 2600 * random()));
      const took = (Date.now() - begun) / 1000 - at;
      if (took > 12) story.push(`mended only after ${took.toFixed(0)} s`);
    }
  };
  const running = async () => {
    for (let k = 0; !over(); k++) {
      const id = runProject;
      const plan = {
        sections: [{ name: '0009', source: { kind: 'designation', designation: '0009', trailingEdge: 'published' } }],
        reynolds: [200_000 + 1000 * k],
        alphas: [0, 1, 2, 3],
        spread: { panels: 80, trailingEdge: 1, nose: 1 },
      };
      const made = await server
        .call<{ id?: string }>('POST', `/projects/${id}/runs`, { name: `Run ${k}`, plan })
        .catch(() => null);
      if (made?.id) begunRuns.set(made.id, id);
      await wait(4000 + 4000 * random());
    }
  };
  const runProject = await server.demo();
  const stuckRuns: string[] = [];
  try {
    for (const t of people) await t.begin();
    await typist.open();
    const work = async (one: { act: () => Promise<void> }) => {
      while (!over()) {
        // One that ends has said why.
        await one.act().catch(() => undefined);
        await wait(30);
      }
    };
    await Promise.all([breaking(), running(), work(typist), ...people.map(work)]);
    await network(false);
    for (const t of people) await t.check();
    await typist.end();
    // Every run that was begun comes to its end.
    const open = async () => {
      const { runs } = await server.call<{ runs: { id: string; name: string; state: string }[] }>(
        'GET',
        `/projects/${runProject}/runs`,
      );
      return runs.filter((r) => begunRuns.has(r.id) && r.state === 'running');
    };
    for (const from = Date.now(); (await open()).length > 0 && Date.now() - from < 120_000;) await wait(500);
    stuckRuns.push(...(await open()).map((r) => `${r.name} goes on for ever`));
  } finally {
    worker?.kill();
    await browser.close();
    await server.kill('SIGTERM');
    if (disk) execFileSync('umount', ['-l', server.folder]);
    rmSync(server.folder, { recursive: true, force: true });
    await redis?.remove();
  }
  const sum = (key: 'edits' | 'steps' | 'versions' | 'restores' | 'copies' | 'refused' | 'unanswered') =>
    people.reduce((total, t) => total + t.tested[key], 0);
  const all = (key: 'lost' | 'stuck' | 'failures') => people.flatMap((t) => t.tested[key]);
  return {
    seconds: (Date.now() - begun) / 1000,
    faults,
    testers: {
      edits: sum('edits'),
      steps: sum('steps'),
      versions: sum('versions'),
      restores: sum('restores'),
      copies: sum('copies'),
      refused: sum('refused'),
      unanswered: sum('unanswered'),
      lost: all('lost'),
      stuck: all('stuck'),
      failures: all('failures'),
    },
    page: typist.typed,
    runs: { begun: begunRuns.size, finished: begunRuns.size - stuckRuns.length, stuck: stuckRuns },
    leftOut,
    complaints: server.complaints,
  };
}
