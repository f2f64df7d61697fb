import type { Response } from 'express';

/** Server-sent events to everybody who has a project open. */
export class EventHub {
  private readonly open = new Map<string, Set<Response>>();

  subscribe(project: string, res: Response): void {
    res.writeHead(200, {
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-store',
      Connection: 'keep-alive',
      'X-Accel-Buffering': 'no',
    });
    res.write('retry: 1000\n\n');
    const set = this.open.get(project) ?? new Set();
    this.open.set(project, set);
    set.add(res);
    const beat = setInterval(() => res.write(': here\n\n'), 25000);
    beat.unref();
    res.on('close', () => {
      clearInterval(beat);
      set.delete(res);
      if (set.size === 0) this.open.delete(project);
    });
  }

  send(project: string, event: string, data: unknown): void {
    for (const res of this.open.get(project) ?? []) {
      res.write(`event: ${event}\ndata: ${JSON.stringify(data)}\n\n`);
      (res as Response & { flush?: () => void }).flush?.();
    }
  }

  close(): void {
    for (const set of this.open.values()) for (const res of set) res.end();
    this.open.clear();
  }
}
