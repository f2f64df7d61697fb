import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { unzipSync, strFromU8, strToU8, zipSync } from 'fflate';
import type { WebDriver } from 'selenium-webdriver';
import { designationOutline, pairsFromOutline } from '@veldtwind/core/section';
import { By, Key, openBrowser, Page, TestServer } from './harness';

const server = new TestServer();
const folder = mkdtempSync(join(tmpdir(), 'sections-'));
let driver: WebDriver;
let close: () => Promise<void>;
let page: Page;
let id: string;

beforeAll(async () => {
  await server.start();
  ({ driver, close } = await openBrowser());
  page = new Page(driver, server.base);
  id = await server.demo();
  await (driver as unknown as { setDownloadPath(path: string): Promise<void> }).setDownloadPath(folder);
});
afterAll(async () => {
  await close?.();
  await server.stop();
  rmSync(folder, { recursive: true, force: true });
});

const open = (view: string, section = 'karoo-14') => page.open(`/p/${id}/sections/${section}?view=${view}`);
const count = () => page.text('[data-test=library-count]');
const facts = () => page.text('[data-test=shape-facts]');
const shape = async () => String(await (await page.find('[data-test=shape-after]')).getAttribute('d'));
const toast = () => page.text('[data-sonner-toast]');
/** Opens the menu of steps and takes one. */
async function addStep(kind: string): Promise<void> {
  await page.click('[data-test=add-step]');
  await page.click(`[data-test=add-${kind}]`);
}
const steps = async () => (await driver.findElements(By.css('[data-test=step]'))).length;
async function readFile(name: string, content: string | Uint8Array): Promise<void> {
  const file = join(folder, name);
  writeFileSync(file, content);
  await (await page.find('[data-test=section-file]')).sendKeys(file);
}
async function downloaded(name: RegExp): Promise<Buffer> {
  let found: string | undefined;
  await page.until(`a file ${name}`, () =>
    Promise.resolve(Boolean((found = readdirSync(folder).find((f) => name.test(f))))),
  );
  return readFileSync(join(folder, found!));
}
const loop = pairsFromOutline(designationOutline('4412', 'published', 61));
const text = (points: readonly (readonly number[])[]) => points.map((p) => p.join(' ')).join('\n');

describe('the library', () => {
  it('takes the starter library in with one edit, and searches it as one types', async () => {
    await open('library');
    await page.click('[data-test=starter-take]');
    await page.until('more than 70', async () => Number.parseInt(await count(), 10) > 70);
    const all = await count();
    await (await page.find('[data-test=library-search]')).sendKeys('tailless kite');
    await page.until('five of them', async () => /^5 of/.test(await count()));
    expect(await driver.findElements(By.css('[data-test=section-card]'))).toHaveLength(5);
    expect(await page.text('section[aria-label=Ledger]')).toMatch(/Kite 8-12/);
    await (await page.find('[data-test=library-search]')).sendKeys(Key.chord(Key.CONTROL, 'a'), Key.BACK_SPACE);
    await page.until('all again', async () => (await count()) === all);
  });
  it('filters by a range of any fact, and sorts', async () => {
    const from = await page.find('[aria-label="thickness from"]');
    await from.sendKeys('17.5');
    await page.until('thick ones only', async () => {
      const cards = await driver.findElements(By.css('[data-test=section-card]'));
      const words = await Promise.all(cards.map((c) => c.getText()));
      return words.length > 2 && words.every((w) => Number(/([\d.]+) %/.exec(w)?.[1]) >= 17.5);
    });
    await from.sendKeys(Key.chord(Key.CONTROL, 'a'), Key.BACK_SPACE);
    await (await page.find('[aria-label="Sorted by"]')).sendKeys('thickness');
    await page.until('the thinnest first', async () => /6\.0 %/.test(await page.text('[data-test=section-card]')));
    await (await page.find('[aria-label="Sorted by"]')).sendKeys('name');
  });
  it('lays compared sections over each other, with the deviation, in styles that differ', async () => {
    const search = await page.find('[data-test=library-search]');
    for (const name of ['Karoo 12', 'Karoo 14', 'Kite 8-12']) {
      await search.sendKeys(Key.chord(Key.CONTROL, 'a'), name);
      await page.until(name, async () => (await driver.findElements(By.css('[data-test=section-card]'))).length === 1);
      await page.click(`[data-test=section-card][aria-label="${name}"] input`);
    }
    await search.sendKeys(Key.chord(Key.CONTROL, 'a'), Key.BACK_SPACE);
    await page.click('[data-test=view-compare]');
    await page.until(
      'three outlines',
      async () => (await driver.findElements(By.css('[data-test=overlay] > path'))).length === 3,
    );
    const paths = await driver.findElements(By.css('[data-test=overlay] > path'));
    const styles = await Promise.all(
      paths.map(async (p) => `${await p.getAttribute('style')} ${await p.getAttribute('stroke-dasharray')}`),
    );
    expect(new Set(styles).size).toBe(3);
    await page.until(
      'two deviations',
      async () => (await driver.findElements(By.css('[data-chart=section-deviation] [data-series]'))).length === 2,
    );
    await page.click('[aria-label="Hide Kite 8-12"]');
    await page.until(
      'two are left',
      async () => (await driver.findElements(By.css('[data-test=overlay] > path'))).length === 2,
    );
    await driver.navigate().refresh();
    await page.until(
      'still two',
      async () => (await driver.findElements(By.css('[data-test=overlay] > path'))).length === 2,
    );
  });
  it('removes a section and brings it back', async () => {
    await open('library', 'section-0024');
    await page.click('[data-test=remove-section]');
    await page.until('says so', async () => /Section 0024 removed/.test(await toast()));
    await driver.findElement(By.xpath("//*[@data-sonner-toast]//button[contains(., 'Undo')]")).click();
    await page.until('back', async () => {
      await open('library', 'section-0024');
      return (await page.text('[data-test=section-card][aria-current=true]')).includes('0024');
    });
  });
  it('copies a section under a name of its own', async () => {
    await open('library', 'karoo-14');
    await page.click('[data-test=copy-section]');
    await page.until(
      'selected',
      async () => (await (await page.find('[data-test=section-name]')).getAttribute('value')) === 'Karoo 14 copy',
    );
  });
});

describe('reading files', () => {
  beforeAll(() => open('library'));
  it('repairs what can be repaired, says what it did, and keeps the file', async () => {
    const spoilt = loop.map(([x, y]) => [240 * x + 17, -240 * y]).reverse();
    spoilt.splice(20, 0, spoilt[20]);
    const content = `Thornbush\n${text(spoilt)}`;
    await readFile('thornbush.txt', content);
    await page.until('read', async () => /1 read, 1 of them repaired/.test(await page.text('[data-test=read-report]')));
    const report = await page.text('[data-test=read-report]');
    expect(report).toMatch(/doubled point/);
    expect(report).toMatch(/Line 2\d/);
    expect(report).toMatch(/chord of 240/);
    expect(await driver.findElements(By.css('[data-test=read-report] svg path'))).not.toHaveLength(0);
    await page.until(
      'selected',
      async () => (await (await page.find('[data-test=section-name]')).getAttribute('value')) === 'Thornbush',
    );
    await page.saved();
    rmSync(join(folder, 'thornbush.txt'));
    await page.click('[data-test=original]');
    expect((await downloaded(/^thornbush.*txt$/)).toString()).toBe(content);
  });
  it.each([
    ['letter.txt', 'Dear colleague,\nhere is the section.', /No coordinates/],
    ['three.txt', '1 0\n0 0\n1 0', /Only 3 point/],
    ['cut.txt', text(loop.slice(0, 40)), /line 1 to line 40|lines 1 to 40/],
  ])('refuses %s with a reason, and loses nothing', async (name, content, reason) => {
    const before = await count();
    await readFile(name, content);
    await page.until('refused', async () => reason.test(await page.text('[data-test=read-report] [role=alert]')));
    expect(await count()).toBe(before);
  });
  it('asks whether one surface is half of a symmetric section', async () => {
    const half = pairsFromOutline(designationOutline('0012', 'published', 61)).slice(0, 31);
    await readFile('half.txt', text(half));
    await page.click('[data-test=mirror-it]');
    await page.until('mirrored', async () => /mirror image/.test(await page.text('[data-test=read-report]')));
    await page.until(
      'selected',
      async () => (await (await page.find('[data-test=section-name]')).getAttribute('value')) === 'half',
    );
  });
  it('reads a zip of files, and text that is pasted', async () => {
    const before = Number.parseInt(await count(), 10);
    const one = strToU8(`Aloe 12\n${text(loop)}`);
    await readFile(
      'set.zip',
      zipSync({
        'a/aloe.txt': one,
        'a/bad.txt': strToU8('nothing'),
        'b.csv': strToU8(text(loop.map(([x, y]) => [x, 0.8 * y]))),
      }),
    );
    await page.until('two and one', async () => /2 read.*1 refused/.test(await page.text('[data-test=read-report]')));
    await page.click('[data-test=paste-text]');
    await (
      await page.find('[data-test=pasted]')
    ).sendKeys(text(loop.map(([x, y]) => [x.toFixed(4), (0.7 * y).toFixed(5)] as unknown as number[])));
    await page.click('[data-test=read-pasted]');
    await page.until('three more', async () => Number.parseInt(await count(), 10) === before + 3);
  });
  it('writes several sections as a zip that reads back', async () => {
    await (await page.find('#write-which')).sendKeys('all');
    await (await page.find('#write-chord')).sendKeys(Key.chord(Key.CONTROL, 'a'), '240 mm');
    await page.click('[data-test=write-sections]');
    const files = unzipSync(await downloaded(/^sections-.*zip$/));
    expect(Object.keys(files).length).toBeGreaterThan(70);
    const rows = strFromU8(files['karoo-14.txt']).trim().split('\n');
    expect(rows).toHaveLength(162);
    expect(Number(rows[1].split(' ')[0])).toBeCloseTo(240, 0);
  });
});

describe('a recipe', () => {
  beforeAll(() => open('shape', 'karoo-12'));
  it('is computed from its source: thin, then thick again gives the same drawing', async () => {
    const before = await shape();
    await addStep('set-thickness');
    await page.type('Thickness', '8 %');
    await page.until('thin', async () => /8\.00 % thick/.test(await facts()));
    expect(await shape()).not.toBe(before);
    await addStep('set-thickness');
    await page.type('Thickness', '12 %');
    await page.until('thick again', async () => /12\.00 % thick/.test(await facts()));
    await page.until('as it was', async () => {
      const numbers = (d: string) => d.match(/-?[\d.]+/g)!.map(Number);
      const [a, b] = [numbers(before), numbers(await shape())];
      return a.length === b.length && a.every((v, i) => Math.abs(v - b[i]) < 0.12);
    });
    expect(await steps()).toBe(2);
  });
  it('changes, switches off, moves and removes any step, and survives a reload', async () => {
    await page.saved();
    await driver.navigate().refresh();
    await page.until('two steps', async () => (await steps()) === 2);
    await driver.findElements(By.css('[data-test=step] [role=switch]')).then((s) => s[1].click());
    await page.until('the first counts', async () => /8\.00 % thick/.test(await facts()));
    await driver.findElements(By.css('[data-test=step] button')).then((b) => b[0].click());
    await page.type('Thickness', '9 %');
    await page.until('changed', async () => /9\.00 % thick/.test(await facts()));
    await page.click('[aria-label="Move down"]');
    await page.until('moved', async () => /12\.00/.test(await page.text('[data-test=step]:first-child')));
    await page.click('[data-test=remove-step]');
    await page.until('removed', async () => (await steps()) === 1);
    await driver.findElement(By.css('[data-test=step] [role=switch]')).click();
    await page.until('on again', async () => /12\.00 % thick/.test(await facts()));
  });
  it('refuses what cannot be, at its field, with the nearest that works', async () => {
    await driver.findElement(By.css('[data-test=step] button')).click();
    await page.type('Thickness', '200 %');
    await page.until('refused', async () => /must be 60.* or less/.test(await page.text('aside [role=alert]')));
    await (await page.field('Thickness')).sendKeys(Key.ESCAPE);
    await addStep('bump');
    await page.type('At x / c', '0.8');
    // The field is there at once, the shape and its facts a moment later.
    await page.until('moved', async () => (await page.value('At x / c')) === '0.800' && /^12\.00/.test(await facts()));
    const kept = await facts();
    await page.type('Height', '-9 %');
    await page.until('surfaces would cross', async () =>
      /crosses itself.*Nearest that works: −?-?\d/.test(await page.text('[data-test=step-refusal]')),
    );
    expect(await facts()).toBe(kept);
    expect(await page.value('Height')).toBe('0.30');
  });
  it('drags a bump on the outline', async () => {
    const handle = await page.find('[data-test=shape-handle]');
    const before = await shape();
    await driver.actions().dragAndDrop(handle, { x: 40, y: -8 }).perform();
    await page.until(
      'higher and farther aft',
      async () => Number(await page.value('Height')) > 0.6 && Number(await page.value('At x / c')) > 0.82,
    );
    expect(await shape()).not.toBe(before);
    await handle.sendKeys(Key.ARROW_UP);
  });
  it('tells the flow where the section is flown, before and now, and what a touch changes', async () => {
    const number = async (row: string, column: number) =>
      Number(
        (
          await driver.executeScript<string>(
            `return document.querySelector('[data-test=flown-row-${row}]').children[${column}].innerText`,
          )
        ).replace('−', '-'),
      );
    await page.until('a flow', async () => (await number('cd', 2)) > 0.004, 30_000);
    await page.click('[data-test=add-flown]');
    await page.type('Lift coefficient', '0.4');
    await page.type('Reynolds number', '800000');
    await page.until(
      'typed',
      async () => /cl 0\.40, Re 800 k\s*cd/.test(await page.text('[data-test=flown-3]')),
      30_000,
    );
    const was = await number('cd', 2);
    await driver.findElements(By.css('[data-test=step] [role=switch]')).then((s) => s[1].click());
    await page.until('another drag', async () => Math.abs((await number('cd', 2)) - was) > 1e-5, 30_000);
    expect(await number('cd', 3)).toBeCloseTo((await number('cd', 2)) - (await number('cd', 1)), 4);
    await driver.findElements(By.css('[data-test=step] [role=switch]')).then((s) => s[1].click());
    await page.until('as before', async () => Math.abs((await number('cd', 2)) - was) < 2e-5, 30_000);
    // A lift beyond the stall has no flow; the others stay.
    await page.type('Lift coefficient', '2.8');
    await page.until('none', async () => /no flow/.test(await page.text('[data-test=flown-3]')), 60_000);
    expect(await page.text('[data-test=flown-reason]')).toMatch(/No angle was found/);
    expect(await page.text('[data-test=flown-0]')).toMatch(/cd [+−]?\d/);
    await page.click('[data-test=flown-brief]');
    await page.until(
      'those of the brief',
      async () => !/Condition 4/.test(await page.text('[aria-label="Flown conditions"]')),
    );
  });
  it('smooths the speed over a stretch and says how far the outline moved', async () => {
    await addStep('smooth-speed');
    await page.until('found', async () => /moved by up to 0\.\d/.test(await page.text('aside')));
    await page.saved();
    const state = await server.call<{
      document: { sections: Record<string, { steps: { found?: { s: number[] } }[] }> };
    }>('GET', `/projects/${id}`);
    expect(state.document.sections['karoo-12'].steps.at(-1)!.found!.s.length).toBeGreaterThan(10);
  });
  it('is copied to another section', async () => {
    await page.click('[data-test=copy-recipe-to]');
    await driver
      .findElement(By.xpath("//*[@role='menuitem' or @role='menu']//button[normalize-space(.)='Sedge 9']"))
      .click();
    await page.until('copied', async () => /Recipe copied to Sedge 9/.test(await toast()));
    await open('shape', 'sedge-9');
    await page.until('its steps', async () => (await steps()) === 3);
    await page.until('its thickness', async () => /12\.\d+ % thick/.test(await facts()));
  });
  it('mixes with another section, and refuses a mix that comes back to itself', async () => {
    await open('shape', 'thorn-11');
    await page.click('[data-test=mix-section]');
    await page.until('a mix', async () => /mix, 50 %/.test(await page.text('aside')));
    const mix = decodeURIComponent(/sections\/([^?]+)/.exec(await driver.getCurrentUrl())![1]);
    await page.saved();
    await open('shape', 'thorn-11');
    await addStep('mix');
    await page.retry(
      () =>
        driver.findElement(By.xpath("//select[@data-test='mix-with']/option[starts-with(., 'Thorn 11 to')]")).click(),
      60,
    );
    await page.until('refused', async () => /mixed from itself|come back to itself/.test(await page.text('aside')));
    expect(mix).toMatch(/^thorn-11-to/);
  });
  it('fits a file by class and shape functions and turns it into sliders', async () => {
    await open('shape', 'spekboom-11');
    await page.until('its source', async () => /121 points|spekboom-11/.test(await page.text('aside')));
    await page.click('aside details summary');
    await page.click('[data-test=try-fit]');
    await page.until('an error', async () =>
      /off by at most 0\.\d+ % c/.test(await page.text('[data-test=fit-error]')),
    );
    await page.click('[data-test=take-fit]');
    await page.until(
      'sliders',
      async () => (await driver.findElements(By.css('aside input[type=range]'))).length === 14,
    );
    const before = await shape();
    await page.retry(() =>
      driver.findElement(By.css('[aria-label="upper coefficient 2"]')).sendKeys(Key.ARROW_RIGHT, Key.ARROW_RIGHT),
    );
    await page.until('another shape', async () => (await shape()) !== before);
  });
  it('shapes a section to the speed of another and says how it closes', async () => {
    await open('shape', 'section-0012');
    await addStep('whole-speed');
    await page.until('added', async () => (await steps()) === 1);
    await (await page.find('[aria-label="Section whose speed is taken"]')).sendKeys('Section 4412');
    await page.click('[data-test=take-speed]');
    await page.until(
      'its thickness and camber',
      async () => /(11\.9|12\.0)\d % thick.*camber (3\.9|4\.0)\d %/.test((await facts()).replace(/\s+/g, ' ')),
      60000,
    );
    expect(await page.text('[data-test=closure]')).toMatch(/Closure of the section/);
  });
});

describe('facts and panels', () => {
  it('say what a section is, with its curvature and a verdict', async () => {
    await open('facts', 'section-0012');
    await page.until('its area', async () => Math.abs((await page.derived('Area')) - 0.0822) < 0.002);
    await open('facts', 'section-0018');
    await page.until('smooth', async () => (await page.text('[data-test=verdict]')) === 'smooth');
    expect(await driver.findElements(By.css('[data-test=comb] path'))).not.toHaveLength(0);
  });
  it('change how panels are spread, and never the shape', async () => {
    await open('panels', 'karoo-14');
    await page.until('spread', async () => (await page.derived('Largest angle')) > 1);
    const angle = await page.derived('Largest angle');
    await page.type('Panels', '80');
    await page.until('coarser', async () => (await page.derived('Largest angle')) > 1.5 * angle);
    await page.click('[data-test=panel-stretch]');
    await page.until('denser', async () => (await page.value('Density factor')) === '2.00');
    await driver.findElement(By.xpath("//aside//button[normalize-space(.)='Restore']")).click();
    await page.until('as it was', async () => Math.abs((await page.derived('Largest angle')) - angle) < 0.01);
    await open('facts', 'karoo-14');
    await page.until('same thickness', async () => Math.abs((await page.derived('Thickness')) - 14) < 0.01);
  });
});

it('left no error in the console', async () => {
  expect((await page.errors()).filter((e) => !/status of 4\d\d/.test(e))).toEqual([]);
});
