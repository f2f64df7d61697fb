import { By, Key, openBrowser, Page, TestServer } from './harness';

// Lift with the polars of the sections, as an engineer would go through it.
const server = new TestServer();
let browser: Awaited<ReturnType<typeof openBrowser>>;
let page: Page;
let id = '';
beforeAll(async () => {
  await server.start();
  browser = await openBrowser();
  page = new Page(browser.driver, server.base);
  id = await server.demo();
  await page.open(`/p/${id}/lift?c=a`);
}, 120_000);
afterAll(async () => {
  await browser?.close();
  await server.stop();
});
const press = (css: string) =>
  page.driver.executeScript(
    'const e = document.querySelector(arguments[0]); e.scrollIntoView({block: "center"}); e.click()',
    css,
  );
const chart = (name: string) => page.text(`[data-chart=${name}]`);
const choose = (test: string, value: string) =>
  page.driver.executeScript(
    `const e = document.querySelector('[data-test=${test}]'); e.value = arguments[0]; e.dispatchEvent(new Event('change'))`,
    value,
  );
const ledger = () => page.text('section[aria-label=Ledger]');

describe('lift with polars', () => {
  it('reads a polar that is missing from the project’s own ones about it', async () => {
    // The other candidates would want theirs as well.
    for (const c of ['B', 'C']) await page.click(`[data-test=overlay-${c}]`);
    const { document } = await server.call<{
      document: { sections: Record<string, { name: string; source: object }> };
    }>('GET', `/projects/${id}`);
    const [key, tail] = Object.entries(document.sections).find(([, s]) => s.name === 'Sedge 9')!;
    const missing = async () => {
      const [, some, all] = /(\d+) of (\d+) polars/.exec(await page.text('[data-test=polar-needs]')) ?? [];
      return { some: Number(some), all: Number(all) };
    };
    // Those of the speed, and of the speeds about the stall.
    await page.until('all missing', async () => {
      const { some, all } = await missing();
      return some >= 10 && some === all;
    });
    const { all } = await missing();
    await server.call('POST', `/projects/${id}/runs`, {
      name: 'Own',
      plan: {
        sections: [{ id: key, name: tail.name, source: tail.source }],
        reynolds: [500_000, 700_000],
        alphas: Array.from({ length: 25 }, (_, i) => i - 8),
      },
    });
    await page.until('taken', async () => (await missing()).some === all - 1, 60_000);
    const said = await page.driver.findElement(By.css('[data-test=polar-needs] [title*="own polars"]'));
    expect(await said.getAttribute('title')).toBe('Re 600000: read from the project’s own polars at 500000 and 700000');
    expect(await said.getText()).toMatch(/≈\s*600 k/);
  }, 180_000);

  it('lists the polars that are missing, and computes them with one click', async () => {
    await page.until('listed', async () =>
      /of \d+ polars are missing/.test(await page.text('[data-test=polar-needs]')),
    );
    await page.until('said', async () => /inviscid: no stall in this model/.test(await page.text('main, body')));
    await page.click('[data-test=compute-polars]');
    await page.until('under way', async () => /of \d+ points/.test(await page.text('[data-test=polar-needs]')));
    await page.until('there', async () => /All \d+ polars/.test(await page.text('[data-test=polar-needs]')), 240_000);
  }, 280_000);

  /** All findings, with those that the strip has no room for. */
  async function allFindings(): Promise<string> {
    await page.click('[data-test=all-findings]');
    const text = await page.text('[data-test=findings]');
    await page.click('[data-test=all-findings]');
    return text;
  }
  it('tells greatest lift, where stall begins, and stall and glide in trim as Performance does', async () => {
    await page.until('answered', async () => (await page.derived('Greatest lift, CLmax')) > 1, 30_000);
    expect(await page.derived('Greatest lift, CLmax')).toBeLessThan(1.6);
    expect(await page.derived('Angle of first stall')).toBeGreaterThan(12);
    await page.until('its stall', async () => (await page.derived('Stall speed')) > 10, 40_000);
    expect(await page.derived('Stall speed')).toBeLessThan(20);
    await page.until('a finding', async () => /Stall speed \d/.test(await allFindings()), 20_000);
    expect(await page.derived('Best glide')).toBeGreaterThan(12);
    await page.until('in the table', async () => /doubtful: Stalled: Wing/.test(await ledger()));
    expect(await page.text('[data-test=polar-needs]')).not.toMatch(/missing/);
  }, 180_000);

  it('draws the ellipse of each candidate, with how far its load is off', async () => {
    const load = () => chart('span-load');
    await page.until('A', async () => /A polars, Δ [\d.]+ %[\s\S]*elliptic/.test(await load()), 30_000);
    await page.click('[data-test=overlay-B]');
    await page.until('both', async () => /B\b[^,]*, Δ [\d.]+ %/.test(await load()), 30_000);
    expect(await load()).toMatch(/A polars, Δ/);
    await page.click('[data-test=overlay-B]');
    await page.until('A alone', async () => !/B\b[^,]*, Δ/.test(await load()), 30_000);
  });
  it('follows a twist, and solves for the one that brings the load nearest to the ellipse', async () => {
    const before = await page.derived('Angle of first stall');
    await page.type('Twist at tip', '2');
    await page.until('stalls elsewhere', async () => (await page.derived('Angle of first stall')) !== before);
    await press('[data-test=solve-twist]');
    await page.until('solved', async () => /the load is off by/.test(await page.text('[data-test=twist-said]')));
    const [, after, was] = /off by ([\d.]+) % of its greatest \(([\d.]+) % before/.exec(
      await page.text('[data-test=twist-said]'),
    )!;
    expect(Number(after)).toBeLessThan(Number(was));
    expect(Number(await page.value('Twist at tip').then((v) => v.replace('−', '-')))).toBeLessThan(2);
    await page.saved();
  }, 180_000);

  it('turns a station by its handle on the span load, as one edit', async () => {
    await page.click('[data-test=span-handles-twist]');
    const before = await page.value('Twist at tip');
    const load = async () => /CDi ([\d.]+)/.exec(await chart('span-load'))![1];
    const drag = await load();
    const css = '[data-chart=span-load] [aria-label^="Twist at the tip"]';
    await page.retry(async () => (await page.find(css)).sendKeys(Key.ARROW_UP, Key.ARROW_UP));
    await page.until('turned', async () => (await page.value('Twist at tip')) !== before);
    await page.until('another induced drag', async () => (await load()) !== drag);
    await page.click('[data-test=span-handles-chord]');
    const handle = await page.find('[data-chart=span-load] [aria-label^="Chord at the root"]');
    await page.driver.actions().dragAndDrop(handle, { x: 0, y: -30 }).perform();
    await page.until('longer', async () =>
      /Chord at the root/.test(String(await (await page.find('[aria-label=Undo]')).getAttribute('title'))),
    );
    for (let k = 0; k < 3; k++) await page.click('[aria-label=Undo]');
    await page.until('as it was', async () => (await page.value('Twist at tip')) === before);
    await page.click('[data-test=span-handles-chord]');
  }, 180_000);

  it('lays a turned tail and a moved centre beside the candidate, and keeps them over a reload', async () => {
    const lay = (name: string) =>
      page.driver.executeScript(
        'const e = document.querySelector(`select[aria-label="Add a variant"]`); e.value = [...e.options].find((o) => o.text.includes(arguments[0])).value; e.dispatchEvent(new Event("change"))',
        name,
      );
    await lay('Tailplane turned');
    await page.until('laid', async () => /A Tailplane \+2\.0°/.test(await chart('lift-second')), 30_000);
    await lay('centre of gravity');
    await page.until('laid', async () => /A aft 0\.02 m/.test(await chart('lift-second')), 30_000);
    // The pod's nose lifts ahead of the centre: without it the moment falls more steeply.
    await lay('bodies without lift');
    await page.until('laid', async () => /A bodies without lift/.test(await chart('lift-second')), 30_000);
    await press('[aria-label="Remove A bodies without lift"]');
    await page.type('Tailplane by', '-3');
    await page.until('the other way', async () => /A Tailplane −3\.0°/.test(await chart('lift-second')), 30_000);
    await page.saved();
    await page.driver.navigate().refresh();
    await page.until('still', async () => /A Tailplane −3\.0°/.test(await chart('lift-second')), 30_000);
    for (const name of ['A Tailplane −3.0°', 'A aft 0.02 m']) await press(`[aria-label="Remove ${name}"]`);
    await page.until('gone', async () => !/Tailplane|aft/.test(await chart('lift-second')));
  }, 120_000);

  it('sweeps wanted lifts with the polars that are there, and says which is not met', async () => {
    await choose('sweep-kind', 'lift');
    await page.until('over drag', async () => /CL over CD/.test(await chart('lift-first')), 60_000);
    await page.until('too much', async () => /lift coefficient of 1\.4\d* is not met/.test(await ledger()), 60_000);
    await choose('sweep-kind', 'alpha');
  }, 120_000);

  it('says strip by strip what is carried and which polars are read', async () => {
    await page.click('[data-test=lift-ledger-strips]');
    await page.until('strips', async () => /Karoo 14: \d+ k to \S+( M| k), \d+ %/.test(await ledger()));
    expect(await ledger()).toMatch(/Strips of A at α −?\d+\.\d°, 26\.0 m\/s/);
    await page.click('[data-test=lift-ledger-states]');
  }, 180_000);

  it('tells candidates beside each other, in trim', async () => {
    await page.click('[data-test=lift-ledger-candidates]');
    await page.until('compared', async () => /A Straight[\s\S]*\d\.\d/.test(await ledger()), 40_000);
    await page.click('[data-test=lift-ledger-states]');
  }, 180_000);

  it('draws the air about it, with the loads of the polars', async () => {
    await page.click('[data-test=lift-view-stream]');
    await page.until(
      'said',
      async () => /loads with section polars/.test(await page.text('[data-test=stream-words]')),
      30_000,
    );
    const seen = async () =>
      Number(
        await page.driver.executeScript(
          `const c = document.querySelector('[data-test=view-3d] canvas'); const d = document.createElement('canvas');
           d.width = 400; d.height = 250; const x = d.getContext('2d'); x.drawImage(c, 0, 0, 400, 250);
           return [...x.getImageData(0, 0, 400, 250).data].filter((v, i) => i % 4 === 3 && v > 24).length`,
        ),
      );
    const toggleAll = async () => {
      for (const part of ['wake', 'stream', 'lift']) await page.click(`[data-test=stream-part-${part}]`);
    };
    await toggleAll();
    await page.driver.sleep(500);
    const alone = await seen();
    await toggleAll();
    // Lines and ribbon cover more of the picture than the aircraft alone.
    await page.until('drawn', async () => (await seen()) > 1.3 * alone, 20_000);
    await page.click('[data-test=lift-view-lift]');
  }, 180_000);

  it('draws level flight close to the ground, and tells the critical Mach number', async () => {
    await page.click('[data-test=lift-view-ground]');
    await page.until(
      'said',
      async () => /A: CL 0\.\d+; the lowest corner touches at/.test(await page.text('[data-test=ground-words]')),
      60_000,
    );
    await page.until(
      'drawn',
      async () => (await page.driver.findElements(By.css('[data-chart=ground-drag] path'))).length > 0,
    );
    await page.until('critical', async () => {
      const mach = await page.derived('Critical Mach number');
      return mach > 0.5 && mach < 0.8;
    });
    await page.click('[data-test=lift-view-lift]');
  }, 180_000);

  it('takes a typed reference, and goes back to the wing’s', async () => {
    const slope = await page.derived('Lift slope');
    await choose('reference-kind', 'typed');
    const area = Number((await page.value('Area')).replace('−', '-'));
    await page.type('Area', String(2 * area));
    await page.until(
      'half the coefficient',
      async () => Math.abs((await page.derived('Lift slope')) - slope / 2) < 0.01,
    );
    await page.until('told', async () => /3\.120 m²|3\.12 m²/.test(await page.text('[data-test=reference-used]')));
    await choose('reference-kind', 'projected');
    await page.until('as before', async () => Math.abs((await page.derived('Lift slope')) - slope) < 1e-3);
  }, 180_000);

  it('draws pressures on the skin, with what thickness changes', async () => {
    await page.click('[data-test=lift-view-skin]');
    await page.until(
      'skins',
      async () => /the skins lift .* than the lattice/.test(await page.text('[data-test=skin-words]')),
      90_000,
    );
    expect(await page.text('[data-test=skin-words]')).toMatch(/Cut where they meet: Pod with Wing/);
    expect((await page.driver.findElements(By.css('[data-chart=skin-cut] polyline'))).length).toBeGreaterThan(1);
    await page.click('[data-test=lift-view-lift]');
    // Its load stands beside the others' over the span.
    await page.until('beside', async () => /A panels/.test(await chart('span-load')), 20_000);
    expect(await page.errors()).toEqual([]);
  }, 120_000);

  it('shows the same flight by polars and by the lattice, and where the wing autorotates', async () => {
    await page.open(`/p/${id}/motion?c=a`);
    await page.until(
      'both methods',
      async () => /Static margin\s+\d+\.\d %\s+\d+\.\d %/.test(await page.text('[data-test=methods]')),
      60_000,
    );
    expect(await page.text('[data-test=methods]')).toMatch(/Phugoid damping ratio/);
    expect(await page.derived('Stick-free margin')).toBeLessThan(await page.derived('Static margin'));
    await page.click('[data-test=motion-view-roll]');
    await page.until(
      'through the stall',
      async () =>
        /From \d+° the wing drives its own roll on|stays damped/.test(await page.text('[data-test=roll-words]')),
      60_000,
    );
    await page.click('[data-test=motion-view-poles]');
  }, 150_000);
});
