import { violationsOn } from './axe';
import { By, Key, openBrowser, Page, TestServer } from './harness';

const server = new TestServer();
let browser: Awaited<ReturnType<typeof openBrowser>>;
let page: Page;
let id = '';
beforeAll(async () => {
  await server.start();
  id = await server.demo();
  browser = await openBrowser();
  page = new Page(browser.driver, server.base);
});
afterAll(async () => {
  await browser.close();
  await server.stop();
});

const AREAS = [
  'brief',
  'sections',
  'airframe',
  'polars',
  'lift',
  'drag',
  'balance',
  'performance',
  'structure',
  'motion',
  'control',
  'flights',
  'studies',
  'report',
] as const;
/** Groups of chips that change what the figure or the table shows. */
const VIEWS = ['View', 'Figures', 'Figure', 'Tables', 'Rows', 'Views that are shown'];

const violations = () => violationsOn(page);

/** Chips that choose a view, as group and name. */
const chips = () =>
  page.driver.executeScript<[string, string][]>(`
    const out = [];
    for (const g of document.querySelectorAll('main [role=group][aria-label]')) {
      const label = g.getAttribute('aria-label');
      if (${JSON.stringify(VIEWS)}.includes(label) && g.offsetParent) for (const b of g.querySelectorAll('button.chip')) out.push([label, b.innerText]);
    }
    return out;`);
const pick = (group: string, name: string) =>
  page.driver.executeScript(
    `for (const g of document.querySelectorAll('main [role=group][aria-label="' + arguments[0] + '"]'))
       for (const b of g.querySelectorAll('button.chip')) if (b.innerText === arguments[1]) { b.click(); return; }`,
    group,
    name,
  );

/** Waits until a view is drawn and its busy marks are gone. */
async function settled(): Promise<void> {
  await page.find('h1');
  await page.driver.sleep(700);
}

/**
 * Walks the page with the Tab key until it comes round. @returns what can be seen and worked with the mouse but was not come to, what had the focus
 * and did not show it, and how many places there were.
 */
async function walk(): Promise<{ missed: string[]; unmarked: string[]; places: number }> {
  await page.driver.executeScript(`
    const seen = window.walked = new Set(), unmarked = window.unmarked = new Set();
    const named = window.named = (e) => e.tagName.toLowerCase() + ' ' + (e.getAttribute('aria-label') || e.dataset.test || e.innerText || e.id || '').slice(0, 60);
    document.activeElement?.blur();
    const looks = (e) => { const s = getComputedStyle(e); return [s.outlineStyle, s.outlineWidth, s.boxShadow, s.borderColor, s.backgroundColor].join(); };
    removeEventListener('focusin', window.walker);
    addEventListener('focusin', window.walker = ({ target: e }) => {
      if (seen.has(e)) return;
      seen.add(e);
      const s = getComputedStyle(e);
      if (s.outlineStyle === 'none' || parseFloat(s.outlineWidth) === 0) {
        const now = looks(e);
        let around = e.parentElement, marked = false;
        for (let k = 0; k < 3 && around; k++, around = around.parentElement) marked ||= getComputedStyle(around).outlineStyle !== 'none' || around.matches(':focus-within') && getComputedStyle(around).boxShadow !== 'none';
        if (!marked && s.boxShadow === 'none' && !/input|textarea|select/i.test(e.tagName)) unmarked.add(named(e));
      }
    });`);
  let before = -1;
  for (let k = 0; k < 30; k++) {
    await page.driver
      .actions()
      .sendKeys(...Array.from({ length: 25 }, () => Key.TAB))
      .perform();
    const now = await page.driver.executeScript<number>('return window.walked.size');
    if (now === before) break;
    before = now;
  }
  return page.driver.executeScript(`
    const shown = (e) => { const r = e.getBoundingClientRect(); return r.width > 0 && r.height > 0 && getComputedStyle(e).visibility === 'visible' && !e.closest('[inert],[aria-hidden=true]'); };
    const all = [...document.querySelectorAll('button, a[href], input, select, textarea, [tabindex], [role=button], [role=slider], [contenteditable=true]')];
    // One of a group takes the focus, the arrows lead to the others; what is written -1 has a neighbour that does the same.
    const missed = all.filter((e) => shown(e) && !e.disabled && e.tabIndex >= 0 && !window.walked.has(e) && !(e.type === 'radio') && !e.closest('[data-sonner-toaster]'));
    return { missed: missed.map(window.named), unmarked: [...window.unmarked], places: window.walked.size };`);
}

describe.each(AREAS)('%s', (area) => {
  beforeAll(async () => {
    await page.open(`/p/${id}/${area}?c=a`);
    await page.find('[data-finding]');
    await settled();
  });
  it('can be worked by keyboard: Tab comes to all of it, and what has the focus shows it', async () => {
    let round = await walk();
    // Answers that came meanwhile have added to the page.
    for (let k = 0; k < 3 && round.missed.length > 0; k++) round = await walk();
    const { missed, unmarked, places } = round;
    expect({ missed, unmarked }).toEqual({ missed: [], unmarked: [] });
    expect(places).toBeGreaterThan(15);
  });
  it('can be read by everybody, in all its views and both themes', async () => {
    const found: string[] = await violations();
    for (const [group, name] of await chips()) {
      await pick(group, name);
      await settled();
      // The strips around them are the same.
      found.push(...(await violationsOn(page, ['main', 'aside'])).map((v) => `${group} ${name}: ${v}`));
    }
    expect([...new Set(found)]).toEqual([]);
  });
});

describe('every page can be read by everybody', () => {
  it.each(['/', '/layouts'])('the page %s', async (path) => {
    await page.open(path);
    await settled();
    expect(await violations()).toEqual([]);
  });
  it('what opens over a page: commands, keys, number, menus', async () => {
    await page.open(`/p/${id}/balance?c=a`);
    await page.find('[data-finding]');
    const body = await page.find('body');
    await body.sendKeys(Key.chord(Key.CONTROL, 'k'));
    await page.find('[data-test=palette-input]');
    await settled();
    const found = await violations();
    await body.sendKeys(Key.ESCAPE);
    await body.sendKeys('?');
    await page.find('[role=dialog]');
    await settled();
    found.push(...(await violations()));
    await body.sendKeys(Key.ESCAPE);
    expect(found).toEqual([]);
  });
});

/** Presses keys where the focus is. */
const press = (...keys: string[]) =>
  page.driver
    .actions()
    .sendKeys(...keys)
    .perform();
const alt = (key: string) => page.driver.actions().keyDown(Key.ALT).sendKeys(key).keyUp(Key.ALT).perform();
const control = (key: string) => page.driver.actions().keyDown(Key.CONTROL).sendKeys(key).keyUp(Key.CONTROL).perform();
/** Goes on by Tab until what has the focus fits. @returns the name of what was found. */
async function tabTo(fits: string): Promise<void> {
  for (let k = 0; k < 250; k++) {
    await press(Key.TAB);
    const there = await page.driver.executeScript<boolean>(
      `const e = document.activeElement; const label = e.labels?.[0]?.innerText ?? ''; const name = (e.getAttribute('aria-label') ?? '') + ' ' + label + ' ' + e.innerText; return (${fits})(e, name.trim());`,
    );
    if (there) return;
  }
  throw new Error(`Tab never comes to ${fits}`);
}
const title = () => page.text('h1');

describe('a trimmed change is made by keyboard alone', () => {
  it('from the first page to another span, seen in Lift, and taken back', async () => {
    await page.open('/');
    await page.find('h1');
    await tabTo(`(e, name) => name.includes('Seedsnipe') && (e.tagName === 'A' || e.tagName === 'BUTTON')`);
    await press(Key.ENTER);
    await page.find('[data-finding]');
    await alt('3');
    await page.until('Airframe', async () => (await title()) === 'Airframe');
    await tabTo(`(e, name) => e.tagName === 'INPUT' && /^Span\\b/.test(name)`);
    const field = await page.driver.switchTo().activeElement();
    const before = await field.getAttribute('value');
    await control('a');
    await press('5.1', Key.ENTER);
    await page.until('the span is 5.1', async () => Number(await field.getAttribute('value')) === 5.1);
    await page.saved();
    await alt('5');
    await page.until('Lift', async () => (await title()) === 'Lift');
    await page.find('[data-test="lift-view-four"], [aria-label=Figures] button');
    await tabTo(`(e, name) => e.matches('[aria-label=Figures] button') && name.includes('Four figures')`);
    await press(Key.SPACE);
    await page.until(
      'four figures',
      async () =>
        (await page.driver.executeScript<number>(`return document.querySelectorAll('main [data-chart]').length`)) >= 4,
    );
    await control('z');
    await page.saved();
    await alt('3');
    await page.until('Airframe', async () => (await title()) === 'Airframe');
    await page.until('taken back', async () => (await page.value('Span')) === before);
  });
  it('a band in Brief, a candidate of the strip and a finding are reached and worked', async () => {
    await page.open(`/p/${id}/brief?c=a`);
    await page.find('[data-finding]');
    await tabTo(`(e) => e.dataset.test === 'candidate-B'`);
    await press(Key.ENTER);
    await page.until('B', async () => (await page.driver.getCurrentUrl()).includes('c=b'));
    await tabTo(`(e) => e.dataset.test === 'candidate-menu'`);
    await press(Key.ENTER);
    await page.find('[data-test=read-candidate]');
    await press(Key.ESCAPE);
    await tabTo(`(e) => e.tagName === 'INPUT' && !!e.closest('aside')`);
    const label = await page.driver.executeScript<string>('return document.activeElement.labels[0].innerText');
    expect(label.length).toBeGreaterThan(2);
  });
  it('a figure is enlarged to the page, read there, and put back', async () => {
    await page.open(`/p/${id}/drag?c=a`);
    await page.find('[data-chart] svg[tabindex]');
    await settled();
    const size = () =>
      page.driver.executeScript<[number, number, number]>(
        `const r = document.querySelector('figure[data-chart]').getBoundingClientRect(); return [r.width, r.height, document.querySelector('figure[data-chart] svg[tabindex]').getBoundingClientRect().height];`,
      );
    const before = await size();
    await tabTo(`(e, name) => /^Export or annotate/.test(name)`);
    await press(Key.ENTER);
    await page.find('[data-test=figure-enlarge]');
    await press(Key.ENTER);
    await page.until('it fills the page', async () => (await size())[0] === 1280 && (await size())[1] === 800);
    await page.until('so does its plot', async () => (await size())[2] > 600);
    expect(await violations()).toEqual([]);
    // The rest of the page is out of reach.
    await press(...Array.from({ length: 12 }, () => Key.TAB));
    expect(
      await page.driver.executeScript('return Boolean(document.activeElement.closest("figure[data-enlarged]"))'),
    ).toBe(true);
    await press(Key.ESCAPE);
    await page.until('it is back', async () => (await size()).join() === before.join());
    // A dialog, or the help, that opens meanwhile has the page.
    const enlarge = async () => {
      await page.click('figure[data-chart] button[aria-label^="Export or annotate"]');
      await page.click('[data-test=figure-enlarge]');
      await page.until('it fills the page', async () => (await size())[1] === 800);
    };
    await enlarge();
    await control('k');
    await page.find('[data-test=palette-input]');
    await page.until('it gave way', async () => (await size()).join() === before.join());
    await press('studies');
    expect(await (await page.find('[data-test=palette-input]')).getAttribute('value')).toBe('studies');
    // Words that are taken back leave it open; Escape closes it, and runs nothing.
    await press(...Array.from({ length: 7 }, () => Key.BACK_SPACE), 'go motion');
    await press(Key.ESCAPE);
    await page.until(
      'closed',
      async () => (await page.driver.findElements(By.css('[data-test=palette-input]'))).length === 0,
    );
    expect(await title()).toBe('Drag');
    await enlarge();
    await press(Key.F1);
    await page.find('[data-test=help-text]');
    await page.until('beside the help', async () => (await size())[1] < 800);
    await press(Key.ESCAPE);
  });
});

it('a page is printed on one sheet as it stands, its figures whole', async () => {
  await page.open(`/p/${id}/balance?c=a`);
  await page.find('[data-chart] svg[tabindex]');
  await settled();
  const theme = await page.driver.executeScript('return document.documentElement.dataset.theme');
  const width = () =>
    page.driver.executeScript<number>(`return document.querySelector('[data-chart] svg[tabindex]').clientWidth`);
  const before = await width();
  // Its types name every option as needed, and leave the answer out.
  const asked = { orientation: 'landscape', width: 21, height: 29.7, background: true };
  const print = page.driver.printPage.bind(page.driver) as unknown as (o: typeof asked) => Promise<string>;
  const pdf = Buffer.from(await print(asked), 'base64').toString('latin1');
  expect(pdf.match(/\/Type ?\/Page\b/g)).toHaveLength(1);
  expect(await width()).toBe(before);
  expect(await page.driver.executeScript('return document.documentElement.dataset.theme')).toBe(theme);
  expect(
    await page.driver.executeScript(`return document.documentElement.style.getPropertyValue('--print-width')`),
  ).toBe('1280px');
});
