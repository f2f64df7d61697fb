import { execFileSync } from 'node:child_process';
import { readFileSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { designationOutline, pairsFromOutline } from '@veldtwind/core/section';
import { By, Key, openBrowser, Page, TestServer } from './harness';

/** What an hour's work came to. Memory in MB: the least seen in the first and in the last third after warming up. */
export interface Soaked {
  actions: number;
  byKind: Record<string, number>;
  seconds: number;
  edits: number;
  /** What was done beside the pages: edits of another project, points of polars solved; and flights in the page. */
  beside: { edits: number; curves: number; points: number };
  flights: number;
  serverFirst: number;
  serverLast: number;
  pageFirst: number;
  pageLast: number;
  /** All readings: seconds, MB. */ samples: { at: number; server: number; page: number }[];
  /** Errors of consoles and of the server's log. */
  errors: string[];
}

/** A share of the time at the beginning in which memory may fill: caches, compiled code. */
const WARM = 0.25;
/** What a round of work inside the page may take on a machine that does much else, ms. */
const SCRIPT_TIME = 180_000;

const random = (() => {
  let seed = 20261126;
  return () => ((seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0), seed / 2 ** 32);
})();
const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];

/** Sections that are read from files, and how many have been. */
const MOST_READ = 6;
let read = 0;

/** Work as people do it, on whatever the page shows. */
const ACTIONS: Record<string, (page: Page, id: string, folder: string) => Promise<void>> = {
  async speed(page) {
    await page.click('[data-test=area-brief]');
    await page.type('Speed', (20 + 10 * random()).toFixed(1));
  },
  async altitude(page) {
    await page.click('[data-test=area-brief]');
    await page.type('Altitude', String(Math.round(2000 * random())));
  },
  async incidence(page) {
    await page.click('[data-test=area-balance]');
    await page.type('Tail incidence', (-4 + 3 * random()).toFixed(2));
  },
  async undo(page) {
    await page.driver.findElement(By.css('[data-test=undo]')).click();
  },
  async redo(page) {
    await page.driver.findElement(By.css('[data-test=redo]')).click();
  },
  async area(page) {
    await page.click(
      `[data-test=area-${pick(['brief', 'sections', 'airframe', 'polars', 'lift', 'drag', 'balance', 'motion'])}]`,
    );
  },
  async flow(page, id) {
    await page.open(`/p/${id}/sections/${pick(['karoo-14', 'karoo-12', 'thorn-11'])}?view=flow`);
    await page.type('Angle of attack', (-2 + 8 * random()).toFixed(1));
  },
  async read(page, id, folder) {
    await page.open(`/p/${id}/sections`);
    // The library stays of one size: what is read more often would be the document's growth, not the page's.
    if ((read += 1) > MOST_READ) return;
    const points = pairsFromOutline(designationOutline(pick(['2411', '1410', '4415', '0009']), 'published', 61));
    const file = join(folder, `reed-${Math.floor(1e6 * random())}.dat`);
    writeFileSync(file, points.map((p) => p.join(' ')).join('\n'));
    await (await page.find('[data-test=section-file]')).sendKeys(file);
  },
  async reload(page) {
    await page.driver.navigate().refresh();
  },
  async keys(page) {
    const input = await page.driver.findElement(By.css('aside input'));
    await input.click();
    for (let k = 0; k < 8; k++) await input.sendKeys(pick([Key.ARROW_UP, Key.ARROW_DOWN]));
  },
};
const KINDS = Object.keys(ACTIONS);
const EDITING = ['speed', 'altitude', 'incidence', 'read', 'keys'];

/**
 * Work inside the page that is watched. It is done by a script in the page: elements that a driver was given are held by it, and with them all that
 * was ever shown.
 */
const INSIDE = `
  const done = arguments[arguments.length - 1];
  const wait = (ms) => new Promise((go) => setTimeout(go, ms));
  const click = async (name) => { document.querySelector('[data-test=' + name + ']')?.click(); await wait(350); };
  const type = async (label, text) => {
    const input = document.getElementById([...document.querySelectorAll('aside label')].find((l) => l.textContent.trim().startsWith(label))?.htmlFor);
    if (!input) return;
    input.focus();
    input.value = text;
    input.dispatchEvent(new Event('input', { bubbles: true }));
    input.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
    input.blur();
    await wait(350);
  };
  const pick = (list) => list[Math.floor(Math.random() * list.length)];
  const work = {
    speed: async () => { await click('area-brief'); await type('Speed', (20 + 10 * Math.random()).toFixed(1)); },
    incidence: async () => { await click('area-balance'); await type('Tail incidence', (-4 + 3 * Math.random()).toFixed(2)); },
    area: () => click('area-' + pick(['sections', 'airframe', 'polars', 'lift', 'drag', 'balance', 'motion', 'control'])),
    flight: async () => { await click('area-flights'); await type(pick(['Speed', 'Height']), (24 + 6 * Math.random()).toFixed(1)); await wait(2500); },
    undo: () => click('undo'),
    redo: () => click('redo'),
  };
  (async () => {
    const made = [];
    for (let k = 0; k < 8; k++) {
      await click(pick(['keep-mine', 'keep-theirs']));
      const kind = pick(Object.keys(work));
      await work[kind]();
      made.push(kind);
    }
    await click('area-brief');
    await wait(500);
    done(made);
  })();`;

/** Where two changed the same field, the page asks: either will do. */
async function answer(page: Page): Promise<void> {
  for (const button of await page.driver.findElements(By.css(`[data-test=${pick(['keep-mine', 'keep-theirs'])}]`)))
    await button.click();
}

/** Edits of a project of its own, some a second, and runs of polars, as other people's work beside the pages. */
async function beside(server: TestServer, over: () => boolean, perSecond: number) {
  const done = { edits: 0, curves: 0, points: 0 };
  const id = await server.demo();
  let { version, document } = await server.call<{ version: number; document: { brief: object } }>(
    'GET',
    `/projects/${id}`,
  );
  await server.call('POST', `/projects/${id}/runs`, {
    name: 'Three hundred curves',
    many: true,
    plan: {
      sections: ['4415', '1410', '0009'].map((name) => ({
        name,
        source: { kind: 'designation', designation: name, trailingEdge: 'published' },
      })),
      reynolds: Array.from({ length: 100 }, (_, i) => 200_000 + 8000 * i),
      alphas: [0, 2, 4, 6],
      spread: { panels: 100, trailingEdge: 1, nose: 1 },
    },
  });
  while (!over()) {
    const brief = { ...document.brief, speed: Number((20 + 10 * random()).toFixed(3)) };
    const changes = [{ part: 'brief', value: brief }];
    const made = await server.call<{ version?: number }>('POST', `/projects/${id}/edits`, {
      baseVersion: version,
      label: 'Speed',
      changes,
    });
    if (made.version !== undefined) {
      version = made.version;
      document = { ...document, brief };
      done.edits++;
    }
    await new Promise((go) => setTimeout(go, 1000 / perSecond));
  }
  const { runs } = await server.call<{ runs: { tasks: number; open?: number; solved: number; doubtful: number }[] }>(
    'GET',
    `/projects/${id}/runs`,
  );
  done.points = runs.reduce((n, r) => n + r.solved + r.doubtful, 0);
  done.curves = Math.floor(done.points / 4);
  return done;
}

/**
 * Memory that a page holds, MB. A plain collection leaves what may be thrown away when memory is short: compiled code that no longer runs, caches of the
 * engine; this one asks for all of it.
 */
async function heapOf({ driver }: Page): Promise<number> {
  const chromium = driver as unknown as { sendDevToolsCommand(name: string, given: object): Promise<void> };
  await chromium.sendDevToolsCommand('HeapProfiler.collectGarbage', {});
  return driver.executeScript<number>('return performance.memory.usedJSHeapSize / 1e6');
}

/** Resident memory of a process, MB. */
function residentOf(pid: number): number {
  const pages = Number(readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]);
  return (pages * Number(execFileSync('getconf', ['PAGESIZE']))) / 1e6;
}

/**
 * Some browsers at work on one project for some time.
 * @param seconds how long at least. @param browsers how many. @param atLeast actions, and actions that edit, to wait for on a machine that is slow.
 */
export async function soak(
  seconds: number,
  browsers = 3,
  atLeast: { actions: number; editing: number } = { actions: 0, editing: 0 },
): Promise<Soaked> {
  const server = new TestServer();
  const folder = mkdtempSync(join(tmpdir(), 'veldtwind-soak-'));
  await server.start();
  const id = await server.demo();
  const pages: { page: Page; close: () => Promise<void> }[] = [];
  const errors: string[] = [];
  const byKind: Record<string, number> = {};
  const samples: { at: number; server: number; page: number }[] = [];
  const begun = Date.now();
  const elapsed = () => (Date.now() - begun) / 1000;
  try {
    for (let k = 0; k < browsers; k++) {
      const { driver, close } = await openBrowser('--enable-precise-memory-info');
      await driver.manage().setTimeouts({ script: SCRIPT_TIME });
      pages.push({ page: new Page(driver, server.base), close });
      await pages[k].page.open(`/p/${id}/brief`);
    }
    const count = (kind: string) => (byKind[kind] = (byKind[kind] ?? 0) + 1);
    const counted = (kinds: string[]) => kinds.reduce((n, kind) => n + (byKind[kind] ?? 0), 0);
    const over = () =>
      elapsed() >= seconds && counted(Object.keys(byKind)) >= atLeast.actions && counted(EDITING) >= atLeast.editing;
    const work = async ({ page }: { page: Page }) => {
      while (!over()) {
        const kind = pick(KINDS);
        try {
          await answer(page);
          await ACTIONS[kind](page, id, folder);
          count(kind);
        } catch {
          // Another browser's edit, or a button that does nothing now: a person would look and go on.
        }
      }
    };
    const watched = async ({ page }: { page: Page }) => {
      while (!over()) {
        const made = await page.driver.executeAsyncScript<string[]>(INSIDE);
        made.forEach(count);
        samples.push({ at: elapsed(), server: residentOf(server.pid), page: await heapOf(page) });
      }
    };
    const [others] = await Promise.all([beside(server, over, 7), watched(pages[0]), ...pages.slice(1).map(work)]);
    for (const { page } of pages) errors.push(...(await page.errors()).filter((e) => !/status of 4\d\d/.test(e)));
    errors.push(...server.complaints);
    const state = await server.call<{ version: number }>('GET', `/projects/${id}`);
    const least = (key: 'server' | 'page', from: number, to: number) =>
      Math.min(...samples.filter((s) => s.at >= from * seconds && s.at <= to * seconds).map((s) => s[key]));
    const third = (1 - WARM) / 3;
    return {
      actions: Object.values(byKind).reduce((a, b) => a + b, 0),
      byKind,
      seconds: elapsed(),
      edits: state.version,
      beside: others,
      flights: byKind.flight ?? 0,
      serverFirst: least('server', WARM, WARM + third),
      serverLast: least('server', 1 - third, 2),
      pageFirst: least('page', WARM, WARM + third),
      pageLast: least('page', 1 - third, 2),
      samples,
      errors,
    };
  } finally {
    for (const { close } of pages) await close();
    await server.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}
