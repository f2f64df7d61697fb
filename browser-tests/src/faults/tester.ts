import { seeded } from './random';
import {
  applyChanges,
  partsOfDocument,
  readDocument,
  type PartChange,
  type ProjectDocument,
} from '@veldtwind/core/project';
import { canonicalJson } from '@veldtwind/core/results';

/** What a tester did, and what it found wrong. */
export interface Tested {
  edits: number;
  steps: number;
  versions: number;
  restores: number;
  copies: number;
  refused: number;
  /** Answers that did not come, and were asked for again or made out from the state. */ unanswered: number;
  /** What was acknowledged and is not there, or is there and was never asked for. */ lost: string[];
  /** What got no answer for longer than it may. */ stuck: string[];
  /** Failures inside the server. */ failures: string[];
}

/** An answer must come within so long, however often something breaks meanwhile, ms. */
const PATIENCE = 60_000;
const PAUSE = 60;
const wait = (ms: number) => new Promise((go) => setTimeout(go, ms));

interface Reply {
  status: number;
  body: { version?: number; base?: number; error?: { code: string; message: string } } & Record<string, unknown>;
}
interface State {
  version: number;
  document: ProjectDocument;
}

/**
 * Somebody who edits everything in a project of their own at random, with undo, redo, kept versions, going back, and copies by file; and who keeps a
 * model of what the project must be. What gets no answer is asked again, or made out from the project's version.
 */
export class Tester {
  readonly tested: Tested = {
    edits: 0,
    steps: 0,
    versions: 0,
    restores: 0,
    copies: 0,
    refused: 0,
    unanswered: 0,
    lost: [],
    stuck: [],
    failures: [],
  };
  private readonly random: () => number;
  private id = '';
  private version = 0;
  private now!: ProjectDocument;
  private past: ProjectDocument[] = [];
  private future: ProjectDocument[] = [];
  private readonly kept = new Map<string, { id: string; document: ProjectDocument }>();
  private count = 0;
  /** Why there was no answer last. */ private last = '';
  /** Set when it can do no more: what it asked for got no answer. */ private ended = false;

  /** @param base address of the server, which stays. @param name told with what is wrong. */
  constructor(
    private readonly base: () => string,
    readonly name: string,
    seed: number,
    /** What has broken so far, told with what is wrong. */ private readonly story: () => string = () => '',
  ) {
    this.random = seeded(seed);
  }

  private pick<T>(list: readonly T[]): T {
    return list[Math.floor(this.random() * list.length)];
  }
  private wrong(list: keyof Pick<Tested, 'lost' | 'stuck' | 'failures'>, what: string): void {
    this.tested[list].push(`${this.name}, step ${this.count}: ${what} (${this.story()})`);
  }

  /** Asks once. @returns null where no answer came, or one that says that it cannot be kept just now. */
  private async ask(method: string, path: string, body?: unknown): Promise<Reply | null> {
    try {
      const res = await fetch(`${this.base()}/api/v1${path}`, {
        method,
        headers: { 'content-type': 'application/json' },
        body: body === undefined ? undefined : JSON.stringify(body),
        signal: AbortSignal.timeout(10_000),
      });
      const reply = { status: res.status, body: (res.status === 204 ? {} : await res.json()) as Reply['body'] };
      if (res.status === 500) this.wrong('failures', `${method} ${path}: ${JSON.stringify(reply.body)}`);
      if (res.status < 500 && res.status !== 429) return reply;
      this.last = `${res.status} ${reply.body.error?.message ?? ''}`;
    } catch (error) {
      this.last = String((error as Error).cause ?? error);
    }
    return null;
  }
  /** Asks until an answer comes: of what may be asked again. */
  private async surely(method: string, path: string, body?: unknown): Promise<Reply> {
    for (const begun = Date.now(); ;) {
      const reply = await this.ask(method, path, body);
      if (reply) return reply;
      this.tested.unanswered++;
      if (Date.now() - begun > PATIENCE) {
        this.wrong('stuck', `${method} ${path} has no answer: ${this.last}`);
        this.ended = true;
        throw new Error(`no answer to ${method} ${path}`);
      }
      await wait(PAUSE);
    }
  }
  private state = async (): Promise<State> =>
    (await this.surely('GET', `/projects/${this.id}`)).body as unknown as State;

  async begin(): Promise<void> {
    const made = await this.surely('POST', '/projects', { name: this.name, from: 'demo' });
    this.id = made.body.id as string;
    const state = await this.state();
    this.version = state.version;
    this.now = state.document;
  }

  /** One thing that a person may do. */
  async act(): Promise<void> {
    if (this.ended) return;
    this.count++;
    const dice = this.random();
    if (dice < 0.68) await this.edit();
    else if (dice < 0.88) await this.step(dice < 0.8 ? 'undo' : 'redo');
    else if (dice < 0.93) await this.keep();
    else if (dice < 0.98) await this.goBack();
    else await this.copy();
    if (this.count % 8 === 0) await this.check();
  }

  /** Holds the project against the model. */
  async check(): Promise<void> {
    if (this.ended) return;
    const { version, document } = await this.state();
    if (version !== this.version) this.wrong('lost', `version ${version}, must be ${this.version}`);
    const [theirs, mine] = [partsOfDocument(document), partsOfDocument(readDocument(structuredClone(this.now)))];
    for (const key of new Set([...theirs.keys(), ...mine.keys()]))
      if (canonicalJson(theirs.get(key) ?? null) !== canonicalJson(mine.get(key) ?? null))
        this.wrong('lost', `${key} is not as it was acknowledged`);
    // So that one difference is told once.
    [this.version, this.now] = [version, document];
  }

  private took(document: ProjectDocument): void {
    this.past.push(this.now);
    this.future = [];
    this.now = document;
    this.version++;
  }

  private async edit(): Promise<void> {
    const changes = this.changes();
    if (changes.length === 0) return;
    const body = { baseVersion: this.version, editId: crypto.randomUUID(), label: `Step ${this.count}`, changes };
    const reply = await this.surely('POST', `/projects/${this.id}/edits`, body);
    if (reply.status === 200) {
      this.took(applyChanges(this.now, changes));
      this.tested.edits++;
    } else if (reply.status === 400) this.tested.refused++;
    else this.wrong('lost', `an edit is answered ${reply.status}: ${JSON.stringify(reply.body).slice(0, 200)}`);
  }

  /** Whether something that cannot be asked again was done before its answer was lost. */
  private async wasDone(): Promise<boolean> {
    const { version } = await this.state();
    if (version !== this.version && version !== this.version + 1)
      this.wrong('lost', `version ${version} after one step from ${this.version}`);
    return version === this.version + 1;
  }
  /** Asks for something that makes one version; asked again only where it was not done. @returns whether it was, or was refused. */
  private async once(path: string): Promise<boolean> {
    for (const begun = Date.now(); Date.now() - begun < PATIENCE;) {
      const reply = await this.ask('POST', path, { baseVersion: this.version });
      if (reply) {
        if (reply.status === 200) return true;
        const code = reply.body.error?.code ?? '';
        if (/^nothing-to-/.test(code)) return false;
        this.wrong('lost', `${path} is answered ${reply.status} ${code}`);
        return false;
      }
      this.tested.unanswered++;
      if (await this.wasDone()) return true;
      await wait(PAUSE);
    }
    this.wrong('stuck', `${path} has no answer`);
    return false;
  }

  private async step(way: 'undo' | 'redo'): Promise<void> {
    const [from, to] = way === 'undo' ? [this.past, this.future] : [this.future, this.past];
    const done = await this.once(`/projects/${this.id}/${way}`);
    if (done !== from.length > 0)
      this.wrong('lost', `${way} ${done ? 'was done' : 'was refused'} with ${from.length} steps there`);
    if (!done) return;
    to.push(this.now);
    this.now = from.pop() ?? this.now;
    this.version++;
    this.tested.steps++;
  }

  private async keep(): Promise<void> {
    const name = `Kept at ${this.count}`;
    const path = `/projects/${this.id}/versions`;
    for (const begun = Date.now(); Date.now() - begun < PATIENCE;) {
      const listed = (await this.surely('GET', path)).body.versions as { id: string; name: string }[];
      const found = listed.find((v) => v.name === name);
      if (found) {
        this.kept.set(name, { id: found.id, document: this.now });
        this.tested.versions++;
        return;
      }
      const reply = await this.ask('POST', path, { name });
      if (reply?.status === 400) return;
      if (!reply) this.tested.unanswered++;
      await wait(PAUSE);
    }
    this.wrong('stuck', 'a version cannot be kept');
  }

  private async goBack(): Promise<void> {
    const kept = this.pick([...this.kept.values()]);
    if (!kept) return;
    const same = canonicalJson(partsText(kept.document)) === canonicalJson(partsText(this.now));
    const done = await this.once(`/projects/${this.id}/versions/${kept.id}/restore`);
    if (done === same) this.wrong('lost', `going back ${done ? 'was done' : 'was refused'}`);
    if (!done) return;
    this.took(kept.document);
    this.tested.restores++;
  }

  /** The project goes out to a file, and comes in as another one: the same in all parts. */
  private async copy(): Promise<void> {
    const file = await fetch(`${this.base()}/api/v1/projects/${this.id}/file`)
      .then(async (res) => (res.ok ? Buffer.from(await res.arrayBuffer()) : null))
      .catch(() => null);
    if (!file) return;
    const read = await fetch(`${this.base()}/api/v1/projects/file`, {
      method: 'POST',
      headers: { 'content-type': 'application/zip' },
      body: file,
      signal: AbortSignal.timeout(20_000),
    })
      .then(async (res) => (res.status === 201 ? ((await res.json()) as { id: string; left: string[] }) : null))
      .catch(() => null);
    if (!read) return;
    const copied = (await this.surely('GET', `/projects/${read.id}`)).body as unknown as State;
    if (canonicalJson(partsText(copied.document)) !== canonicalJson(partsText(this.now)) || read.left.length > 0)
      this.wrong('lost', `the copy by file differs: ${read.left.join(' ')}`);
    await this.surely('DELETE', `/projects/${read.id}`);
    this.tested.copies++;
  }

  /** Some change of some part: a number in it, a part more, a part less. */
  private changes(): PartChange[] {
    const parts = [...partsOfDocument(this.now)];
    const dice = this.random();
    if (dice < 0.12) return [this.more(parts)].filter((c) => c !== null);
    const own = parts.filter(([key]) => /^(note|section):own-/.test(key));
    if (dice < 0.18 && own.length > 0) return [{ part: this.pick(own)[0], value: null }];
    const [key, value] = this.pick(parts);
    const copy = structuredClone(value);
    const places = numbersIn(copy);
    if (places.length === 0) return [];
    const [holder, field] = this.pick(places);
    const before = holder[field] as number;
    holder[field] = before === 0 ? 0.01 * this.random() : Number((before * (0.9 + 0.2 * this.random())).toPrecision(6));
    return [{ part: key, value: copy }];
  }
  private more(parts: readonly (readonly [string, unknown])[]): PartChange | null {
    const id = `own-${this.count}`;
    if (this.random() < 0.6)
      return {
        part: `note:${id}`,
        value: { id, figure: 'lift', xQuantity: 'alpha', yQuantity: 'CL', x: this.random(), y: 1, text: `note ${id}` },
      } as PartChange;
    const section = parts.find(([key]) => key.startsWith('section:'))?.[1];
    return section
      ? ({ part: `section:${id}`, value: { ...(section as object), id, name: `Own ${this.count}` } } as PartChange)
      : null;
  }
}

const partsText = (document: ProjectDocument) =>
  Object.fromEntries(partsOfDocument(readDocument(structuredClone(document))));

/** Places of all numbers in a value. */
function numbersIn(
  value: unknown,
  found: [Record<string, unknown>, string][] = [],
): [Record<string, unknown>, string][] {
  if (value === null || typeof value !== 'object') return found;
  for (const [key, v] of Object.entries(value)) {
    if (typeof v === 'number') found.push([value as Record<string, unknown>, key]);
    else numbersIn(v, found);
  }
  return found;
}
