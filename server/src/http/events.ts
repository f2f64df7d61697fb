import type { Response } from 'express';
import type { EventName } from '@veldtwind/contract';

/** Bytes that may wait for a listener that does not read; beyond, it is let go, and catches up when it comes again. */
const MOST_WAITING = 1_000_000;
const BEAT = 25_000;

/** Who listens, and to what. */
interface Listener {
  /** Null for all that may be read. */ project: string | null;
  person: string | null;
  mayRead: (project: string) => boolean;
}

/** Server-sent events to everybody who listens: to one project, or to all. */
export class EventHub {
  private readonly listeners = new Map<Response, Listener>();

  /** Opens a stream. @param project that is listened to; null for all that may be read. */
  subscribe(
    project: string | null,
    res: Response,
    { person = null, mayRead = () => true }: Partial<Omit<Listener, 'project'>> = {},
  ): void {
    res.writeHead(200, {
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-store',
      Connection: 'keep-alive',
      'X-Accel-Buffering': 'no',
    });
    res.write('retry: 1000\n\n');
    this.listeners.set(res, { project, person, mayRead });
    const beat = setInterval(() => this.write(res, ': here\n\n'), BEAT);
    beat.unref();
    res.on('close', () => {
      clearInterval(beat);
      this.listeners.delete(res);
    });
  }

  /** Tells what happened to a project; the text is made once for all listeners. */
  send(project: string, event: EventName, data: object): void {
    let text: string | undefined;
    for (const [res, { project: wanted, mayRead }] of this.listeners) {
      if ((wanted !== null && wanted !== project) || !mayRead(project)) continue;
      text ??= `event: ${event}\ndata: ${JSON.stringify({ project, ...data })}\n\n`;
      this.write(res, text);
    }
  }

  private write(res: Response, text: string): void {
    if (res.writableLength > MOST_WAITING) {
      this.listeners.delete(res);
      res.destroy();
      return;
    }
    res.write(text);
    (res as Response & { flush?: () => void }).flush?.();
  }

  /** Ends the streams of a person; pages that may still listen open theirs again. */
  drop(person: string): void {
    for (const [res, listener] of this.listeners) {
      if (listener.person !== person) continue;
      this.listeners.delete(res);
      res.end();
    }
  }

  /** Listeners that are open. */
  get count(): number {
    return this.listeners.size;
  }

  close(): void {
    for (const res of this.listeners.keys()) res.end();
    this.listeners.clear();
  }
}
