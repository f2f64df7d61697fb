import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { By, Key, openBrowser, Page, TestServer } from './harness';

// Balance and Flights, looked at as an engineer would.
const server = new TestServer();
let browser: Awaited<ReturnType<typeof openBrowser>>;
let page: Page;
let id: string;
beforeAll(async () => {
  await server.start();
  browser = await openBrowser();
  page = new Page(browser.driver, server.base);
  id = await server.demo();
}, 120_000);
afterAll(async () => {
  await browser?.close();
  await server.stop();
});
/** What is kept with an aircraft. */
interface Kept {
  candidates: { a: { weighing?: { scales: { reading: number }[] }; study?: { variables?: unknown[] } } };
}
const margin = () => page.derived('Static margin');

describe('balance', () => {
  it('tells margin, neutral point and centre, and each of them by the others', async () => {
    await page.open(`/p/${id}/balance?c=a`);
    await page.until('a margin', async () => (await margin()) > 0);
    const [np, cg] = [await page.derived('Neutral point'), await page.derived('Centre of gravity')];
    expect(np).toBeGreaterThan(cg);
    expect(await page.text('[data-test=beam]')).toMatch(/neutral point/);
    expect(await page.text('[data-test=beam]')).toMatch(/centre of gravity/);
  });
  it('says of a number what it is and how it was made', async () => {
    const row = await page.driver.findElement(
      By.xpath("//aside//div[span[1][normalize-space(.)='Static margin']]//button"),
    );
    const shown = await row.getText();
    await row.click();
    const sheet = await page.text('[data-test=number-sheet]');
    expect(sheet).toContain('Static margin');
    expect(sheet).toContain(shown);
    expect(sheet).toMatch(/Neutral point behind the centre of gravity/);
    expect(await page.text('[data-test=number-formula]')).toMatch(/dCm\/dα/);
    expect(await page.text('[data-test=number-method]')).toMatch(/^vortex lattice/);
    expect(sheet).toMatch(/Candidate A at 26\.0 m\/s and 600 m/);
    await page.driver.actions().sendKeys(Key.ESCAPE).perform();
    await page.until(
      'closed',
      async () => (await page.driver.findElements(By.css('[data-test=number-sheet]'))).length === 0,
    );
  });
  it('shows the masses from above, from ahead and in space', async () => {
    for (const view of ['plan', 'front']) {
      await page.click(`[data-test=balance-view-${view}]`);
      await page.until(view, async () =>
        /Battery[\s\S]*Booms and tail|Booms and tail[\s\S]*Battery/.test(
          await page.text(`svg[data-test=${view}] [data-test=mass-layer]`),
        ),
      );
    }
    await page.click('[data-test=balance-view-space]');
    await page.until('names in space', async () => /CG/.test(await page.text('[data-test=mass-figure]')));
    await page.click('[data-test=balance-view-beam]');
    await page.find('[data-test=beam]');
  });
  it('tells the pitch slope per degree or per radian, as the brief says, and takes its band so', async () => {
    await page.click('[data-test=area-brief]');
    const pick = (v: string) =>
      page.driver.executeScript(
        "const e = document.querySelector('[data-test=slopes-per]'); e.value = arguments[0]; e.dispatchEvent(new Event('change'))",
        v,
      );
    const bands = async () =>
      (
        await server.call<{ document: { brief: { bands: { pitchSlopePerDeg: { max: number | null } } } } }>(
          'GET',
          `/projects/${id}`,
        )
      ).document.brief.bands.pitchSlopePerDeg.max;
    const before = await bands();
    await page.find('[data-test=slopes-per]');
    await pick('radian');
    await page.type('Pitch slope /rad, to', '-0.5');
    await page.until('kept per degree', async () => Math.abs((await bands())! + 0.0087266) < 1e-6);
    await page.until('in the figure', async () => /Pitch slope per radian/.test(await page.text('main')));
    await page.click('[data-test=undo]');
    await page.until('as it was', async () => (await bands()) === before);
    await pick('degree');
    await page.click('[data-test=area-balance]');
  });
  it('draws a candidate in a colour and a dash of its own', async () => {
    const line = () =>
      page.driver.executeScript<string>(
        "const l = document.querySelector('[data-test=candidate-A] line'); return l.style.stroke + ' ' + l.getAttribute('stroke-dasharray')",
      );
    const before = await line();
    await page.click('[data-test=candidate-menu]');
    await page.click('[data-test=line-colour-grass]');
    await page.until('green', async () => /grass/.test(await line()));
    await page.click('[data-test=candidate-menu]');
    await page.click('[data-test=line-dash-2]');
    await page.until('dotted', async () => /grass.* 2 3$/.test(await line()));
    await page.saved();
    await page.click('[data-test=undo]');
    await page.click('[data-test=undo]');
    await page.until('as before', async () => (await line()) === before);
  });
  it('moves the centre with a mass, and takes it back', async () => {
    const before = await margin();
    await page.click('[data-test=add-mass-sheet]');
    await page.saved();
    const rows = async () => (await page.driver.findElements(By.css('section[aria-label=Ledger] tbody tr'))).length;
    await page.until('a row more', async () => (await rows()) === 7);
    await page.click('[data-test=undo]');
    await page.until('as before', async () => (await rows()) === 6 && (await margin()) === before);
  });
  it('finds mass and centre on two scales, and the mass that brings the centre back', async () => {
    for (const [k, reading, x] of [
      [1, '10', '0.1'],
      [2, '15', '0.6'],
    ] as const) {
      await page.click('[data-test=add-scale]');
      await page.type(`Scale ${k} reading`, reading);
      await page.type(`Scale ${k}, x`, x);
    }
    expect(await page.derived('Weighed mass')).toBeCloseTo(25, 6);
    // It belongs to the aircraft: whoever opens the project sees it.
    await page.saved();
    const { document } = await server.call<{ document: Kept }>('GET', `/projects/${id}`);
    expect(document.candidates.a.weighing?.scales.map((s) => s.reading)).toEqual([10, 15]);
    expect(await page.derived('Weighed centre, x')).toBeCloseTo((10 * 0.1 + 15 * 0.6) / 25, 3);
    await page.type('Target centre, x', '0.3');
    await page.type('Trim mass position, x', '-0.7');
    // 25 kg moved by 0.1 m, over an arm of 1 m.
    await page.until('the mass', async () => /^2\.500 kg there/.test(await page.text('[data-test=trim-mass]')));
    await page.click('[data-test=add-trim-mass]');
    await page.until('among the items', async () => /Trim mass/.test(await page.text('section[aria-label=Ledger]')));
    await page.click('[data-test=undo]');
    await page.saved();
  });
  it('trims a steady turn and a crosswind', async () => {
    await page.until('trimmed', async () => /Load factor\s+1\.000/.test(await page.text('[data-test=steady-trim]')));
    await page.type('Bank', '30');
    await page.until('a turn', async () => /Load factor\s+1\.155/.test(await page.text('[data-test=steady-trim]')));
    await page.until('a sideslip', async () =>
      /Sideslip angle\s+[\d−]/.test(await page.text('[data-test=lateral-trim]')),
    );
  });
  it('tells what unequal halves do, and what would explain a roll', async () => {
    const group = '[data-help=Asymmetry]';
    const rolls = async () => /Roll rate\s+−\d/.test(await page.text('[data-test=asymmetry]'));
    await page.type('Tip twist', '0.8');
    await page.until('it rolls to the left', rolls);
    expect(await page.text('[data-test=asymmetry]')).toMatch(/Aileron\s+−0\.\d/);
    await page.type('Observed roll, °/s', '-12');
    await page.until('explained', async () =>
      /Wing: tip twist\s+\d\.\d\d°/.test(await page.text('[data-test=asymmetry-explained]')),
    );
    // It belongs to the candidate: it is undone like any edit, and the group has nothing to tell then.
    await page.click('[data-test=undo]');
    await page.until(
      'taken back',
      async () => (await page.driver.findElements(By.css('[data-test=asymmetry]'))).length === 0,
    );
    expect(await page.text(group)).not.toContain('Rolling moment');
    await page.saved();
  });
});

describe('flights', () => {
  const now = () => page.text('[data-test=flight-words]');
  const ends = async () => (await page.driver.findElements(By.css('section[aria-label=Ledger] tbody tr'))).length;
  it('flies a scenario and says how it ended', async () => {
    await page.click('[data-test=area-flights]');
    await page.until('flown', async () => (await now()).length > 20, 60_000);
    expect(await now()).toMatch(/way-points are reached.*Begins in trim/);
    expect(await page.driver.findElements(By.css('[data-chart^=flight-] polyline[data-series]'))).not.toHaveLength(0);
    expect(await page.text('[data-test=flight-made]')).toMatch(/^tables without viscosity/);
  });
  it('keeps a flight and lays the next over it', async () => {
    await page.click('[data-test=keep-flight]');
    await page.until('kept', async () => (await ends()) >= 2);
    const before = await now();
    await page.type('Speed', '24');
    await page.until('another flight', async () => (await now()) !== before, 60_000);
    const curves = async () =>
      (await page.driver.findElements(By.css('[data-chart=flight-0] polyline[data-series]'))).length;
    await page.until('both are drawn', async () => (await curves()) >= 2);
    await page.saved();
  });
  it('is there after a reload, with what was kept', async () => {
    await page.driver.navigate().refresh();
    await page.until('flown again', async () => (await now()).length > 20, 60_000);
    expect(await ends()).toBeGreaterThanOrEqual(2);
    expect(await page.errors()).toEqual([]);
  });
});

describe('an observed flight', () => {
  const said = () => page.driver.executeScript<string>('return document.body.innerText');
  it('is read, fitted, laid over what was planned, and still there after a reload', async () => {
    const rows = Array.from({ length: 50 }, (_, i) => {
      const t = 0.06 * i;
      const off = 0.03 * Math.sin(7 * i);
      return `${t.toFixed(2)},${(25 * t - 0.4 * t * t + off).toFixed(3)},${(60 + 1.5 * t - 0.7 * t * t).toFixed(3)}`;
    });
    rows[20] = rows[20].replace(/[^,]*$/, '95');
    const folder = mkdtempSync(join(tmpdir(), 'observed-'));
    writeFileSync(join(folder, 'throw.csv'), `t (s),x (m),height (m)\n${rows.join('\n')}`);
    writeFileSync(join(folder, 'clocks.csv'), `t,x,height\n${rows.join('\n')}\n${rows.join('\n')}`);
    await page.open(`/p/${id}/flights?c=a`);
    const input = await page.find('[data-test=read-observed]');
    await input.sendKeys(join(folder, 'clocks.csv'));
    await page.until('the refusal', async () => /Time goes back at row/.test(await said()));
    await input.sendKeys(join(folder, 'throw.csv'));
    const fitted = () =>
      page.driver.executeScript<string>("return document.querySelector('[data-test=fitted]')?.innerText ?? ''");
    await page.until('fitted numbers', async () => /launch speed\s+2[3-7]\.\d+ m\/s ±/.test(await fitted()));
    expect(await said()).toMatch(/row 22 lies far from its neighbours/);
    await page.until('both figures', async () => /Observed path[\s\S]*Residuals/.test(await said()));
    await page.click('[data-test=fit-drag]');
    await page.until('two numbers', async () => !/drag factor/.test(await fitted()));
    await page.saved();
    await page.driver.navigate().refresh();
    await page.until('fitted again', async () => /launch speed/.test(await fitted()));
    await page.click('[data-test=take-fitted]');
    await page.until('its launch', async () => /2[3-7]\.\d/.test(await page.value('Speed')));
    await page.click('[data-test=undo]');
    await page.saved();
    expect(await page.errors()).toEqual([]);
  });
});

describe('performance', () => {
  const summary = () => page.text('[data-test=performance-summary]');
  it('tells level flight in trim over speed, the optima, and where the numbers come from', async () => {
    await page.open(`/p/${id}/performance?c=a`);
    await page.until('computed', async () => /glides \d+\.\d+/.test(await summary()), 40_000);
    expect(await summary()).toMatch(/A Straight.*climbs \d\.\d\d m\/s; vortex lattice/);
    expect(await page.derived('Best glide')).toBeGreaterThan(12);
    const [slow, fast] = [await page.derived('Speed of least sink'), await page.derived('Speed of best glide')];
    expect(slow).toBeLessThan(fast);
    // Without viscosity there is no stall, and it says so.
    expect(await page.text('aside')).toMatch(/Without viscosity there is no stall/);
    const rows = await page.driver.findElements(By.css('section[aria-label=Ledger] tbody tr'));
    expect(rows.length).toBeGreaterThan(5);
  });
  it('follows the power and the energy, and takes both back', async () => {
    await page.until('range', async () => (await page.derived('Greatest range')) > 10, 40_000);
    const before = await page.derived('Greatest range');
    await page.type('Capacity, Wh', '800');
    await page.until(
      'twice as far',
      async () => Math.abs((await page.derived('Greatest range')) / before - 2) < 0.02,
      40_000,
    );
    await page.click('[data-test=undo]');
    await page.until('as before', async () => (await page.derived('Greatest range')) === before, 40_000);
  });
  it('lays the candidate beside itself with its tail turned', async () => {
    await (await page.find('select[aria-label="Add a variant"]')).sendKeys('T');
    await page.until(
      'laid beside',
      async () => /A Tailplane \+2\.0°/.test(await page.text('[data-chart=performance-0]')),
      40_000,
    );
    await page.click('[data-test=variant] [aria-label*="Remove A"]');
    await page.until('taken away', async () => !/A Tailplane/.test(await page.text('[data-chart=performance-0]')));
  });
  it('shows altitude, turns and loads', async () => {
    await page.click('[data-test=performance-view-map]');
    await page.until(
      'a map',
      async () => (await page.driver.findElements(By.css('[data-chart=performance-map] path'))).length > 4,
      40_000,
    );
    await page.click('[data-test=performance-view-turns]');
    expect(await page.text('[data-chart=performance-turn-rate]')).toMatch(/by (structure|stall|power|control travel)/);
    await page.click('[data-test=performance-view-loads]');
    expect(await page.text('[data-chart=performance-loads]')).toMatch(/gust/);
    await page.click('[data-test=performance-view-speed]');
  });
  it('is held against what the brief asks for, in a table of all candidates and as findings', async () => {
    await page.click('[data-test=area-brief]');
    const row = (name: string) => page.text(`[data-test=requirement-table] [data-requirement="performance.${name}"]`);
    await page.until(
      'all three',
      async () => (await row('bestGlide')).match(/\d+\.\d\d\s*[+−]/g)?.length === 3,
      60_000,
    );
    expect(await row('bestGlide')).toMatch(/above 18/);
    expect((await row('bestGlide')).match(/★/g)).toHaveLength(1);
    // What has no band is compared too.
    const damping = '[data-test=requirement-table] [data-requirement="motion.shortPeriod.damping"]';
    await page.until('modes', async () => ((await page.text(damping)).match(/\d\.\d{3}/g)?.length ?? 0) === 3, 40_000);
    await page.until('misses', async () => {
      await page.driver.executeScript('arguments[0].scrollIntoView()', await page.find('[data-test=add-requirement]'));
      return true;
    });
    const select = await page.find('[data-test=add-requirement]');
    await select.sendKeys('Greatest level speed');
    await page.click('[data-test=add-requirement-now]');
    await page.until('a row more', async () =>
      /Greatest level speed/.test(await page.text('[data-test=requirement-table]')),
    );
    const fields = await page.driver.findElements(By.css('[data-test=requirement]'));
    const last = fields[fields.length - 1];
    const [from] = await last.findElements(By.css('input'));
    await from.sendKeys(Key.chord(Key.CONTROL, 'a'), '60', Key.ENTER);
    await page.saved();
    await page.until('missed by all', async () => (await row('fastest')).match(/−\d/g)?.length === 3);
    const state = await page.driver.findElement(By.css('[data-requirement="performance.fastest"] td[data-state]'));
    expect(await state.getAttribute('data-state')).toBe('outside');
    await page.until('a finding', async () =>
      /Greatest level speed \d/.test(await page.driver.executeScript<string>('return document.body.innerText')),
    );
    // What the loops keep, and what is not built.
    for (const name of ['Least phase margin', 'Least reserve']) {
      await (await page.find('[data-test=add-requirement]')).sendKeys(name);
      await page.click('[data-test=add-requirement-now]');
    }
    const own = (quantity: string) => page.text(`[data-test=requirement-table] [data-requirement="${quantity}"]`);
    await page.until(
      'margins of all three',
      async () => ((await own('control.leastPhaseMargin')).match(/\d{2}/g)?.length ?? 0) === 3,
      60_000,
    );
    const none = await page.driver.findElement(By.css('[data-requirement="structure.leastReserve"] td[data-state]'));
    expect(await none.getAttribute('title')).toBe('No surface has a structure.');
  });
});

describe('studies', () => {
  const trim = async () =>
    Number(/Trims at (−?[\d.]+)°/.exec(await page.text('[data-test=findings]'))?.[1].replace('−', '-'));
  it('tells what a step of each variable changes, and makes one', async () => {
    await page.open(`/p/${id}/studies?c=a`);
    const row = () => page.text('[data-test=effects-table] [data-variable="surfaces.tailplane.incidenceDeg"]');
    await page.until('effects', async () => /Tailplane: incidence\s+0\.1 °\s+−0\.3/.test(await row()), 60_000);
    const before = await trim();
    for (let k = 0; k < 5; k++) {
      const now = await trim();
      await page.click('[aria-label="Increase Tailplane: incidence by one step"]');
      await page.until('a step', async () => (await trim()) < now - 0.2);
    }
    expect(await trim()).toBeLessThan(before - 1.5);
    await page.saved();
    // Which variables are studied is kept with the aircraft, and taken back like any edit.
    const rows = () => count('[data-test=effects-table] [data-variable]');
    const all = await rows();
    await page.click('[aria-label^="Remove Tailplane: incidence"]');
    await page.until('one less', async () => (await rows()) === all - 1, 60_000);
    await page.saved();
    const { document } = await server.call<{ document: Kept }>('GET', `/projects/${id}`);
    expect(document.candidates.a.study?.variables).toHaveLength(all - 1);
    await page.click('[data-test=undo]');
    await page.until('all again', async () => (await rows()) === all, 60_000);
    await page.saved();
  });
  it('finds the least change that holds the bands, and applies it as one edit', async () => {
    await page.click('[data-test=solve-bands]');
    await page.until(
      'solved',
      async () => (await page.text('[data-test=solution-said]')) === 'All requirements met',
      60_000,
    );
    await page.click('[data-test=apply-solution]');
    await page.until('trims in the band', async () => (await trim()) >= 3, 30_000);
    await page.saved();
    await page.click('[data-test=undo]');
    await page.until('as before', async () => (await trim()) < 3, 30_000);
    expect(await page.errors()).toEqual([]);
  });
  const count = (css: string) =>
    page.driver.executeScript<number>('return document.querySelectorAll(arguments[0]).length', css);
  const candidates = () => count('[data-test^=candidate-][aria-pressed]');
  it('draws a map of two variables, whose places are tried in every area, and dropped or applied', async () => {
    await page.click('[data-test=study-view-map]');
    await page.until('a map', async () => (await count('[data-chart=study-map] path')) > 4, 60_000);
    const before = await trim();
    const frame = await page.find('[data-chart=study-map] svg[aria-label]');
    await page.driver.actions().move({ origin: frame, x: 120, y: -60 }).click().perform();
    await page.until('a try', async () => (await page.text('[data-test=trial]')).includes('factor'));
    await page.click('[data-test=area-balance]');
    await page.until('it stands in Balance', async () => (await count('[data-test=trial]')) === 1);
    await page.click('[data-test=trial-drop]');
    await page.until('dropped', async () => (await count('[data-test=trial]')) === 0);
    expect(await trim()).toBe(before);
    await page.click('[data-test=area-studies]');
    await page.until('the map again', async () => (await count('[data-chart=study-map] path')) > 4, 60_000);
    await page.driver
      .actions()
      .move({ origin: await page.find('[data-chart=study-map] svg[aria-label]'), x: 60, y: 20 })
      .click()
      .perform();
    await page.click('[data-test=trial-apply]');
    await page.saved();
    await page.click('[data-test=undo]');
    await page.saved();
  });
  it('searches on the server, keeps what it found over a reload, and makes a try a candidate', async () => {
    await page.click('[data-test=study-view-search]');
    await page.type('Maximum number', '14');
    await page.click('[data-test=start-search]');
    const state = async () => (await page.find('[data-test=study-state]')).getAttribute('data-state');
    await page.until('a study', async () => (await count('[data-test=study-state]')) === 1);
    await page.until('its end', async () => (await state()) === 'finished', 120_000);
    const best = await page.text('[data-test=study-try]');
    expect(best).toMatch(/Best trial/);
    await page.driver.navigate().refresh();
    await page.until('it is still there', async () => (await count('[data-test=study-try]')) === 1, 60_000);
    await page.until('the same', async () => (await page.text('[data-test=study-try]')) === best, 60_000);
    await page.driver.executeScript(
      "document.querySelectorAll('[aria-label=Ledger] tbody tr[aria-selected=false]')[1].click()",
    );
    const before = await candidates();
    await page.click('[data-test=adopt-try]');
    await page.until('a candidate more', async () => (await candidates()) === before + 1);
    await page.saved();
    await page.click('[data-test=undo]');
    await page.saved();
  });
  it('tells how sure quantities are, and the chance of each requirement', async () => {
    await page.open(`/p/${id}/studies?c=a`);
    await page.click('[data-test=study-view-spread]');
    await page.type('Maximum number', '30');
    await page.click('[data-test=start-spread]');
    await page.until('chances', async () => (await count('[data-test=spread-table] [data-test=chance]')) > 3, 120_000);
    expect(await page.text('[data-test=spread-table] [data-answer=static-margin]')).toMatch(/\d+ %[\s\S]*±/);
    expect(await page.errors()).toEqual([]);
  });
  it('is one click from a finding: what moves it', async () => {
    await page.click('[data-test=area-balance]');
    await page.click('[data-test=all-findings]');
    await page.click('[data-test=moves-static-margin]');
    await page.until(
      'sorted by it',
      async () => /static\s+margin/.test(await page.text('[data-test=effects-table] th[aria-sort=descending]')),
      60_000,
    );
  });
  it('is one click from a requirement that is missed: what would meet it, and all others', async () => {
    await page.open(`/p/${id}/brief?c=a`);
    await page.type('Static margin, to', '30 %');
    await page.type('Static margin, from', '20 %');
    await page.until(
      'missed',
      async () => (await (await page.find('[data-finding=static-margin]')).getAttribute('data-state')) === 'outside',
    );
    await page.click('[data-test=all-findings]');
    await page.click('[data-test=meet-static-margin]');
    await page.until('solved', async () => /requirements/.test(await page.text('[data-test=solution-said]')), 90_000);
    expect(await page.text('[data-test=solution-said]')).toBe('All requirements met');
    await page.click('[data-test=apply-solution]');
    await page.until(
      'met',
      async () =>
        (await page.driver.findElements(By.css('[data-finding=static-margin][data-state=outside]'))).length === 0,
      30_000,
    );
    // The address is that of the area: a reload does not solve again.
    expect(await page.driver.getCurrentUrl()).not.toMatch(/solve=|of=/);
  });
});
