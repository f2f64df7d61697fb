import { By, Key, openBrowser, Page, TestServer } from './harness';

const server = new TestServer();
let page: Page;
let close: () => Promise<void>;

beforeAll(async () => {
  await server.start();
  const browser = await openBrowser();
  page = new Page(browser.driver, server.base);
  close = browser.close;
});
afterAll(async () => {
  await close?.();
  await server.stop();
});

const finding = (id: string) => page.find(`[data-finding="${id}"]`);

describe('the first three minutes with the demo', () => {
  it('opens the demo from the list of projects, in one click', async () => {
    await page.open('/');
    await page.click('[data-test=new-demo]');
    await page.until('the brief is open', async () => (await page.driver.getCurrentUrl()).includes('/brief'));
    await page.until('the design point is shown', async () =>
      /26\.0 m\/s.*600 m.*24\.0 kg/s.test(await page.text('[data-test=design-point]')),
    );
    await page.until('a finding', async () => /Trims at/.test(await (await finding('trim-angle')).getText()));
  });
  it('moves the trim angle with the tail’s incidence', async () => {
    await page.click('[data-test=area-balance]');
    const before = await page.derived('Trim angle');
    expect(before).toBeGreaterThan(3);
    await page.type('Tail incidence', '-2');
    await page.until('the trim moved up', async () => (await page.derived('Trim angle')) > before + 2);
    await page.saved();
    expect(await (await finding('trim-angle')).getAttribute('data-state')).toBe('outside');
  });
  it('solves for the incidence that meets the band', async () => {
    await page.click('[data-test=all-findings]');
    await page.click('[data-test=fix-trim-angle]');
    await page.until(
      'inside the band',
      async () => (await (await finding('trim-angle')).getAttribute('data-state')) === 'inside',
    );
    await page.until(
      'trims at the middle of the band',
      async () => Math.abs((await page.derived('Trim angle')) - 4) < 0.1,
    );
  });
  it('undoes both, and lays candidates over each other', async () => {
    await page.saved();
    await page.click('[data-test=undo]');
    await page.until('the typed value is back', async () => (await page.value('Tail incidence')) === '−2.00');
    await page.click('[data-test=undo]');
    await page.until('the first value is back', async () => (await page.value('Tail incidence')) === '−0.80');
    expect(await page.driver.findElements(By.css('[data-chart=balance-cm] [data-series]'))).toHaveLength(3);
    await page.click('[data-test=overlay-C]');
    await page.until(
      'two curves',
      async () => (await page.driver.findElements(By.css('[data-chart=balance-cm] [data-series]'))).length === 2,
    );
  });
  it('finds everything as it was after a reload', async () => {
    await page.driver.sleep(500);
    await page.driver.navigate().refresh();
    await page.until(
      'still Balance of A, with two curves',
      async () => (await page.driver.findElements(By.css('[data-chart=balance-cm] [data-series]'))).length === 2,
    );
    expect(await page.value('Tail incidence')).toBe('−0.80');
    await page.click('[data-test=redo]');
    await page.until('redo works after the reload', async () => (await page.value('Tail incidence')) === '−2.00');
    await page.click('[data-test=undo]');
    await page.until('undone', async () => (await page.value('Tail incidence')) === '−0.80');
    await page.click('[data-test=overlay-C]');
  });
  it('follows in Lift while a number moves, and says how long it took', async () => {
    await page.click('[data-test=area-lift]');
    const slope = await page.derived('Zero-lift angle');
    const input = await page.field('Twist at tip');
    await input.click();
    await input.sendKeys(...Array.from({ length: 5 }, () => Key.ARROW_DOWN));
    await page.until('washout raises the zero-lift angle', async () => (await page.derived('Zero-lift angle')) > slope);
    expect(await page.text('[data-test=lift-made]')).toMatch(/\d+ panels, vortex lattice, \d+ ms/);
    await page.saved();
    await page.driver.sleep(700);
    await page.saved();
    await page.until(
      'one edit for five nudges',
      async () => (await (await page.find('[data-test=undo]')).getAttribute('title')) === 'Undo: Twist at the tip (A)',
    );
    await page.click('[data-test=undo]');
    await page.until('the twist is back', async () => (await page.value('Twist at tip')) === '−2.50');
  });
});

describe('from an empty project to “is it stable?”', () => {
  it('starts with a brief', async () => {
    await page.open('/');
    await (await page.find('[data-test=new-name]')).sendKeys('Little glider');
    await page.click('[data-test=new-project]');
    await page.type('Speed', '40 ft/s');
    await page.until('metres a second', async () => (await page.value('Speed')) === '12.192');
    await page.type('Mass', '2*0.6 kg');
    await page.type('Static margin, from', '5 %');
    await page.saved();
    await page.until('no wing is a finding', async () =>
      (await (await finding('no-wing')).getText()).includes('No wing yet'),
    );
    expect(await (await finding('no-centre')).getText()).toContain('Centre of gravity not set');
  });
  it('makes sections from digits, and refuses what is none', async () => {
    await page.click('[data-test=area-sections]');
    const box = await page.find('[data-test=designation]');
    await box.sendKeys('4015', Key.ENTER);
    await page.until('a reason', async () => /There is no section 4015/.test(await page.text('aside [role=alert]')));
    await box.sendKeys(Key.chord(Key.CONTROL, 'a'), '4412', Key.ENTER);
    const card = () => page.text('[data-test=section-card][aria-current=true]');
    await page.until('made', async () => (await card()).includes('Section 4412'));
    await (await page.find('[data-test=designation]')).sendKeys('23111', Key.ENTER);
    await page.until('five digits, reflexed', async () => (await card()).includes('Section 23111'));
    await page.until('its own thickness', async () => (await card()).includes('11.0 %'));
  });
  it('is one click away from the demo while an area is empty', async () => {
    const own = await page.driver.getCurrentUrl();
    await page.click('[data-test=area-airframe]');
    await page.click('[data-test=open-demo]');
    await page.until('the demo’s wing', async () => (await page.value('Span')) === '4.800');
    await page.driver.get(own);
  });
  it('draws wing, tailplane and fin', async () => {
    await page.click('[data-test=area-airframe]');
    await page.click('[data-test=first-wing]');
    await page.click('[data-test=add-tailplane]');
    await page.click('[data-test=add-fin]');
    await page.click('[data-test=surface-wing]');
    await page.type('Span', '1.8 m');
    await page.until('span follows', async () => (await page.value('Span')) === '1.800');
    await page.type('Chord', '8 in');
    await page.until('inches are read', async () => (await page.value('Chord')) === '0.2032');
    await page.until('plan drawn', async () =>
      /1\.800 m/.test((await (await page.find('[data-test=plan]')).getAttribute('aria-label')) ?? ''),
    );
  });
  it('gives it a fuselage by cross-sections, with its area and volume, and takes it away', async () => {
    const stations = async () => (await page.driver.findElements(By.css('[data-test=body-station]'))).length;
    await page.click('[data-test=add-body]');
    await page.until('its stations', async () => (await stations()) === 5);
    const before = await page.derived('Volume');
    expect(before).toBeGreaterThan(0);
    await page.click('[aria-label="Add a station behind 2"]');
    await page.until('one more', async () => (await stations()) === 6);
    await page.click('[aria-label="Mirrored"], [role=switch]');
    await page.until('twice the volume', async () => Math.abs((await page.derived('Volume')) / before - 2) < 0.2);
    await page.click('[data-test=remove-body]');
    await page.until('none', async () => (await stations()) === 0);
  });
  it('refuses a span of zero with the limit, and offers the nearest', async () => {
    await page.type('Span', '-1');
    await page.until('refused', async () => /must be 0\.001 m or more/.test(await page.text('aside [role=alert]')));
    const input = await page.field('Span');
    await input.sendKeys(Key.ESCAPE);
    expect(await page.value('Span')).toBe('1.800');
    await page.type('Span', 'wide');
    await page.until('not a quantity', async () => /cannot be worked out/.test(await page.text('aside [role=alert]')));
    await (await page.field('Span')).sendKeys(Key.ESCAPE);
  });
  it('balances once it has masses, never before', async () => {
    await page.click('[data-test=area-balance]');
    await page.until('no margin yet', async () => Number.isNaN(await page.derived('Static margin')));
    await page.click('[data-test=add-mass]');
    await page.type('Mass', '1.2');
    await page.type('x, aft', '0.02');
    await page.until(
      'stable and trimmed',
      async () => (await page.derived('Static margin')) > 5 && (await page.derived('Trim speed')) > 0,
    );
    expect(await (await finding('static-margin')).getAttribute('data-state')).toBe('inside');
    const margin = await page.derived('Static margin');
    await page.type('x, aft', '0.04');
    await page.until('less margin further aft', async () => (await page.derived('Static margin')) < margin - 5);
  });
  it('keeps what it was asked to keep', async () => {
    await page.saved();
    await page.driver.navigate().refresh();
    await page.until('still balanced', async () => (await page.derived('Static margin')) > 0);
  });
});

describe('sections', () => {
  let id: string;
  beforeAll(async () => {
    id = await server.demo();
    await page.open(`/p/${id}/sections/karoo-14`);
  });
  it('solve the flow with viscosity live while the angle moves', async () => {
    await page.until('solved', async () => /solved in/.test(await page.text('[data-test=viscous-status]')));
    const cl = await page.derived('Lift coefficient');
    const cd = await page.derived('Drag coefficient');
    expect(cl).toBeGreaterThan(0.5);
    expect(cd).toBeGreaterThan(0.006);
    expect(cd).toBeLessThan(0.012);
    const input = await page.field('Angle of attack');
    await input.click();
    await input.sendKeys(Key.chord(Key.SHIFT, Key.ARROW_UP));
    await page.until('2.5° more', async () => (await page.derived('Lift coefficient')) > cl + 0.2);
    await page.until('more drag', async () => (await page.derived('Drag coefficient')) > cd);
    expect(await page.text('[data-chart=section-pressure] figcaption')).toMatch(/with viscosity.*thin: without/);
    expect(await page.driver.findElements(By.css('[data-test=displaced]'))).not.toHaveLength(0);
    expect(await page.driver.findElements(By.css('[data-test=mark-transition]'))).not.toHaveLength(0);
  });
  it('bring transition forward with a trip, and keep the conditions over a reload', async () => {
    const natural = await page.derived('Transition, upper');
    await page.type('Trip above', '0.06');
    await page.until('tripped', async () => Math.abs((await page.derived('Transition, upper')) - 0.06) < 0.005);
    expect(natural).toBeGreaterThan(0.1);
    await page.driver.navigate().refresh();
    await page.until('still tripped', async () => Math.abs((await page.derived('Transition, upper')) - 0.06) < 0.005);
    await page.type('Trip above', Key.BACK_SPACE);
    await page.until('free again', async () => (await page.derived('Transition, upper')) > 0.1);
  });
  it('refuse a Reynolds number out of range with the nearest that works', async () => {
    const before = await page.value('Reynolds number');
    await page.type('Reynolds number', '100');
    await page.until('refused', async () => /must be 10000 or more/.test(await page.text('aside')));
    await page.type('Reynolds number', '300000');
    await page.until('taken', async () => (await page.value('Reynolds number')) !== before);
    await page.until('subtitle', async () =>
      /Re 300.000/.test(await page.text('[data-chart=section-pressure] figcaption')),
    );
  });
  it('hold a lift instead of the angle', async () => {
    await page.driver.findElement(By.xpath("//aside//*[@role='radio' and contains(., 'lift')]")).click();
    await page.type('Lift coefficient', '0.7');
    await page.until('the angle follows', async () => (await page.derived('Angle of attack')) > 2);
    await page.driver.findElement(By.xpath("//aside//*[@role='radio' and contains(., 'angle')]")).click();
  });
  it('deflect a flap: more lift, and a hinge moment against it', async () => {
    await page.until('solved', async () => /solved in/.test(await page.text('[data-test=viscous-status]')));
    const cl = await page.derived('Lift coefficient');
    await page.click('[data-test=flap]');
    await page.until('hinge moment', async () => (await page.derived('Hinge moment, flap chord')) < -0.02);
    expect(await page.derived('Lift coefficient')).toBeGreaterThan(cl + 0.1);
    await page.click('[data-test=flap]');
  });
  it('tell an inviscid result apart from a viscous one', async () => {
    await page.click('[data-test=with-viscosity]');
    await page.until('marked', async () =>
      /inviscid.*no boundary layer, no stall/.test(await page.text('[data-chart=section-pressure] figcaption')),
    );
    expect(await page.driver.findElements(By.css('[data-test=displaced]'))).toHaveLength(0);
    await page.click('[data-test=with-viscosity]');
  });
  it('cannot be removed while a wing uses them', async () => {
    await page.open(`/p/${id}/sections/karoo-14`);
    await page.click('[data-test=remove-section]');
    await page.until('says who uses it', async () => /used by Wing of A/.test(await page.text('[data-sonner-toast]')));
    expect(await page.text('h1')).toBe('Karoo 14');
  });
});

it('left no error in the console: nothing was blocked, nothing thrown', async () => {
  expect((await page.errors()).filter((e) => !/status of 4\d\d/.test(e))).toEqual([]);
});

describe('a starting layout', () => {
  it('is refused with what works, then made: in trim, stable, and nothing found against it', async () => {
    await page.open('/');
    await page.click('[data-test=layouts]');
    await page.click('[data-test=layout-canard]');
    await page.until('its numbers', async () => (await page.value('Mass')) === '10.00');
    await page.type('Span, at most', '0.9');
    await page.click('[data-test=make-layout]');
    await page.until('a reason', async () => /too small.*Allow/s.test(await page.text('[role=alert]')));
    await page.type('Span, at most', '2.6');
    await page.click('[data-test=make-layout]');
    await page.until('the airframe', async () => (await page.driver.getCurrentUrl()).endsWith('/airframe'));
    await page.until('a margin', async () => /Static margin/.test(await page.text('[data-test=findings]')));
    await page.click('[data-test=area-motion]');
    await page.until('modes', async () => /Dutch roll/.test(await page.text('main')));
    await page.until(
      'findings of motion',
      async () => Number((await page.text('[data-test=all-findings]')).slice(4)) > 4,
    );
    // The worst come first.
    const states = await page.driver.findElements(By.css('[data-finding]'));
    expect(states.length).toBe(3);
    for (const f of states) expect(await f.getAttribute('data-state')).toMatch(/inside|fact/);
    expect(await page.errors()).toEqual([]);
  });
  it('becomes one more candidate of a project, for the numbers of its brief', async () => {
    const id = await server.demo();
    await page.open(`/p/${id}/airframe?c=a`);
    await page.click('[data-test=candidate-menu]');
    await page.click('[data-test=layout-candidate]');
    await page.click('[data-test=layout-plank]');
    await page.until('the numbers of the brief', async () => (await page.value('Mass')) === '24.00');
    await page.click('[data-test=make-layout]');
    await page.until('its airframe', async () => /airframe\?c=d/.test(await page.driver.getCurrentUrl()));
    await page.find('[data-test=candidate-D]');
    await page.until('a margin', async () => /Static margin/.test(await page.text('[data-test=findings]')));
    await page.saved();
    const { document } = await server.call<{
      document: { candidates: Record<string, { name: string; note: string }>; brief: { mass: number } };
    }>('GET', `/projects/${id}`);
    expect(document.candidates.d.note).toMatch(/^Starting layout: /);
    expect(document.brief.mass).toBe(24);
    await page.click('[data-test=undo]');
    await page.until(
      'gone',
      async () => (await page.driver.findElements(By.css('[data-test=candidate-D]'))).length === 0,
    );
    expect(await page.errors()).toEqual([]);
  });
});
