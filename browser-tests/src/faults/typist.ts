import { Key, type Page } from '../harness';

/** What a page that is typed into came to. */
export interface Typed {
  typed: number;
  saved: number;
  reloads: number;
  wrongSaved: string[];
  lost: string[];
  stuck: string[];
}

const PATIENCE = 60_000;
const wait = (ms: number) => new Promise((go) => setTimeout(go, ms));

/** A script that makes the browser's storages fail, as they do when they are full or blocked; until the page is loaded again. */
const BLOCKED = `
  Storage.prototype.setItem = () => { throw new DOMException('full', 'QuotaExceededError'); };
  IDBFactory.prototype.open = () => { throw new DOMException('blocked', 'SecurityError'); };
  IDBDatabase.prototype.transaction = () => { throw new DOMException('blocked', 'InvalidStateError'); };`;

/** Somebody who types numbers into the brief of a project that is theirs alone, and looks whether "Saved" is true. */
export class Typist {
  readonly typed: Typed = { typed: 0, saved: 0, reloads: 0, wrongSaved: [], lost: [], stuck: [] };
  private last: { field: 'speed' | 'altitude'; value: number } | null = null;
  private blocked = false;

  constructor(
    private readonly page: Page,
    private readonly project: string,
    private readonly base: () => string,
    private readonly random: () => number,
    private readonly story: () => string,
  ) {}

  private async server(): Promise<Record<string, number>> {
    for (const begun = Date.now(); ; await wait(100)) {
      try {
        const res = await fetch(`${this.base()}/api/v1/projects/${this.project}/parts/brief`);
        if (res.ok) return (await res.json()) as Record<string, number>;
      } catch {
        // It is broken just now.
      }
      if (Date.now() - begun > PATIENCE) throw new Error('the server does not answer');
    }
  }
  private words = () =>
    this.page.driver.executeScript<string | null>(
      "return document.querySelector('[data-test=saving]')?.innerText ?? null",
    );

  /** What the page shows in a field. */
  private async shown(field: 'speed' | 'altitude'): Promise<number | null> {
    try {
      return Number(await this.page.value(field === 'speed' ? 'Speed' : 'Altitude'));
    } catch {
      return null;
    }
  }

  /** Opens the page, also while the server is being broken. */
  async open(): Promise<void> {
    for (const begun = Date.now(); Date.now() - begun < PATIENCE; await wait(300)) {
      try {
        await this.page.open(`/p/${this.project}/brief`);
        await this.page.find('[data-test=design-point]', 4000);
        this.blocked = false;
        return;
      } catch {
        // Neither a page nor an alert keeps a person from trying again.
        await this.page.driver
          .switchTo()
          .alert()
          .then((a) => a.accept())
          .catch(() => undefined);
      }
    }
    const shows = await this.page.driver
      .executeScript<string>('return document.body.innerText.slice(0, 120)')
      .catch(String);
    this.typed.stuck.push(`the page does not open: ${shows} (${this.story()})`);
  }

  async act(): Promise<void> {
    const dice = this.random();
    if (dice < 0.08) await this.reload();
    else if (dice < 0.14 && !this.blocked) {
      this.blocked = true;
      await this.page.driver.executeScript(BLOCKED);
    } else await this.type();
    await this.look();
  }

  private async type(): Promise<void> {
    const field = this.random() < 0.5 ? 'speed' : 'altitude';
    const value = field === 'speed' ? Number((20 + 15 * this.random()).toFixed(1)) : Math.round(1500 * this.random());
    try {
      const input = await this.page.field(field === 'speed' ? 'Speed' : 'Altitude');
      await input.click();
      await input.sendKeys(Key.chord(Key.CONTROL, 'a'), String(value), Key.ENTER);
    } catch {
      return;
    }
    // Keys that a page which is just being loaded did not take were never typed.
    if ((await this.shown(field)) !== value) return;
    this.last = { field, value };
    this.typed.typed++;
  }

  /** Where the page says that all is saved, the server has it. */
  private async look(): Promise<void> {
    if ((await this.words().catch(() => null)) !== 'Saved' || !this.last) return;
    const { field, value } = this.last;
    // Only the page's own number must be the server's: another may have been typed over it.
    if ((await this.shown(field)) !== value) {
      const has = (await this.server())[field];
      if (Math.abs(has - value) > 1e-9)
        this.typed.lost.push(`${field} ${value}: page and server have another (${this.story()})`);
      this.last = null;
      return;
    }
    const has = (await this.server())[field];
    if (Math.abs(has - value) > 1e-9)
      this.typed.wrongSaved.push(`${field} ${value}: the server has ${has} (${this.story()})`);
    else this.typed.saved++;
  }

  /** Loads the page again, unless it says that something would be lost by it. */
  private async reload(): Promise<void> {
    const words = await this.words().catch(() => null);
    if (this.blocked && words !== 'Saved') return;
    await this.open();
    this.typed.reloads++;
  }

  /** Waits until all is saved, with nothing broken any more. */
  async end(): Promise<void> {
    if ((await this.words().catch(() => null)) === null) await this.open();
    for (const begun = Date.now(); (await this.words().catch(() => null)) !== 'Saved'; await wait(200)) {
      if (Date.now() - begun < PATIENCE) continue;
      this.typed.stuck.push(`the page says ${await this.words().catch(() => null)} at the end`);
      return;
    }
    if (!this.last) return;
    const has = (await this.server())[this.last.field];
    if (Math.abs(has - this.last.value) > 1e-9)
      this.typed.lost.push(`${this.last.field} ${this.last.value} at the end: the server has ${has}`);
  }
}
