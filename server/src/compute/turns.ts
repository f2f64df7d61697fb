import { Cancelled } from '@veldtwind/core/results';

interface Waiting {
  who: string;
  go: () => void;
}

/** Turns at a number of places: the next goes to whoever holds the fewest, then to whoever waits longest, so that one person cannot take all. */
export class Turns {
  private readonly waiting: Waiting[] = [];
  private readonly held = new Map<string, number>();
  private taken = 0;

  constructor(private readonly places: number) {}

  /** How many wait. */
  get length(): number {
    return this.waiting.length;
  }

  /** @param signal gives the turn up. @returns lets the place go again. @throws Cancelled when it is given up while it waits. */
  async take(who = '', signal?: AbortSignal): Promise<() => void> {
    if (signal?.aborted) throw new Cancelled();
    if (this.taken < this.places) this.hold(who);
    else {
      const mine = await new Promise<boolean>((settle) => {
        const leave = () => {
          const at = this.waiting.indexOf(one);
          if (at >= 0) this.waiting.splice(at, 1);
          settle(false);
        };
        const one: Waiting = {
          who,
          go: () => {
            signal?.removeEventListener('abort', leave);
            this.hold(who);
            settle(true);
          },
        };
        this.waiting.push(one);
        signal?.addEventListener('abort', leave, { once: true });
      });
      if (!mine) throw new Cancelled();
    }
    let free = false;
    return () => {
      if (free) return;
      free = true;
      this.taken--;
      const left = (this.held.get(who) ?? 1) - 1;
      if (left > 0) this.held.set(who, left);
      else this.held.delete(who);
      this.next();
    };
  }

  private hold(who: string): void {
    this.taken++;
    this.held.set(who, (this.held.get(who) ?? 0) + 1);
  }

  private next(): void {
    if (this.taken >= this.places || this.waiting.length === 0) return;
    let best = 0;
    const holds = (i: number) => this.held.get(this.waiting[i].who) ?? 0;
    for (let i = 1; i < this.waiting.length; i++) if (holds(i) < holds(best)) best = i;
    this.waiting.splice(best, 1)[0].go();
  }
}
