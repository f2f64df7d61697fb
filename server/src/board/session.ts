import type { RawData, WebSocket } from 'ws';
import { flownVehicle, inputsOfMotion, tableSpeed, type FlightTables } from '@veldtwind/core/candidate';
import { InvalidInput, VeldtwindError } from '@veldtwind/core/numerics';
import type { ProjectDocument } from '@veldtwind/core/project';
import {
  boardControls,
  boardStart,
  flyBoard,
  RadioLink,
  type BoardCommand,
  type BoardTick,
  type Flight,
} from '@veldtwind/core/simulation';
import type { ComputePool } from '../compute/pool';

/** A client that says nothing for so long is let go, ms. */
const SILENCE = 30_000;
/** Bytes of a message once the flight goes on: numbers for the controls. */
const MOST_ANSWER = 16 * 1024;
/** How long a client has to answer that it closes, ms. */
const CLOSING = 1000;

/** What a session needs of the server. */
export interface BoardServices {
  pool: Pick<ComputePool, 'run'>;
  /** A project's document. @throws where there is none. */ document: (project: string) => ProjectDocument;
  /** ms; for tests. */ silence?: number;
}

const textOf = (data: RawData): string =>
  (Array.isArray(data) ? Buffer.concat(data) : Buffer.from(data as ArrayBuffer)).toString('utf8');

/** One flight with a board outside: from the first message of a client to the summary. */
export class BoardSession {
  private steps?: Generator<BoardTick, Flight, BoardCommand | null>;
  private link!: RadioLink;
  private waiting: number | null = null;
  private starting = false;
  private ended = false;
  private timer?: ReturnType<typeof setTimeout>;

  constructor(
    private readonly socket: WebSocket,
    private readonly services: BoardServices,
  ) {
    socket.on('message', (data, binary) => void this.heard(data, binary));
    socket.on('close', () => clearTimeout(this.timer));
    socket.on('error', () => socket.terminate());
    this.listen();
  }

  private listen(): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => {
      const seconds = (this.services.silence ?? SILENCE) / 1000;
      this.fail('silent', `Nothing came for ${seconds} s.`, 'Answer every step; the flight has ended.');
    }, this.services.silence ?? SILENCE);
  }

  private say(message: object): void {
    if (this.socket.readyState === this.socket.OPEN) this.socket.send(JSON.stringify(message));
  }

  /** Says what is wrong, and ends. */
  private fail(code: string, message: string, hint?: string, path?: string): void {
    if (this.ended) return;
    this.ended = true;
    clearTimeout(this.timer);
    this.say({ type: 'error', code, message, ...(hint && { hint }), ...(path && { path }) });
    this.socket.close(1008, code.slice(0, 100));
    setTimeout(() => this.socket.terminate(), CLOSING).unref();
  }

  private async heard(data: RawData, binary: boolean): Promise<void> {
    // What a client that was refused goes on to say is not even read.
    if (this.ended) return;
    if (this.starting && !this.steps)
      return this.fail('early', 'The flight has not begun.', 'Wait for the message "ready".');
    const bytes = Array.isArray(data) ? data.reduce((sum, d) => sum + d.length, 0) : data.byteLength;
    if (this.steps && bytes > MOST_ANSWER)
      return this.fail(
        'too-large',
        `An answer has ${bytes} bytes, more than ${MOST_ANSWER}.`,
        'Send the deflections alone.',
      );
    this.listen();
    let message: unknown;
    try {
      if (binary) throw new Error('binary');
      message = JSON.parse(textOf(data));
    } catch {
      return this.fail('not-json', 'A message was not JSON text.', 'See docs/board.md for the messages.');
    }
    try {
      if (this.steps) this.answer(message);
      else await this.start(message);
    } catch (error) {
      if (!(error instanceof VeldtwindError)) return this.fail('failed', (error as Error).message);
      this.fail(error.code, error.message, error.hint, error.path);
    }
  }

  private async start(message: unknown): Promise<void> {
    const parsed = boardStart.safeParse(message);
    if (!parsed.success) {
      const { path, message: why } = parsed.error.issues[0];
      return this.fail(
        'invalid',
        `The first message, ${path.join('.') || 'whole'}: ${why}.`,
        'See docs/board.md.',
        path.join('.'),
      );
    }
    this.starting = true;
    // What is computed now is the server's own time.
    clearTimeout(this.timer);
    const { project, candidate: id, scenario: asked, link } = parsed.data;
    const document = this.services.document(project);
    const candidate = document.candidates[id];
    const part = typeof asked === 'string' ? document.scenarios[asked] : undefined;
    const scenario = typeof asked === 'string' ? part?.scenario : asked;
    if (!candidate || !scenario)
      throw new InvalidInput(
        'not-found',
        `There is no ${candidate ? 'scenario' : 'candidate'} "${candidate ? String(asked) : id}" in the project.`,
        'Look at their ids in the project’s document.',
      );
    const speed = tableSpeed(scenario, document.brief.speed);
    const input = inputsOfMotion(document, id, speed, part?.loading, null);
    const tables = JSON.parse(await this.services.pool.run('flight-tables', JSON.stringify(input))) as FlightTables;
    const shares = part?.loading === undefined ? {} : (candidate.loadings?.[part.loading] ?? {});
    const vehicle = flownVehicle(tables.massItems, shares, tables, scenario);
    const { trim, throttle, steps } = flyBoard(scenario, vehicle, { step: link.step, delay: link.delay });
    this.link = new RadioLink(link);
    this.steps = steps;
    this.say({
      type: 'ready',
      step: link.step,
      duration: scenario.duration,
      controls: vehicle.controls.map((c) => ({ ...c, trim: trim[c.name] })),
      throttle,
    });
    this.listen();
    await this.go(null);
  }

  /** Goes on until a step reaches the board. */
  private async go(command: BoardCommand | null): Promise<void> {
    for (let lost = 0; ; lost++) {
      const { done, value } = this.steps!.next(command);
      command = null;
      if (done) {
        clearTimeout(this.timer);
        this.say({ type: 'ended', summary: value.summary });
        this.socket.close(1000, 'ended');
        return;
      }
      const carried = this.link.carry(value);
      if (carried) {
        this.waiting = carried.n;
        this.say({ type: 'sensors', ...carried });
        return;
      }
      // A long row of lost steps must not hold up the server.
      if (lost % 20 === 19) await new Promise((next) => setImmediate(next));
    }
  }

  private answer(message: unknown): void {
    const parsed = boardControls.safeParse(message);
    if (!parsed.success) {
      const { path, message: why } = parsed.error.issues[0];
      return this.fail(
        'invalid',
        `Controls, ${path.join('.') || 'whole'}: ${why}.`,
        'See docs/board.md.',
        path.join('.'),
      );
    }
    const { n, deflections, throttle } = parsed.data;
    if (n !== this.waiting)
      return this.fail(
        'step',
        `Step ${n} was answered; ${this.waiting ?? 'none'} is waited for.`,
        'Answer each step once.',
        'n',
      );
    this.waiting = null;
    void this.go({ deflections, throttle }).catch((error: Error) => this.fail('failed', error.message));
  }
}
