import { Packr } from 'msgpackr';
import { keyOfResult, type AnalysisKind, type InputOf } from '@veldtwind/core/analysis';
import { pathOf, TAB_HEADER } from '@veldtwind/contract';

/** Answers that can still be kept: as many as all figures of a page show. */
const MOST = 60;
const packr = new Packr({ structuredClone: true, moreTypes: true });

/** What only reads and writes files, or is made faster than it is fetched. */
const NEVER: ReadonlySet<AnalysisKind> = new Set<AnalysisKind>([
  'read-files',
  'write-files',
  'stored-point',
  'stored-tables',
  'viscous-point',
  'flown-flows',
  'inviscid-flow',
  'section-view',
  'section-detail',
  'section-shape',
  'section-panels',
  'section-speeds',
  'section-summaries',
  'class-shape-fit',
  'flow-lines',
]);
export const isKept = (kind: AnalysisKind): boolean => !NEVER.has(kind);

const gzip = (bytes: Uint8Array<ArrayBuffer>) =>
  new Response(new Blob([bytes]).stream().pipeThrough(new CompressionStream('gzip'))).arrayBuffer();
const gunzip = (body: ReadableStream<Uint8Array<ArrayBuffer>>) =>
  new Response(body.pipeThrough(new DecompressionStream('gzip'))).arrayBuffer();

/** The results of a project that pages had kept on the server, as a worker sees them. Nothing of it may fail: without it all is computed. */
export class ResultsHome {
  private project: string | null = null;
  private origin = '';
  private tab = '';
  private there: Promise<Set<string>> = Promise.resolve(new Set());
  /** By the number of the request. */
  private readonly answers = new Map<number, { kind: AnalysisKind; input: unknown; output: unknown }>();

  private address(name: 'keptKeys' | 'keptResult' | 'keepResult', params: Record<string, string>): string {
    return `${this.origin}/api/v1${pathOf(name, params)}`;
  }

  /** Settles the project. @param origin of the page: a worker has no address of its own in all browsers. */
  open(project: string | null, origin: string, tab: string): void {
    Object.assign(this, { project, origin, tab });
    this.answers.clear();
    this.there = project === null ? Promise.resolve(new Set()) : this.listed(project);
  }

  private async listed(project: string): Promise<Set<string>> {
    try {
      const reply = await fetch(this.address('keptKeys', { id: project }), { headers: { [TAB_HEADER]: this.tab } });
      return new Set(reply.ok ? ((await reply.json()) as { keys: string[] }).keys : []);
    } catch {
      return new Set();
    }
  }

  /** A result that is kept; undefined where it is not there or cannot be had. */
  async get<K extends AnalysisKind>(kind: K, input: InputOf<K>): Promise<{ output: unknown } | undefined> {
    const { project } = this;
    if (project === null || !isKept(kind)) return undefined;
    const there = await this.there;
    if (there.size === 0) return undefined;
    try {
      const key = keyOfResult(kind, input);
      if (!there.has(key)) return undefined;
      const reply = await fetch(this.address('keptResult', { id: project, key }), {
        headers: { [TAB_HEADER]: this.tab },
      });
      if (!reply.ok || !reply.body) return undefined;
      return {
        output: packr.unpack(new Uint8Array(await gunzip(reply.body as ReadableStream<Uint8Array<ArrayBuffer>>))),
      };
    } catch {
      return undefined;
    }
  }

  /** Remembers an answer until it is clear whether it is kept. */
  remember(id: number, kind: AnalysisKind, input: unknown, output: unknown): void {
    if (this.project === null || !isKept(kind)) return;
    this.answers.set(id, { kind, input, output });
    if (this.answers.size > MOST) this.answers.delete(this.answers.keys().next().value!);
  }

  /** Has an answer kept by the server. */
  async keep(id: number): Promise<void> {
    const { project } = this;
    const answer = this.answers.get(id);
    this.answers.delete(id);
    if (!answer || project === null) return;
    try {
      const key = keyOfResult(answer.kind, answer.input as never);
      const there = await this.there;
      if (there.has(key)) return;
      there.add(key);
      const bytes = await gzip(new Uint8Array(packr.pack(answer.output)));
      const reply = await fetch(this.address('keepResult', { id: project, key, kind: answer.kind }), {
        method: 'PUT',
        headers: { 'content-type': 'application/octet-stream', [TAB_HEADER]: this.tab },
        body: bytes,
      });
      if (!reply.ok) there.delete(key);
    } catch {
      // It is computed again next time.
    }
  }
}
