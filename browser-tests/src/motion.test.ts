import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openBrowser, Page, TestServer } from './harness';

// How an aircraft moves after a disturbance, looked at as an engineer would.
const server = new TestServer();
let browser: Awaited<ReturnType<typeof openBrowser>>;
let page: Page;
beforeAll(async () => {
  await server.start();
  browser = await openBrowser();
  page = new Page(browser.driver, server.base);
  await page.open(`/p/${await server.demo()}/motion?c=a`);
}, 120_000);
afterAll(async () => {
  await browser?.close();
  await server.stop();
});
const words = () => page.text('[data-test=mode-words]');

describe('motion', () => {
  it('says of every mode whether it dies out, and draws it among the poles', async () => {
    await page.until('modes', async () => /Phugoid dies out: halves in/.test(await words()));
    expect(await words()).toMatch(/Roll dies out/);
    expect(await words()).toMatch(/Dutch roll dies out.*period/);
    const poles = await page.driver.executeScript(
      'return [...document.querySelectorAll("[data-test=poles] g[role=button]")].map((g) => g.getAttribute("aria-label"))',
    );
    expect(poles).toEqual(expect.arrayContaining([expect.stringMatching(/^A phugoid: −0\.0\d+; 0\.\d+/)]));
    expect(await page.text('[data-test=motion-made]')).toMatch(/^vortex lattice/);
  });
  it('tells every mode of the candidates that are shown, the same mode below each other', async () => {
    const cells = () =>
      page.driver.executeScript<string[][]>(
        "return [...document.querySelectorAll('section[aria-label=Ledger] tbody tr')].map((r) => [...r.cells].map((c) => c.innerText))",
      );
    const of = async (mode: string) => (await cells()).filter((r) => r[0] === mode);
    const shown = async () => (await of('Dutch roll')).map((r) => r[1]);
    await page.until('both', async () => (await shown()).includes('B Longreach'), 30_000);
    await page.click('[data-test=overlay-B]');
    await page.until('without B', async () => !(await shown()).includes('B Longreach'), 30_000);
    await page.click('[data-test=overlay-B]');
    await page.until('both again', async () => (await shown()).includes('B Longreach'), 30_000);
    const [a, b] = ['A Straight', 'B Longreach'].map(
      (name) => async () =>
        (await of('Dutch roll'))
          .find((r) => r[1] === name)!
          .slice(2, 5)
          .map(Number),
    );
    // Damping ratio, natural frequency, time to half: t½ = ln 2 / (ζ ωn).
    for (const [damping, frequency, half] of [await a(), await b()]) {
      expect(damping).toBeGreaterThan(0);
      expect(Math.abs(half - Math.LN2 / (damping * frequency))).toBeLessThan(0.02);
    }
    expect((await a())[1]).not.toBe((await b())[1]);
  });
  it('moves the poles with a control setting', async () => {
    const setting = (v: string) =>
      page.driver.executeScript(
        "const e = document.querySelector('[data-test=setting]'); e.value = arguments[0]; e.dispatchEvent(new Event('change'))",
        v,
      );
    const angle = await page.derived('Angle of attack');
    await setting('Landing');
    // Flaps down: the same lift at a lower angle.
    await page.until('flaps down', async () => (await page.derived('Angle of attack')) < angle - 1, 30_000);
    await setting('');
    await page.until('up', async () => Math.abs((await page.derived('Angle of attack')) - angle) < 0.05, 30_000);
  });
  it('ranks what helps a mode most', async () => {
    await page.until(
      'ranked',
      async () => /What helps the phugoid most/.test(await page.text('[data-test=effects]')),
      40_000,
    );
    await page.driver.executeScript(
      '[...document.querySelectorAll("[data-test=mode-words] button")].find((b) => /^Dutch roll/.test(b.innerText)).click()',
    );
    await page.until('of the Dutch roll', async () =>
      /What helps the Dutch roll most[\s\S]*(Fin area \+10 %|Tail arm \+10 %)/.test(
        await page.text('[data-test=effects]'),
      ),
    );
  });
  it('follows speed and loading', async () => {
    const angle = await page.derived('Angle of attack');
    await page.type('Speed', '18');
    await page.until('steeper', async () => (await page.derived('Angle of attack')) > angle + 2);
    await page.driver.executeScript(
      "const e = document.querySelector('[data-test=loading]'); e.value = 'empty'; e.dispatchEvent(new Event('change'))",
    );
    await page.until('lighter', async () => (await page.derived('Mass')) < 18);
  });
  it('lists derivatives with their definitions, and the response to a gust', async () => {
    await page.click('[data-test=motion-ledger-derivatives]');
    await page.until('derivatives', async () =>
      /Cl p[\s\S]*roll damping, per p b \/ 2V/.test(await page.text('section[aria-label=Ledger]')),
    );
    await page.click('[data-test=disturbance-beta]');
    await page.until('lateral', async () => /β, °/.test(await page.text('[data-chart=motion-response]')));
    expect(await page.errors()).toEqual([]);
  });
  it('replaces a derivative by hand, marks it, and lays a measured set beside', async () => {
    const ledger = () => page.text('section[aria-label=Ledger]');
    await page.driver.executeScript(
      "[...document.querySelectorAll('section[aria-label=Ledger] td')].find((t) => t.textContent.trim() === 'Cm q').click()",
    );
    await page.find('[data-test=override] input');
    const input = await page.find('[data-test=override] input');
    await input.sendKeys('\uE009a\uE000', '-3', '\uE007');
    await page.until('marked', async () => /Cm q ✎[\s\S]*set by hand/.test(await ledger()));
    const file = join(mkdtempSync(join(tmpdir(), 'set-')), 'tunnel.csv');
    writeFileSync(file, 'derivative,value\nCL_alpha,5.5\nCm_q,-12\nCl_p,-0.5\n');
    await page.click('[data-test=override] button:last-child');
    await (await page.find('[data-test=read-derivatives]')).sendKeys(file);
    await page.until('beside', async () => /tunnel.csv/.test(await page.text('[data-test=measured-name]')));
    await page.driver.executeScript(
      "[...document.querySelectorAll('section[aria-label=Ledger] td')].find((t) => t.textContent.trim().startsWith('Cm q')).click()",
    );
    await page.click('[data-test=take-measured]');
    await page.until('taken', async () => /Cm q ✎\s+−12\.0000/.test(await ledger()));
    await page.click('[data-test=override] button:last-child');
    await page.click('[data-test=derivative-form-dimensional]');
    await page.until('dimensions', async () => /M q[\s\S]*N m s/.test(await ledger()));
    await page.click('[data-test=derivative-form-body]');
    await page.until('body', async () => /CZ alpha[\s\S]*force downward/.test(await ledger()));
    await page.click('[data-test=derivative-form-stability]');
    await page.click('[data-test=all-computed]');
    await page.until('as it was', async () => !/✎/.test(await ledger()));
    await page.saved();
  });
  it('estimates derivatives from a flight record, and uses them', async () => {
    const ledger = () => page.text('section[aria-label=Ledger]');
    const table = () => page.text('[data-test=estimates]');
    await page.click('[data-test=motion-view-record]');
    await page.until('estimated', async () => /CL alpha\s+5\.\d+\s+5\.\d+\s*± 0\.\d+/.test(await table()), 40_000);
    expect(await table()).toMatch(/Explained variance[\s\S]*Pitch rate\s+predicted 9\d\.\d+ %\s+9\d\.\d+ %/);
    expect(await page.text('[data-test=record-charts]')).toMatch(/Angle of attack[\s\S]*Deflections/);
    expect(await ledger()).toMatch(/estimated, \/rad[\s\S]*95 % bound ±/);
    // A control less that is estimated.
    await page.click('[data-test="estimated-controls.Elevator.CL"]');
    await page.until('one less', async () => !/CL Elevator/.test(await table()), 40_000);
    await page.click('[data-test=use-estimates]');
    // Three of the aircraft, and the elevator's moment.
    await page.until('used', async () => /all 4 as computed/.test(await page.text('[data-test=all-computed]')));
    await page.until('marked', async () => /Cm q ✎/.test(await ledger()));
    // What is predicted stays what was computed.
    await page.until('compared with it', async () => /Cm q\s+−44\.10/.test(await table()), 40_000);
    await page.click('[data-test=all-computed]');
    await page.until('as it was', async () => !/✎/.test(await ledger()));
    await page.saved();
  });
  it('shows a sweep over frequency, with its coherence', async () => {
    await page.click('[data-test=record] option[value=elevator-sweep]');
    await page.click('[data-test=record-over-frequency]');
    await page.until('responses', async () =>
      /Pitch rate per Elevator[\s\S]*gain, dB[\s\S]*Phase[\s\S]*Coherence/.test(
        await page.text('[data-test=frequency-charts]'),
      ),
    );
    await page.click('[data-test=frequency-alpha-Elevator]');
    await page.until('another', async () =>
      /Angle of attack per Elevator/.test(await page.text('[data-test=frequency-charts]')),
    );
    await page.click('[data-test=record-over-time]');
    // A doublet tells nothing over frequency.
    await page.click('[data-test=record] option[value=elevator]');
    await page.until('without', async () => !/Frequency/.test(await page.text('main')), 40_000);
  });
  it('reads a record of its own, keeps it, and says what is wrong with another', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'record-'));
    const give = async (name: string, text: string) => {
      writeFileSync(join(folder, name), text);
      await (await page.find('[data-test=read-record]')).sendKeys(join(folder, name));
    };
    await give('none.csv', 't (s),q,Elevator (deg)\n0,1,2\n');
    await page.until('the unit is asked for', async () =>
      /"q" has no unit[\s\S]*q \(deg\/s\)/.test(await page.text('[data-sonner-toaster]')),
    );
    const rows = readFileSync(join(__dirname, '../../demo/flight-records/elevator-doublet.csv'), 'utf8').split('\n');
    await give('second flight.csv', rows.slice(0, 160).join('\n'));
    await page.until('read', async () =>
      /second flight\.csv: 159 rows in 6\.3 s/.test(await page.text('[data-test=record-told]')),
    );
    await page.until(
      'estimated',
      async () => /Cm alpha\s+−0\.99\d+\s+−/.test(await page.text('[data-test=estimates]')),
      40_000,
    );
    await page.saved();
    await page.driver.navigate().refresh();
    await page.until(
      'kept',
      async () => /second flight\.csv: 159 rows/.test(await page.text('[data-test=record-told]')),
      40_000,
    );
    await page.click('[data-test=remove-record]');
    await page.until('gone', async () => !/second flight/.test(await page.text('[data-test=record-told]')));
    await page.saved();
  });
  it('shows a mode over speed, with loadings laid over each other', async () => {
    await page.click('[data-test=motion-view-envelope]');
    await page.click('[data-test=envelope-loading]');
    await page.until('curves', async () => /empty/.test(await page.text('[data-chart=envelope-0]')), 40_000);
    expect(await page.text('[data-chart=envelope-0]')).toMatch(/damping ratio[\s\S]*speed, m\/s/);
    await page.click('[data-test=envelope-altitude]');
    await page.until('altitudes', async () => /2[  ]?100 m/.test(await page.text('[data-chart=envelope-1]')), 40_000);
  });
  it('flies a mode in space', async () => {
    await page.click('[data-test=motion-view-mode]');
    await page.until('drawn', async () =>
      Boolean(
        await page.driver.executeScript(
          'return document.querySelectorAll("[data-test=flight-path] polygon").length >= 3',
        ),
      ),
    );
    const place = () =>
      page.driver.executeScript<string>(
        'return document.querySelector("[data-test=flight-path] polygon").getAttribute("points")',
      );
    const first = await place();
    await page.until('moved', async () => (await place()) !== first);
    expect(await page.text('section[aria-label=Ledger]')).toMatch(/level|Derivatives/);
  });
  it('reads mass properties of another program, and asks how they are meant', async () => {
    await page.open((await page.driver.getCurrentUrl()).replace(server.base, '').replace('/motion', '/balance'));
    await page.click('[data-test=mass-import]');
    await (
      await page.find('[data-test=mass-table]')
    ).sendKeys('mass 24, x -0.7, y 0, z -0.05, Ixx 3.1, Iyy 4.2, Izz 6.9, Ixz 0.12');
    await page.until('meant', async () =>
      /24\.0000 kg at 0\.7000, 0\.0000, 0\.0500 m/.test(await page.text('[data-test=mass-meant]')),
    );
    await page.click('[data-test=mass-add]');
    await page.until('there', async () => /Mass read\s+24\.00/.test(await page.text('section[aria-label=Ledger]')));
  });
  it('trims a turn, estimates the structure, and names what ends the range of the centre', async () => {
    // Its two ends with what ends it, or what cannot be held together.
    await page.until('limits', async () =>
      /static margin|trim angle|pitch slope/.test(await page.text('[data-test=beam]')),
    );
    await page.type('Bank', '60');
    await page.until('turn', async () => /Load factor\s+2\.000/.test(await page.text('[data-test=steady-trim]')));
    await page.type('Bank', '0');
    await page.type('Skin, kg/m²', '0.5');
    await page.until('estimate', async () => /kg in \d+ items/.test(await page.text('[data-test=estimate-words]')));
    await page.click('[data-test=estimate-add]');
    await page.until('group', async () => /Structure\s+[\d.]+ kg/.test(await page.text('[data-test=mass-group]')));
    await page.saved();
    expect(await page.errors()).toEqual([]);
  });
});
