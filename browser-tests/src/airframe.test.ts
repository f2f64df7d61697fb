import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Origin } from 'selenium-webdriver';
import { By, Key, openBrowser, Page, TestServer } from './harness';

// The airframe drawn and shaped as an engineer would: with the mouse, by numbers, and out into files.
const server = new TestServer();
let browser: Awaited<ReturnType<typeof openBrowser>>;
let page: Page;
const downloads = mkdtempSync(join(tmpdir(), 'airframe-files-'));
beforeAll(async () => {
  await server.start();
  browser = await openBrowser();
  await (browser.driver as unknown as { setDownloadPath(path: string): Promise<void> }).setDownloadPath(downloads);
  page = new Page(browser.driver, server.base);
}, 120_000);
afterAll(async () => {
  await browser?.close();
  await server.stop();
  rmSync(downloads, { recursive: true, force: true });
});

const label = async (view: string) =>
  String(await (await page.find(`svg[data-test=${view}]`)).getAttribute('aria-label'));
/** Drags an element by so many pixels. */
async function drag(css: string, dx: number, dy: number): Promise<void> {
  const handle = await page.find(css);
  await page.driver
    .actions({ async: true })
    .move({ origin: handle })
    .press()
    .move({ origin: Origin.POINTER, x: Math.round(dx / 2), y: Math.round(dy / 2), duration: 60 })
    .move({ origin: Origin.POINTER, x: dx - Math.round(dx / 2), y: dy - Math.round(dy / 2), duration: 60 })
    .release()
    .perform();
}
const choose = async (css: string, value: string) => {
  const select = await page.find(css);
  await page.driver.executeScript(
    'arguments[0].scrollIntoView({block: "center"}); arguments[0].value = arguments[1]; arguments[0].dispatchEvent(new Event("change"))',
    select,
    value,
  );
};
const press = async (css: string) => {
  const el = await page.find(css);
  await page.driver.executeScript('arguments[0].scrollIntoView({block: "center"})', el);
  await page.click(css);
};
interface Candidate {
  surfaces: {
    id: string;
    plane: string;
    bays: { span: number }[];
    stations: { chord: number; edges?: object }[];
    controls?: { id: string; deflectionDeg: number }[];
    streamEffects?: { slipstream?: boolean };
  }[];
  settings?: { name: string }[];
}
const candidate = async (id: string, which = 'a') => {
  await page.saved();
  const { document } = await server.call<{ document: { candidates: Record<string, Candidate> } }>(
    'GET',
    `/projects/${id}`,
  );
  return document.candidates[which];
};

describe('a sketch', () => {
  let id = '';
  beforeAll(async () => {
    id = (await server.call<{ id: string }>('POST', '/projects', { name: 'Napkin' })).id;
  });
  it('with the mouse becomes a wing that can be analysed', async () => {
    await page.open(`/p/${id}/airframe?c=a`);
    await page.click('[data-test=first-sketch]');
    const paper = await page.find('[data-test=sketch]');
    const { width, height } = await paper.getRect();
    const at = async (x: number, y: number) => {
      await page.driver
        .actions({ async: true })
        .move({ origin: paper, x: Math.round(x - width / 2), y: Math.round(y - height / 2) })
        .click()
        .perform();
    };
    // From the middle of the page outward: half a wing.
    const middle = Number(
      await page.driver.executeScript(
        'const l = document.querySelector("svg[data-test=plan] line"); return Number(l.getAttribute("x1"))',
      ),
    );
    await at(middle + 2, 60);
    await at(middle + 150, 66);
    await at(middle + 152, 92);
    await at(middle + 1, 110);
    await page.until('four points', async () => /4 points/.test(await page.text('aside')));
    // A reload loses nothing.
    await page.driver.sleep(600);
    await page.driver.navigate().refresh();
    await page.click('[data-test=sketch-on], [data-test=first-sketch]');
    await page.until('kept', async () => /4 points/.test(await page.text('aside')));
    await page.click('[data-test=sketch-make]');
    const c = await candidate(id);
    expect(c.surfaces).toHaveLength(1);
    expect(c.surfaces[0].bays).toHaveLength(1);
    expect(c.surfaces[0].stations[0].chord).toBeGreaterThan(c.surfaces[0].stations[1].chord);
    await page.click('[data-test=area-lift]');
    await page.until('it lifts', async () => /per degree|CL/.test(await page.text('main, body')), 20_000);
    await page.click('[data-test=area-airframe]');
  });
  it('takes a picture to draw over, and says what is none', async () => {
    await page.open(`/p/${id}/airframe?c=a`);
    await page.click('[data-test=sketch-on], [data-test=first-sketch]');
    const file = join(downloads, 'napkin.png');
    writeFileSync(file, await page.picture());
    await (await page.driver.findElement(By.css('[data-test=picture-file]'))).sendKeys(file);
    await page.find('[data-test=underlay]');
    const broken = join(downloads, 'broken.png');
    writeFileSync(broken, 'no picture');
    await (await page.driver.findElement(By.css('[data-test=picture-file]'))).sendKeys(broken);
    await page.until('said', async () => /no picture that this browser can read/.test(await page.text('body')));
    await page.saved();
    await page.driver.navigate().refresh();
    await page.find('[data-test=underlay]');
  });
});

describe('shaping', () => {
  let id = '';
  beforeAll(async () => {
    id = await server.demo();
    await server.call('PUT', '/preferences/airframe-views', { value: ['plan', 'front'] });
  });
  it('shows plan and front at once, and handles move stations and chords in them', async () => {
    await page.open(`/p/${id}/airframe/wing?c=a`);
    await page.until('both', async () => /4\.800 m/.test(await label('plan')) && /4\.800 m/.test(await label('front')));
    await drag('[data-test=handle-plan-leading-1]', 12, 0);
    const wider = await candidate(id);
    expect(wider.surfaces[0].bays[0].span).toBeGreaterThan(2.42);
    expect(wider.surfaces[0].stations[1].chord).toBeCloseTo(0.25, 4);
    await drag('[data-test=handle-plan-trailing-1]', 0, 8);
    await drag('[data-test=handle-front-leading-1]', 0, -10);
    const after = await candidate(id);
    expect(after.surfaces[0].stations[1].chord).toBeGreaterThan(0.26);
    const dihedral = (after.surfaces[0].bays[0] as unknown as { dihedralDeg: number }).dihedralDeg;
    expect(dihedral).toBeGreaterThan(3.2);
    const handle = await page.find('[data-test=handle-plan-leading-1]');
    await page.driver.executeScript('arguments[0].focus()', handle);
    await handle.sendKeys(Key.ARROW_RIGHT);
    expect((await candidate(id)).surfaces[0].bays[0].span).toBeCloseTo(after.surfaces[0].bays[0].span + 0.01, 4);
    // Each is a step that can be taken back.
    for (let k = 0; k < 4; k++) {
      await page.driver.actions().keyDown(Key.CONTROL).sendKeys('z').keyUp(Key.CONTROL).perform();
      await page.driver.sleep(400);
    }
    await page.until('as it was', async () => (await candidate(id)).surfaces[0].bays[0].span === 2.4);
  });
  it('says why a handle cannot go farther, and leaves the wing as it was', async () => {
    await page.open(`/p/${id}/airframe/wing?c=b`);
    await drag('[data-test=handle-plan-leading-1]', 220, 0);
    await page.until('said', async () =>
      /cannot pass the one outboard/.test(await page.text('[data-test=handle-refusal]')),
    );
    const b = await candidate(id, 'b');
    expect(b.surfaces[0].bays[0].span + b.surfaces[0].bays[1].span).toBeCloseTo(2.65, 4);
  });
  it('holds other dimensions, and refuses what cannot be with the nearest that works', async () => {
    await page.open(`/p/${id}/airframe/wing?c=a`);
    await page.find('[data-test=hold-area]');
    await page.driver.executeScript('document.querySelector("[data-test=hold-area]").click()');
    await page.until('held', async () => (await page.value('Area')) !== '');
    await page.type('Area', '1.8');
    // The span gave way: it follows now.
    await page.until('the span follows', async () => Math.abs((await page.derived('Span')) - 1.8 / 0.325) < 2e-3);
    await page.driver.executeScript('document.querySelector("[data-test=hold-sweepTrailing]").click()');
    await page.type('Trailing sweep', '60');
    await page.until('refused', async () =>
      /Nearest that works/.test(await page.text('[data-test=dimension-refusal]')),
    );
    const c = await candidate(id);
    expect(c.surfaces[0].bays[0].span).toBeGreaterThan(1);
  });
  it('lets the edges flow into a tip, and puts stations where they are wanted', async () => {
    await page.open(`/p/${id}/airframe/wing?c=a`);
    await press('[data-test=add-station]');
    await page.find('[data-test=edge-leading]');
    await press('[data-test=blend]');
    await page.until('flows', async () => Boolean((await candidate(id)).surfaces[0].stations[1].edges));
    await page.until('offered only where there is a neighbour', async () => {
      await press('[data-test=station-2]');
      return !/outboard/.test(await page.text('[data-test=edge-leading]'));
    });
    await choose('[data-test=edge-leading]', 'held');
    await page.type('Held at', '40');
    expect((await candidate(id)).surfaces[0].stations[2].edges).toMatchObject({
      leading: { run: 'held', angleDeg: 40 },
    });
  });
  it('attaches a fin to the wing’s tip, and it follows', async () => {
    await page.open(`/p/${id}/airframe/fin?c=a`);
    await choose('[data-test=attached]', 'surface:wing');
    await page.type('Offset x', '0.1');
    await page.type('Offset y', '0');
    await page.type('Offset z', '0');
    const row = await server.call<{
      document: { candidates: Record<string, { surfaces: { id: string; attachedTo?: object }[] }> };
    }>('GET', `/projects/${id}`);
    expect(row.document.candidates.a.surfaces.find((s) => s.id === 'fin')!.attachedTo).toMatchObject({
      surface: 'wing',
      share: 1,
    });
    await page.until('at the tip', async () => {
      await page.click('[data-test=table-stations]');
      const y = await page.driver.findElements(
        By.xpath("//section[@aria-label='Ledger']//tr[td[contains(., 'Fin, root')]]/td[2]"),
      );
      return Number(await y[0].getText()) > 2;
    });
    await page.click('[data-test=table-surfaces]');
  });
  it('deflects a flap, keeps the setting by name, and Lift follows', async () => {
    await page.open(`/p/${id}/airframe/wing?c=c`);
    await page.type('Deflection', '20');
    await page.until('deflected', async () => (await candidate(id, 'c')).surfaces[0].controls![0].deflectionDeg === 20);
    const name = await page.find('[data-test=setting-name]');
    await page.driver.executeScript('arguments[0].scrollIntoView({block: "center"})', name);
    await name.sendKeys('Steep approach', Key.ENTER);
    await page.until(
      'kept',
      async () => (await candidate(id, 'c')).settings?.some((s) => s.name === 'Steep approach') === true,
    );
    await press('[data-test=setting-neutral]');
    await page.until('neutral', async () => (await candidate(id, 'c')).surfaces[0].controls![0].deflectionDeg === 0);
    await press('[data-test=setting-steep-approach]');
    await page.until('back', async () => (await candidate(id, 'c')).surfaces[0].controls![0].deflectionDeg === 20);
    await page.type('Deflection', '70');
    await page.until('refused', async () => /must be/.test(await page.text('aside [role=alert]')));
  });
  it('tells what a deflection comes to, and counts the wake and the slipstream at a tail where they are wanted', async () => {
    await page.open(`/p/${id}/airframe/tailplane?c=a`);
    await page.until('travel', async () => /\d+ % effective at −25°/.test(await page.text('[data-test=travel]')));
    const amount = async () => Number(/× ([\d.]+)/.exec(await page.text('aside'))?.[1] ?? NaN);
    await page.until('amounts', async () => (await amount()) > 0.8, 30_000);
    await press('[data-test=stream-slipstream]');
    await page.until('counted', async () =>
      (await candidate(id, 'a')).surfaces.some((s) => s.streamEffects?.slipstream === true),
    );
    await press('[data-test=stream-slipstream]');
    await page.until('left out', async () =>
      (await candidate(id, 'a')).surfaces.every((s) => s.streamEffects === undefined),
    );
  }, 180_000);
  it('picks a part in a view', async () => {
    await page.open(`/p/${id}/airframe/wing?c=c`);
    const tail = await page.find('path[data-part=tailplane]');
    await page.driver.executeScript('arguments[0].dispatchEvent(new MouseEvent("click", {bubbles: true}))', tail);
    await page.until(
      'chosen',
      async () => (await (await page.find('[data-test=surface-tailplane]')).getAttribute('aria-selected')) === 'true',
    );
    await page.type('Wanted', '0.6');
    await press('[data-test=apply-volume]');
    await page.until('as wanted', async () => Math.abs((await page.derived('Volume coefficient')) - 0.6) < 0.01);
  });
  it('looks in space in every mode without an error', async () => {
    await server.call('PUT', '/preferences/airframe-views', { value: ['space', 'plan', 'front', 'side'] });
    await page.open(`/p/${id}/airframe/wing?c=b`);
    await page.click('[data-test=layers]');
    for (const chip of [
      'skin-smooth',
      'skin-see-through',
      'space-parallel',
      'space-parts',
      'layer-panels',
      'layer-neutral',
      'skin-outlined',
    ])
      await page.click(`[data-test=${chip}]`);
    await page.find('[data-test=view-3d] canvas');
    expect((await page.driver.findElements(By.css('svg[data-test]'))).length).toBeGreaterThanOrEqual(3);
    expect(await page.errors()).toEqual([]);
  });
});

describe('how parts are drawn', () => {
  it('hides one part, and draws masses in every view', async () => {
    const project = await server.demo();
    await server.call('PUT', '/preferences/airframe-views', { value: ['space', 'plan', 'front', 'side'] });
    await page.open(`/p/${project}/airframe/wing?c=b`);
    const drawn = async (css: string) => (await page.driver.findElements(By.css(css))).length;
    await page.until('the tailplane', async () => (await drawn('path[data-part=tailplane]')) > 0);
    await page.click('[data-test=layers]');
    await page.click('[data-test=layer-masses]');
    await page.until('discs in three views', async () => (await drawn('[data-test=mass-layer]')) === 3);
    const names = await page.driver.executeScript(
      "return [...document.querySelectorAll('svg[data-test=plan] [data-test=mass-layer] title')].map((t) => t.textContent).join('; ')",
    );
    expect(names).toMatch(/Battery, [\d.]+ kg/);
    const look = (v: string) =>
      page.driver.executeScript(
        `const l = [...document.querySelectorAll('[data-test=part-looks] label')].find((e) => e.innerText.startsWith('Tailplane'));
         const s = l.querySelector('select'); s.value = arguments[0]; s.dispatchEvent(new Event('change', { bubbles: true }));`,
        v,
      );
    await look('hidden');
    await page.until('hidden', async () => (await drawn('path[data-part=tailplane]')) === 0);
    expect(await drawn('path[data-part=wing]')).toBeGreaterThan(0);
    await page.driver.navigate().refresh();
    await page.until('still hidden', async () => (await drawn('path[data-part=wing]')) > 0);
    expect(await drawn('path[data-part=tailplane]')).toBe(0);
    await page.click('[data-test=layers]');
    await look('');
    await page.until('back', async () => (await drawn('path[data-part=tailplane]')) > 0);
    expect(await page.errors()).toEqual([]);
  });
});

describe('files', () => {
  const written = async (ending: string): Promise<Buffer> => {
    const find = () => readdirSync(downloads).find((f) => f.startsWith('Seedsnipe') && f.endsWith(ending));
    await page.until(ending, () => Promise.resolve(find() !== undefined), 60_000);
    await page.driver.sleep(200);
    return readFileSync(join(downloads, find()!));
  };
  it.each([
    ['step', '.step'],
    ['candidate', '.json'],
  ])('writes %s of what is drawn', async (format, ending) => {
    const id = await server.demo();
    await page.open(`/p/${id}/airframe/wing?c=b`);
    await page.click('[data-test=export-airframe]');
    await choose('[data-test=export-format]', format);
    await page.click('[data-test=export-write]');
    const content = await written(ending);
    expect(content.length).toBeGreaterThan(1000);
    if (format === 'step') expect(content.subarray(0, 13).toString()).toBe('ISO-10303-21;');
    if (format === 'candidate')
      expect((JSON.parse(content.toString()) as { candidate: { surfaces: object[] } }).candidate.surfaces).toHaveLength(
        3,
      );
  });
  it('reads a candidate file back, with its sections', async () => {
    const id = (await server.call<{ id: string }>('POST', '/projects', { name: 'Other place' })).id;
    await page.open(`/p/${id}/airframe?c=a`);
    await page.find('[data-test=first-wing]');
    const file = join(
      downloads,
      readdirSync(downloads).find((f) => f.endsWith('.json'))!,
    );
    await (await page.driver.findElement(By.css('[data-test=candidate-file]'))).sendKeys(file);
    await page.until('drawn', async () => (await page.value('Span')) === '5.300');
    const b = await candidate(id, 'b');
    expect(b.surfaces).toHaveLength(3);
    expect(b.settings?.map((s) => s.name)).toEqual(['Neutral', 'Take-off', 'Landing']);
    await (await page.driver.findElement(By.css('[data-test=candidate-file]'))).sendKeys(join(downloads, 'broken.png'));
    await page.until('said', async () => /was not read/.test(await page.text('body')));
  });
});

describe('versions', () => {
  it('are kept by name; going back is an edit that can be undone', async () => {
    const id = await server.demo();
    await page.open(`/p/${id}/airframe/wing?c=a`);
    await page.until('drawn', async () => (await page.value('Span')) === '4.800');
    await page.click('[data-test=versions]');
    await (await page.find('[data-test=version-name]')).sendKeys('As it flew', Key.ENTER);
    await page.find('[data-test=version]');
    await page.driver.actions().sendKeys(Key.ESCAPE).perform();
    await page.type('Span', '6');
    await page.until('wider', async () => (await page.value('Span')) === '6.000');
    await page.click('[data-test=versions]');
    await page.click('[data-test=restore-version]');
    await page.until('as it flew', async () => (await page.value('Span')) === '4.800');
    await page.driver.actions().sendKeys(Key.ESCAPE).perform();
    await page.driver.actions().keyDown(Key.CONTROL).sendKeys('z').keyUp(Key.CONTROL).perform();
    await page.until('undone', async () => (await page.value('Span')) === '6.000');
  });
});
