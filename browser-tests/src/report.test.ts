import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { By, Key, openBrowser, Page, TestServer } from './harness';

// Report, from the first click to an issue and a colleague's link.
const server = new TestServer();
let browser: Awaited<ReturnType<typeof openBrowser>>;
let page: Page;
let id: string;
beforeAll(async () => {
  await server.start();
  browser = await openBrowser();
  page = new Page(browser.driver, server.base);
  id = await server.demo();
  // By the lattice it is there in seconds.
  await server.call('PUT', '/preferences/theme', { value: 'paper' });
}, 120_000);
afterAll(async () => {
  await browser?.close();
  await server.stop();
});
const script = <T>(code: string) => page.driver.executeScript<T>(code);
const order = () =>
  script<string[]>(
    "return [...document.querySelectorAll('[data-test=report-block]')].map((b) => b.getAttribute('aria-label'))",
  );
const fresh = () =>
  page.until(
    'composed',
    async () => script<boolean>("return document.querySelector('[data-test=report-state]')?.dataset.state === 'fresh'"),
    90_000,
  );
const block = (kind: string) => `[data-test=report-block][data-kind=${kind}]`;
/** The browser's own reading: the driver's looks at every path of every figure, which takes seconds. */
const innerText = (css: string) =>
  script<string>(`return document.querySelector(${JSON.stringify(css)})?.innerText ?? ''`);
const pageText = () => innerText('[data-test=report-page]');
const slideText = () => innerText('[data-test=slides]');
const press = (css: string) => script(`document.querySelector(${JSON.stringify(css)}).click()`);

describe('report', () => {
  it('begins finished: a design review with figures, tables and the numbers of the areas', async () => {
    await page.open(`/p/${id}/balance?c=a`);
    await page.until('a margin', async () => (await page.derived('Static margin')) > 0);
    await page.open(`/p/${id}/report?c=a`);
    await page.click('[data-test=new-review]');
    await page.until(
      'figures',
      async () => script<boolean>("return document.querySelectorAll('.report-content svg').length > 12"),
      90_000,
    );
    await fresh();
    expect(await pageText()).toMatch(/Table 1\. Requirements and candidates/);
    const words = await page.text(block('text'));
    const margin = /static margin of ([\d.]+) %/.exec(words)![1];
    await page.click('[data-test=area-balance]');
    await page.until('the same digits', async () => (await page.derived('Static margin')).toFixed(1) === margin);
    await page.click('[data-test=area-report]');
    await page.find(block('text'));
  });
  it('takes text with a live number, which follows the project', async () => {
    await page.until('shown', async () => /static margin of/.test(await page.text(block('text'))));
    await press(`${block('text')} [data-test=block-edit]`);
    const area = await page.find('[data-test=rich-text] [contenteditable]');
    // Its live numbers are named by their quantity while it is written.
    expect(await area.getText()).toMatch(/static margin of A: static margin and trims/);
    await area.sendKeys(Key.chord(Key.CONTROL, Key.END), ' The glide of @B best glide');
    await page.until('offered', async () => /B: best glide/.test(await page.text('[role=listbox]')));
    await area.sendKeys(Key.ENTER, ' is <b>good</b>, $C_L^2$.');
    await page.click('[data-test=report-editor-done]');
    await fresh();
    await page.until('a number', async () =>
      /The glide of \d+\.\d+ is <b>good<\/b>/.test(await page.text(block('text'))),
    );
    expect(await script<number>(`return document.querySelectorAll('${block('text')} .report-content b').length`)).toBe(
      0,
    );
    expect(await script<number>(`return document.querySelectorAll('${block('text')} math').length`)).toBeGreaterThan(0);
  });
  it('is written as it is read, or as Markdown, and both are the same text', async () => {
    const before = await order();
    await press('[data-test=add-text]');
    const area = await page.find('[data-test=rich-text] [contenteditable]');
    await area.sendKeys('## Loads', Key.ENTER, '- first', Key.ENTER, 'second ', Key.chord(Key.CONTROL, 'b'), 'strong');
    await page.find('[data-test=rich-text] ul li strong');
    await press('[data-test=report-editor-mode]');
    const source = await page.find('[data-test=report-editor] textarea');
    expect(await source.getAttribute('value')).toBe('## Loads\n\n- first\n- second **strong**');
    await source.sendKeys(Key.chord(Key.CONTROL, Key.END), '\n\n$$\ne = 1\n$$\n');
    await press('[data-test=report-editor-mode]');
    await page.find('[data-test=rich-text] .formula-block math');
    // The formula is changed where it stands.
    await page.click('[data-test=rich-text] .formula-block');
    const tex = await page.find('.formula-source:not([hidden])');
    await tex.sendKeys(Key.chord(Key.CONTROL, 'a'), 'e = mc^2', Key.ENTER);
    await press('[data-test=report-editor-done]');
    await fresh();
    await page.until('a block formula', async () =>
      script<boolean>(
        "return [...document.querySelectorAll('.report-content math')].some((m) => m.textContent.includes('mc'))",
      ),
    );
    await page.click('[data-test=undo]');
    await page.click('[data-test=undo]');
    await page.until('as before', async () => (await order()).join() === before.join());
  });
  it('moves blocks by keyboard and takes it back', async () => {
    const before = await order();
    await script(`document.querySelectorAll('[data-test=report-block]')[1].focus()`);
    const active = () => page.driver.switchTo().activeElement();
    await (await active()).sendKeys(Key.chord(Key.ALT, Key.ARROW_DOWN));
    await page.until('moved', async () => (await order())[2] === before[1] && (await order())[1] === before[2]);
    // The block keeps the focus, so that it can go on.
    await (await active()).sendKeys(Key.chord(Key.ALT, Key.ARROW_DOWN));
    await page.until('again', async () => (await order())[3] === before[1]);
    await page.click('[data-test=undo]');
    await page.click('[data-test=undo]');
    await page.until('as before', async () => (await order()).join() === before.join());
  });
  it('adds and removes a figure', async () => {
    const count = (await order()).length;
    const add = await page.find('[data-test=add-figure]');
    await add.findElement(By.css('option[value="lift-curve"]')).click();
    await page.until('one more', async () => (await order()).length === count + 1);
    await page.saved();
    await fresh();
    await script(`document.querySelectorAll('[data-test=block-remove]')[${count}]?.click()`);
    await page.until('gone', async () => (await order()).length === count);
  });
  it('takes a figure of any area as it is there', async () => {
    const count = (await order()).length;
    await page.click('[data-test=area-drag]');
    await page.until('a figure', async () => (await page.driver.findElements(By.css('[data-chart] path'))).length > 0);
    await page.click('[data-chart] button[aria-label^="Export or annotate"]');
    await page.driver.findElement(By.xpath("//button[normalize-space(.)='Put into the report']")).click();
    await page.saved();
    await page.click('[data-test=area-report]');
    await page.until('one more', async () => (await order()).length === count + 1);
    await fresh();
    const last = `[data-test=report-block]:last-of-type`;
    await page.until('drawn', async () => /Snapshot from Drag, \d{4}/.test(await page.text(last)), 60_000);
    expect(await script<number>(`return document.querySelectorAll('${last} svg path').length`)).toBeGreaterThan(2);
  });
  it('takes a table, a number, findings and a view from where they are', async () => {
    const count = (await order()).length;
    await page.click('[data-test=area-drag]');
    await press('[data-test=table-report]');
    await page.click('[data-test=area-balance]');
    await page.until('a margin', async () => (await page.derived('Static margin')) > 0);
    await script(
      `[...document.querySelectorAll('[data-evidence] button')].find((b) => /Static margin/.test(b.closest('[data-evidence]').textContent)).click()`,
    );
    await page.click('[data-test=number-report]');
    await page.click('[data-test=all-findings]');
    await page.click('[data-test=findings-report]');
    await page.click('[data-test=area-airframe]');
    await page.click('[data-test=view-report]');
    await page.saved();
    await page.click('[data-test=area-report]');
    await page.until('four more', async () => (await order()).length === count + 4);
    await fresh();
    const kinds = await script<string[]>(
      "return [...document.querySelectorAll('[data-test=report-block]')].slice(-4).map((b) => b.dataset.kind)",
    );
    expect(kinds).toEqual(['kept-table', 'text', 'table', 'space-view']);
    const last = (n: number) =>
      script<string>(
        `const b = [...document.querySelectorAll('[data-test=report-block]')].slice(-4)[${n}]; b.scrollIntoView(); return b.innerText`,
      );
    expect(await last(0)).toMatch(/Snapshot from Drag, \d{4}/);
    expect(await last(1)).toMatch(/^Static margin of candidate A: \d+\.\d %/);
    expect(await last(2)).toMatch(/Findings/);
    expect(await last(3)).toMatch(/A Straight/);
  });
  it('takes a picture and a file, which go along in its files', async () => {
    const count = (await order()).length;
    const folder = mkdtempSync(join(tmpdir(), 'report-'));
    const paths = ['model.png', 'note.txt', 'words.md'].map((name) => join(folder, name));
    writeFileSync(paths[0], Buffer.from(await page.picture()));
    writeFileSync(paths[1], 'hello');
    writeFileSync(paths[2], '## From a file\n\n- one');
    await (await page.find('[data-test=report-files]')).sendKeys(paths.join('\n'));
    await page.until('three more', async () => (await order()).length === count + 3);
    await page.saved();
    await fresh();
    await page.until('shown', async () =>
      script<boolean>("return (document.querySelector('.report-content img.picture')?.naturalWidth ?? 0) > 100"),
    );
    const words = await pageText();
    expect(words).toMatch(/note\.txt \(5 B\)/);
    expect(words).toMatch(/From a file/);
    // What nothing shows any more goes, and comes back with undo.
    const files = () => server.call<{ document: { attachments: object } }>('GET', `/projects/${id}`);
    expect(Object.keys((await files()).document.attachments)).toHaveLength(2);
    await script("document.querySelector('[data-kind=file] [data-test=block-remove]').click()");
    await page.saved();
    expect(Object.keys((await files()).document.attachments)).toHaveLength(1);
    await page.click('[data-test=undo]');
    await page.until('it is back', async () => Object.keys((await files()).document.attachments).length === 2);
    rmSync(folder, { recursive: true });
  });
  it('lets a number be changed while slides are shown, and put back', async () => {
    await fresh();
    await page.click('[data-test=present]');
    const dialog = await page.find('[data-test=slides]');
    for (let k = 0; k < 60 && !/Pitching moment/.test(await slideText()); k++) await dialog.sendKeys(Key.ARROW_RIGHT);
    const trim = async () => /A has no pitching moment at ([\d.]+)°/.exec(await slideText())?.[1];
    const before = await trim();
    expect(before).toBeDefined();
    await page.click('[data-test=slide-live]');
    await script(
      "const s = document.querySelector('[data-test=live-variable]'); s.value = [...s.options].find((o) => o.text === 'Tailplane: incidence').value; s.dispatchEvent(new Event('change'))",
    );
    const slider = await page.find('[data-test=live-slider]');
    await slider.sendKeys(Key.ARROW_RIGHT, Key.ARROW_RIGHT);
    await page.until('follows', async () => ![before, undefined].includes(await trim()), 60_000);
    await page.click('[data-test=live-restore]');
    await page.until('as before', async () => (await trim()) === before, 60_000);
    await dialog.sendKeys(Key.ESCAPE);
    await page.saved();
  });
  it('keeps issues as they were, and tells what changed since', async () => {
    await page.saved();
    await fresh();
    await (await page.find('[aria-label="Note on the issue"]')).sendKeys('first');
    await page.click('[data-test=issue-report]');
    await page.until('issued', async () => /Issue 1/.test(await page.text('[data-test=issues]')), 60_000);
    await page.click('[data-test=area-brief]');
    await page.type('Mass', '20');
    await page.saved();
    await page.click('[data-test=area-report]');
    await page.until('composed anew', async () => /20\.00 kg/.test(await pageText()), 90_000);
    await page.driver.findElement(By.xpath("//ul[@data-test='issues']//button[normalize-space(.)='Compare']")).click();
    await page.until('changes', async () => /24\.00 kg/.test(await page.text('[data-test=report-changes]')));
    expect(await page.text('[data-test=report-changes]')).toMatch(/Design point: Mass/);
    await page.driver.findElement(By.xpath("//ul[@data-test='issues']//button[normalize-space(.)='Issue 1']")).click();
    await page.until('as issued', async () => /Issue 1 as it was issued[^]*24\.00 kg/.test(await pageText()));
    await page.driver.findElement(By.xpath("//button[normalize-space(.)='Back to the current state']")).click();
    await page.until('as it is', async () => !/as it was issued/.test(await pageText()));
    expect(await pageText()).toMatch(/20\.00 kg/);
  });
  it('is shown as slides by keys', async () => {
    await page.click('[data-test=present]');
    const number = () => page.text('[data-test=slide-number]');
    expect(await number()).toMatch(/^1 \//);
    const dialog = await page.find('[data-test=slides]');
    await dialog.sendKeys(Key.ARROW_RIGHT, Key.SPACE);
    await page.until('the third', async () => /^3 \//.test(await number()));
    await dialog.sendKeys(Key.END);
    await page.until('the last', async () => {
      const [at, of] = (await number()).split(' / ');
      return at === of;
    });
    await dialog.sendKeys(Key.ESCAPE);
    await page.until('closed', async () => (await page.driver.findElements(By.css('[data-test=slides]'))).length === 0);
  });
  it('outlives a reload, and goes to a colleague by a link that can be withdrawn', async () => {
    await page.open(`/p/${id}/report?c=a`);
    await page.until('there', async () => /The glide of/.test(await pageText()), 60_000);
    await page.click('[data-test=share-report]');
    const link = By.css('[data-test=report-links] a');
    await page.until('a link', async () => (await page.driver.findElements(link)).length === 1);
    const address = await page.driver.findElement(link).getAttribute('href');
    const shared = await (await fetch(address!)).text();
    expect(shared).toContain('The glide of');
    expect(shared).toContain('&lt;b&gt;good');
    await page.driver
      .findElement(By.xpath("//ul[@data-test='report-links']//button[normalize-space(.)='Withdraw']"))
      .click();
    await page.until('withdrawn', async () => (await fetch(address!)).status === 404);
  });
  it.each(['paper', 'dusk'])('has no violation of accessibility in the %s theme, nor has its page', async (theme) => {
    await server.call('PUT', '/preferences/theme', { value: theme });
    await page.open(`/p/${id}/report?c=a`);
    await page.until(
      'figures',
      async () => script<boolean>("return document.querySelectorAll('.report-content svg').length > 12"),
      60_000,
    );
    const axe = readFileSync(createRequire(__filename).resolve('axe-core/axe.min.js'), 'utf8');
    const violations = async () => {
      await page.driver.executeScript(axe);
      return page.driver.executeAsyncScript<string[]>(`
        const done = arguments[arguments.length - 1];
        axe.run(document, { runOnly: ['wcag2a', 'wcag2aa'] }).then((r) => done(r.violations.map((v) => v.id + ': ' + v.nodes.slice(0, 3).map((n) => n.target + ' ' + (n.any[0]?.message ?? '')).join(' | '))));`);
    };
    expect(await violations()).toEqual([]);
    if (theme !== 'paper') return;
    const report = await script<string>("return document.querySelector('[aria-label=Report]').value");
    const html = await (await fetch(`${server.base}/api/v1/projects/${id}/reports/${report}/file?as=html`)).text();
    await page.driver.executeScript(
      'document.open(); document.write(arguments[0]); document.close();',
      html.replace(/<meta http-equiv[^>]*>/, ''),
    );
    expect(await violations()).toEqual([]);
  });
});
