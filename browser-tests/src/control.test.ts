import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openBrowser, Page, TestServer } from './harness';

// Loops about the aircraft's motion, and flights with them.
const server = new TestServer();
let browser: Awaited<ReturnType<typeof openBrowser>>;
let page: Page;
let project: string;
beforeAll(async () => {
  await server.start();
  browser = await openBrowser();
  page = new Page(browser.driver, server.base);
  project = await server.demo();
  await page.open(`/p/${project}/control?c=a`);
}, 120_000);
afterAll(async () => {
  await browser?.close();
  await server.stop();
});
const ledger = () => page.text('section[aria-label=Ledger]');

describe('control', () => {
  it('shows what each loop keeps, and the chain that is chosen', async () => {
    await page.until('loops', async () => /Pitch: pitch attitude\s+margins held/.test(await ledger()));
    expect(await page.text('[data-test=chain-picture]')).toMatch(
      /height[\s\S]*pitch attitude[\s\S]*pitch rate[\s\S]*Elevator/,
    );
    await page.click('[data-test=block-loop-1]');
    await page.until('law', async () => /Law on pitch attitude/.test(await page.text('aside')));
    await page.until('margin', async () =>
      /crosses at [\d.]+ rad\/s[\s\S]*\d° left/.test(await page.text('[data-chart=control-phase]')),
    );
  });
  it('follows a gain, draws what was before, and finds gains by itself', async () => {
    await page.type('Proportional, kp', '8');
    await page.until('dashed', async () => /before/.test(await page.text('[data-chart=control-step]')));
    await page.click('[data-test=fastest]');
    await page.until('found', async () => Number(await page.value('Proportional, kp')) !== 8);
    await page.until('kept', async () => /Pitch: pitch attitude\s+margins held/.test(await ledger()));
  });
  it('switches a derivative off, and says that the model is another', async () => {
    await page.click('[data-test=derivative-Cm_q] button');
    await page.until('changed', async () => /1 changed/.test(await page.text('[data-test=chain-picture]')));
    await page.click('[data-test=derivative-Cm_q] button');
    await page.until('as it is', async () => /as in Motion/.test(await page.text('[data-test=chain-picture]')));
  });
});

describe('figures of a loop', () => {
  it('lets the crossing be moved by its handle, as one edit', async () => {
    await page.click('[data-test=block-loop-1]');
    // Until the chosen loop is computed nothing is told of it.
    await page.until('its own', async () => Number(await page.value('Gain crossover, rad/s')) > 0);
    const before = Number(await page.value('Gain crossover, rad/s'));
    const handle = await page.find('[data-chart=control-gain] [role=slider]');
    await handle.sendKeys('\uE014', '\uE014');
    await page.until('faster', async () => Number(await page.value('Gain crossover, rad/s')) > 1.02 * before);
    await page.saved();
    await page.click('[aria-label=Undo]');
    await page.until('undone', async () => Number(await page.value('Gain crossover, rad/s')) < 1.08 * before);
  });
  it('puts a notch and a lead into the law, and says what is left in steps', async () => {
    await page.click('[data-test=law-notch]');
    await page.until('field', async () => (await page.value('Notch frequency, rad/s')) !== '');
    await page.click('[data-test=law-lead]');
    await page.until('field', async () => (await page.value('Lead zero, rad/s')) !== '');
    await page.until('in steps', async () => /Sampled every 20 ms: .*(° are left|not stable)/.test(await ledger()));
    await page.click('[data-test=law-notch]');
    await page.click('[data-test=law-lead]');
  });
  it('tells the margins over speeds and loadings, and the worst of them', async () => {
    await page.click('[data-test=control-view-speed]');
    await page.until(
      'worst',
      async () => /Worst at [\d.]+ m\/s, \w+.*: \d+° left/.test(await page.text('[data-chart=control-phase-speed]')),
      60_000,
    );
    await page.click('[data-test=control-view-frequency]');
  });
  it('closes a loop on the thrust, and lays a model from a file beside the aircraft’s', async () => {
    await page.driver.executeScript(
      "const e = document.querySelector('select[aria-label=\"New chain\"]'); e.value = 'speed'; e.dispatchEvent(new Event('change'))",
    );
    await page.until('speed', async () => /Speed: speed/.test(await ledger()));
    await page.until('thrust', async () => /change of thrust, N/.test(await page.text('[data-chart=control-effort]')));
    const file = join(mkdtempSync(join(tmpdir(), 'model-')), 'other.csv');
    writeFileSync(file, 'A,u,w\nu,-0.05,0.1\nw,-0.5,-4\n\nB,e\nu,0\nw,1\n');
    await (await page.find('[data-test=read-model]')).sendKeys(file);
    await page.until('beside', async () => /Poles of other.csv/.test(await page.text('aside')));
    writeFileSync(file, 'A,u\n');
    await (await page.find('[data-test=read-model]')).sendKeys(file);
    await page.until('told', async () => /The model was not read[\s\S]*no matrix/.test(await page.text('body')));
    await page.click('[aria-label="Remove the model"]');
    await page.click('[aria-label="Remove Speed"]');
    await page.until('gone', async () => !/Speed: speed/.test(await ledger()));
  });
  it('has what it says of modes and loops among the findings', async () => {
    await page.click('[data-test=all-findings]');
    await page.until('findings', async () =>
      /(loops keep their margins|The loop on)[\s\S]*The spiral grows/.test(await page.text('body')),
    );
    await page.click('[data-test=all-findings]');
  });
});

describe('flights', () => {
  it('flies around the way-points with the loops, and keeps the flight', async () => {
    await page.open(`/p/${project}/flights?c=a`);
    await page.until(
      'flown',
      async () => /All way-points are reached/.test(await page.text('[data-test=flight-words]')),
      40_000,
    );
    await page.click('[data-test=keep-flight]');
    await page.until('kept', async () => /A Straight \(as now\)/.test(await ledger()));
    // Again, in the place of the last: still one.
    await page.click('[data-test=keep-in-place]');
    await page.saved();
    expect((await ledger()).match(/A Straight \(as now\)/g)).toHaveLength(1);
  });
  it('begins a scenario of its own, follows its numbers, and is there after a reload', async () => {
    await page.driver.executeScript(
      "const e = document.querySelector('select[aria-label=\"New scenario\"]'); e.value = 'throw'; e.dispatchEvent(new Event('change'))",
    );
    await page.until(
      'thrown',
      async () => /meets the ground/.test(await page.text('[data-test=flight-words]')),
      40_000,
    );
    await page.click('[data-test=scatter]');
    await page.until(
      'scattered',
      async () => /meet the ground.*95 % end within/.test(await page.text('[data-test=scatter-words]')),
      40_000,
    );
    await page.find('[data-test=scatter]');
    await page.saved();
    // What was thrown is there again, and the tables that were flown go out and come in.
    await page.open(`/p/${project}/flights?c=a`);
    await page.until(
      'kept throws',
      async () => /95 % end within/.test(await page.text('[data-test=scatter-words]')),
      40_000,
    );
    await page.find('[data-test=write-tables]:not([disabled])', 40_000);
    const made = await page.driver.executeScript<string>(`
      return new Promise((done) => {
        const make = URL.createObjectURL;
        URL.createObjectURL = (blob) => {
          URL.createObjectURL = make;
          blob.text().then(done);
          return make(blob);
        };
        document.querySelector('[data-test=write-tables]').click();
      });`);
    const tables = join(mkdtempSync(join(tmpdir(), 'tables-')), 'tables.xml');
    writeFileSync(tables, made);
    await (await page.find('[data-test=read-tables]')).sendKeys(tables);
    await page.until('read', async () =>
      /Read: .*3 of its own checks met/.test(await page.text('[data-test=tables-words]')),
    );
    await page.click('[data-test=tables-words] button');
    await page.until('own', async () => /as it is drawn/.test(await page.text('[data-test=tables-words]')));
    await page.type('Landing distance limit', '30');
    await page.until('inside', async () =>
      /[\d.]+ % stay inside the limits/.test(await page.text('[data-test=scatter-words]')),
    );
    const range = async () => Number(/, now\s+[\d.]+\s+([\d.]+)/.exec(await ledger())?.[1]);
    const before = await range();
    await page.type('Height over ground', '20');
    await page.until('farther', async () => (await range()) > before + 30);
    await page.open(`/p/${project}/flights?c=a`);
    await page.until('there', async () => /Thrown by hand/.test(await page.text('[aria-label=Scenarios]')));
    await page.until('flown again', async () => Math.abs((await range()) - before) > 30, 40_000);
  });
});

describe('hinge torque', () => {
  it('tells what each servo has left, says when one stalls, and takes it back', async () => {
    await page.open(`/p/${project}/control?c=a`);
    await page.click('[data-test=control-views-torque]');
    const row = (name: string) => new RegExp(`${name}[^\\n]*\\s(held|little reserve|the servo stalls)`);
    await page.until('torque', async () => row('Aileron\\s+Wing').test(await ledger()), 90_000);
    await page.driver.executeScript(
      `[...document.querySelectorAll('section[aria-label=Ledger] tr')].find((r) => /Aileron/.test(r.innerText)).click()`,
    );
    await page.until('chosen', async () => /Aileron/.test(await page.text('aside')));
    const servo = await page.find('[data-test=servo]');
    await servo.sendKeys('Wagtail 9');
    await page.until('stalls', async () => /Aileron[^\n]*the servo stalls/.test(await ledger()), 60_000);
    expect(await page.text('[data-chart=control-torque]')).toMatch(/servo stalls, \d+ % short/);
    await page.saved();
    await page.click('[aria-label=Undo]');
    await page.until('held again', async () => /Aileron[^\n]*\s(held|little reserve)/.test(await ledger()), 60_000);
  }, 240_000);
});
