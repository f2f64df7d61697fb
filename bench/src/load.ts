import { readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { TestServer } from '@veldtwind/browser-tests/harness';

/** Many people at one server, each with a name, at human pace, beside a run of polars. */
export interface Loaded {
  people: number;
  projects: number;
  seconds: number;
  edits: number;
  reads: number;
  stale: number;
  refused: number;
  /** Answers to edits and to readings, ms. */
  edit: Spread;
  read: Spread;
  /** Of the server with all of its threads: seconds of processor a second. */ processor: number;
  residentMB: number;
  points: number;
}
interface Spread {
  median: number;
  percentile99: number;
  longest: number;
}

const TOKEN = 'a-token-for-the-load';
const wait = (ms: number) => new Promise((go) => setTimeout(go, ms));
const spreadOf = (times: number[]): Spread => {
  const sorted = times.slice().sort((a, b) => a - b);
  const at = (share: number) => sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? 0;
  return { median: at(0.5), percentile99: at(0.99), longest: at(1) };
};
/** Seconds of processor that a process has had, and its resident memory in MB. */
function usedBy(pid: number): { seconds: number; resident: number } {
  const fields = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1].split(' ');
  const pages = Number(readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]);
  return { seconds: (Number(fields[11]) + Number(fields[12])) / 100, resident: (pages * 4096) / 1e6 };
}

interface Session {
  base: string;
  token: string;
}
async function ask<T>(
  { base, token }: Session,
  method: string,
  path: string,
  body?: unknown,
): Promise<{ status: number; body: T }> {
  const res = await fetch(`${base}/api/v1${path}`, {
    method,
    headers: { 'content-type': 'application/json', authorization: `Bearer ${token}` },
    body: body === undefined ? undefined : JSON.stringify(body),
  });
  return { status: res.status, body: (res.status === 204 ? null : await res.json()) as T };
}

/**
 * Lets people edit some projects for a while.
 * @param run whether polars are solved beside them. @param pause between two edits of one person, ms, on average.
 */
export async function load(seconds: number, people = 20, projects = 5, run = true, pause = 3000): Promise<Loaded> {
  const server = new TestServer({ VELDTWIND_TOKEN: TOKEN });
  await server.start();
  const owner: Session = { base: server.base, token: TOKEN };
  try {
    const ids: string[] = [];
    for (let k = 0; k < projects; k++)
      ids.push(
        (await ask<{ id: string }>(owner, 'POST', '/projects', { name: `Project ${k + 1}`, from: 'demo' })).body.id,
      );
    const crew: (Session & { project: string })[] = [];
    for (let k = 0; k < people; k++) {
      const project = ids[k % projects];
      const { code } = (
        await ask<{ code: string }>(owner, 'POST', `/projects/${project}/invitations`, { role: 'edit' })
      ).body;
      const joined = await fetch(`${server.base}/api/v1/join`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ code, name: `Person ${k + 1}` }),
      });
      const cookie = joined.headers.getSetCookie()[0].split(';')[0];
      const made = await fetch(`${server.base}/api/v1/me/token`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', cookie },
        body: '{}',
      });
      crew.push({ base: server.base, token: ((await made.json()) as { token: string }).token, project });
    }
    if (run)
      await ask(owner, 'POST', `/projects/${ids[0]}/runs`, {
        name: 'Beside the load',
        many: true,
        plan: {
          sections: ['4415', '1410', '0009', '2411'].map((name) => ({
            name,
            source: { kind: 'designation', designation: name, trailingEdge: 'published' },
          })),
          reynolds: Array.from({ length: 60 }, (_, i) => 100_000 + 20_000 * i),
          alphas: Array.from({ length: 21 }, (_, i) => i - 6),
        },
      });
    const [edits, reads]: [number[], number[]] = [[], []];
    let [stale, refused] = [0, 0];
    const begun = performance.now();
    const before = usedBy(server.pid);
    const gone = new AbortController();
    const work = async (one: (typeof crew)[number], k: number) => {
      // As a page does: a stream of events, then readings and edits.
      void fetch(`${one.base}/api/v1/projects/${one.project}/events`, {
        headers: { authorization: `Bearer ${one.token}` },
        signal: gone.signal,
      })
        .then(async (res) => {
          for await (const _ of res.body as unknown as AsyncIterable<Uint8Array>);
        })
        .catch(() => undefined);
      await wait((pause * k) / people);
      let { version, document } = (
        await ask<{ version: number; document: { brief: Record<string, number> } }>(
          one,
          'GET',
          `/projects/${one.project}`,
        )
      ).body;
      while (performance.now() - begun < 1000 * seconds) {
        const from = performance.now();
        const told = await ask<{ version: number }>(one, 'GET', `/projects/${one.project}/changes?version=${version}`);
        reads.push(performance.now() - from);
        version = told.body.version;
        const at = performance.now();
        document = { ...document, brief: { ...document.brief, speed: Number((20 + 10 * Math.random()).toFixed(2)) } };
        const made = await ask<{ version?: number; current?: { version: number } }>(
          one,
          'POST',
          `/projects/${one.project}/edits`,
          {
            baseVersion: version,
            editId: crypto.randomUUID(),
            label: 'Speed',
            changes: [{ part: 'brief', value: document.brief }],
          },
        );
        edits.push(performance.now() - at);
        if (made.status === 409) stale++;
        else if (made.status !== 200) refused++;
        version = made.body.version ?? made.body.current?.version ?? version;
        await wait(pause * (0.5 + Math.random()));
      }
    };
    await Promise.all(crew.map(work));
    gone.abort();
    const after = usedBy(server.pid);
    const took = (performance.now() - begun) / 1000;
    const { runs } = (
      await ask<{ runs: { solved: number; doubtful: number }[] }>(owner, 'GET', `/projects/${ids[0]}/runs`)
    ).body;
    return {
      people,
      projects,
      seconds: took,
      edits: edits.length,
      reads: reads.length,
      stale,
      refused,
      edit: spreadOf(edits),
      read: spreadOf(reads),
      processor: (after.seconds - before.seconds) / took,
      residentMB: after.resident,
      points: runs.reduce((n, r) => n + r.solved + r.doubtful, 0),
    };
  } finally {
    await server.stop();
  }
}

/** Bytes of the database file of a project as the demo's, by itself and after many edits. */
export async function bytesOfProject(edits: number): Promise<{ empty: number; one: number; perEdit: number }> {
  const server = new TestServer();
  await server.start();
  const size = () => {
    const file = join(server.folder, 'test.sqlite');
    return statSync(file).size;
  };
  const restart = async () => {
    // What stands in the log beside the file comes into it when the server ends.
    await server.kill('SIGTERM');
    await server.start();
    return size();
  };
  try {
    const empty = await restart();
    const id = await server.demo();
    const one = await restart();
    const opened = await server.call<{ version: number; document: { brief: object } }>('GET', `/projects/${id}`);
    let { version } = opened;
    for (let k = 0; k < edits; k++)
      ({ version } = await server.call<{ version: number }>('POST', `/projects/${id}/edits`, {
        baseVersion: version,
        label: 'Speed',
        changes: [{ part: 'brief', value: { ...opened.document.brief, speed: 20 + 0.01 * k } }],
      }));
    return { empty, one, perEdit: ((await restart()) - one) / edits };
  } finally {
    await server.stop();
  }
}
