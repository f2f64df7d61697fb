import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { WebDriver } from 'selenium-webdriver';
import { By, Key, openBrowser, Page, TestServer } from './harness';

const server = new TestServer();
let driver: WebDriver;
let close: () => Promise<void>;
let page: Page;
let id: string;

beforeAll(async () => {
  await server.start();
  ({ driver, close } = await openBrowser());
  page = new Page(driver, server.base);
  id = await server.demo();
});
afterAll(async () => {
  await close?.();
  await server.stop();
});

const words = () => page.text('[data-test=plan-words]');
const count = async (selector: string) => (await driver.findElements(By.css(selector))).length;
async function type(label: string, text: string): Promise<void> {
  const field = await driver.findElement(
    By.xpath(
      `//label[normalize-space(text())="${label}"]/following::input[1] | //label[starts-with(normalize-space(.),"${label}")]//input`,
    ),
  );
  await field.sendKeys(Key.chord(Key.CONTROL, 'a'), text, Key.TAB);
}

describe('Polars', () => {
  it('is empty at first, and says what to do', async () => {
    await page.open(`/p/${id}/polars`);
    await page.until('the empty state', async () => /No polars yet/.test(await page.text('main, body')));
    expect(await words()).toBe('Choose at least one section.');
    expect(await (await page.find('[data-test=run-plan]')).isEnabled()).toBe(false);
  });
  it('a plan says how many points and how long, is run, and its curves grow', async () => {
    await page.click('[data-test=plan-section-karoo-14]');
    await page.click('[data-test=plan-section-karoo-12]');
    await type('Reynolds numbers', '300 k, x');
    await page.until('what is wrong', async () => /“x” is no Reynolds number/.test(await words()));
    await type('Reynolds numbers', '300 k, 600 k');
    await type('From', '-4');
    await type('To', '10');
    await type('Step', '2');
    await page.until('32 points', async () => /^32 points; about/.test(await words()));
    await page.click('[data-test=run-plan]');
    await page.until(
      'the end of the run',
      async () => /finished, 32 of 32/.test(await page.text('[data-test=run]')),
      60_000,
    );
    await page.until('all known', async () => /32 points, all known/.test(await words()));
    await page.until('four curves', async () => (await count('[data-chart=polar-first] polyline[data-series]')) === 4);
    const table = await page.text('table');
    expect(table).toMatch(/Karoo 14/);
    expect(table).toMatch(/300 k/);
    expect(await (await page.find('[data-test=run-plan]')).isEnabled()).toBe(false);
  });
  it('a finer step adds to the same curves', async () => {
    await type('Step', '1');
    await page.until('half of it known', async () => /^60 points, 32 known/.test(await words()));
    await page.click('[data-test=run-plan]');
    await page.until('both runs', async () => (await count('[data-test=run]')) === 2);
    await page.until(
      'the end of the run',
      async () => /finished, 60 of 60/.test(await page.text('[data-test=run]')),
      60_000,
    );
    expect(await count('[data-chart=polar-first] polyline[data-series]')).toBe(4);
  });
  it('a point opens to its distributions, and steps along its curve; a reload shows it again', async () => {
    await (await page.find('table tbody tr')).click();
    await page.until('the point', async () => /cl \d/.test(await page.text('[data-test=stored-point]')));
    expect(await page.text('[data-test=stored-point]')).toMatch(/α = 0\.00°/);
    await page.until(
      'its pressure',
      async () => (await count('[data-chart=polar-pressure] polyline[data-series]')) === 4,
    );
    await page.click('[aria-label="Next point"]');
    await page.until('one degree', async () => /α = 1\.00°/.test(await page.text('[data-test=stored-point]')));
    await driver.navigate().refresh();
    await page.until('the point again', async () => /α = 1\.00°/.test(await page.text('[data-test=stored-point]')));
    await page.click('[aria-label="Close the point"]');
    await page.until('no point', async () => (await count('[data-test=stored-point]')) === 0);
  });
  it('curves are hidden, shown alone, and found', async () => {
    const chips = '[aria-label="Curves shown"] button[aria-pressed]';
    await page.click(chips);
    await page.until('three curves', async () => (await count('[data-chart=polar-first] polyline[data-series]')) === 3);
    await page.click('[data-test=show-all]');
    await page.until('four again', async () => (await count('[data-chart=polar-first] polyline[data-series]')) === 4);
    // Shown alone, beside one that is pinned.
    await page.click('[data-test=pin-curve]');
    const second = (await driver.findElements(By.css(chips)))[1];
    await driver.actions().doubleClick(second).perform();
    await page.until('two', async () => (await count('[data-chart=polar-first] polyline[data-series]')) === 2);
    await page.click('[data-test=show-all]');
    await page.click('[data-test=pin-curve]');
    await page.until('four again', async () => (await count('[data-chart=polar-first] polyline[data-series]')) === 4);
  });
  it('sections are kept and ranked by criteria, and each rejection says why', async () => {
    await page.click('[data-test=add-criterion]');
    await page.until(
      'both kept',
      async () =>
        /1\. Karoo 1\d/.test(await page.text('[data-test=kept]')) ||
        /Karoo/.test(await page.text('[data-test=rejected]')),
    );
    const field = await driver.findElement(By.css('[data-test=criterion] input'));
    await field.sendKeys(Key.chord(Key.CONTROL, 'a'), '3', Key.TAB);
    await page.until('both rejected, with the reason', async () =>
      /cl max \d\.\d+, wanted at least 3\.000/.test(await page.text('[data-test=rejected]')),
    );
    await page.click('[aria-label="Remove the criterion"]');
  });
  it('a shape that a section no longer has is marked and not judged, and comes back to life when its step goes', async () => {
    const { version, document } = await server.call<{
      version: number;
      document: { sections: Record<string, { steps: object[] }> };
    }>('GET', `/projects/${id}`);
    const judged = async () =>
      `${await page.text('[data-test=kept]')} ${(await count('[data-test=rejected]')) ? await page.text('[data-test=rejected]') : ''}`;
    await page.click('[data-test=add-criterion]');
    await page.until('judged', async () => /Karoo 14/.test(await judged()));
    await server.call('POST', `/projects/${id}/edits`, {
      baseVersion: version,
      label: 'Thinner',
      changes: [
        {
          part: 'section:karoo-14',
          value: {
            ...document.sections['karoo-14'],
            name: 'Karoo 14 thin',
            steps: [{ id: 'thin', kind: 'set-thickness', to: 0.1 }],
          },
        },
      ],
    });
    await page.until('marked', async () => /Karoo 14 thin\s+before step 1/.test(await page.text('table')));
    expect(await judged()).not.toMatch(/Karoo 14/);
    expect(await page.text('[data-test=earlier-shapes]')).toBe('2 outdated curves');
    await page.click('[data-test=earlier-shapes]');
    await page.until('put away', async () => !/before step 1/.test(await page.text('table')));
    await page.click('[data-test=earlier-shapes]');
    await page.click('[aria-label=Undo]');
    await page.until('alive again', async () => /Karoo 14/.test(await judged()));
    expect(await count('[data-test=earlier-shapes]')).toBe(0);
    await page.click('[aria-label="Remove the criterion"]');
  });
  it('one, two or four charts; limits set on an axis are remembered', async () => {
    await page.click('[data-test=charts-4]');
    await page.until('four charts', async () => (await count('[data-chart^=polar-] polyline[data-series]')) >= 16);
    await page.click('[data-test=charts-1]');
    await page.until('one chart', async () => (await count('[data-chart=polar-second]')) === 0);
    await driver.navigate().refresh();
    await page.until(
      'one chart again',
      async () => (await count('[data-chart=polar-first] polyline[data-series]')) === 4,
    );
    expect(await count('[data-chart=polar-second]')).toBe(0);
    await page.click('[data-test=charts-2]');
  });
  it('shows the lifts of the brief as bands, or those of the sections of the wing, and both transitions in one figure', async () => {
    const bands = () => page.text('[data-chart=polar-second] svg[role=img]');
    expect(await bands()).toMatch(/design/);
    const choose = async (value: string) =>
      (await page.find(`[data-test=lift-bands] option[value="${value}"]`)).click();
    await choose('climb');
    await page.until('sections', async () => /root/.test(await bands()) && /tip/.test(await bands()));
    expect(await bands()).not.toMatch(/design/);
    await choose('');
    await page.until('the aircraft', async () => /design/.test(await bands()));
    const lines = () => count('[data-chart=polar-second] polyline[data-series]');
    const axis = async (from: string, to: string) => {
      const chart = '[data-chart=polar-second]';
      await page.retry(async () =>
        (await page.find(`${chart} [aria-label="Quantity on the vertical axis: ${from}"]`)).click(),
      );
      await page.retry(async () =>
        (await driver.findElement(By.xpath(`//*[@data-chart='polar-second']//button[.='${to}']`))).click(),
      );
    };
    const before = await lines();
    await axis('cl', 'x / c transition');
    await page.until('upper and lower', async () => (await lines()) === 2 * before);
    expect(await page.text('[data-chart=polar-second]')).toMatch(/dashed: lower/);
    await axis('x / c transition', 'cl');
    await page.until('lift again', async () => (await lines()) === before);
  });
  it('draws points together that a list chooses', async () => {
    await (await page.find('table tbody tr')).click();
    await page.until('the point', async () => /cl \d/.test(await page.text('[data-test=stored-point]')));
    await page.click('[data-test=choose-points]');
    await page.click('[data-test=points-even]');
    const laid = () => count('[aria-label="Overlaid points"] li');
    await page.until('several', async () => (await laid()) >= 3);
    const many = await laid();
    const boxes = await driver.findElements(By.css('[data-test=stored-point] input[type=checkbox]'));
    const ticked: typeof boxes = [];
    for (const b of boxes) if (await b.isSelected()) ticked.push(b);
    expect(ticked.length).toBe(many);
    await ticked[0].click();
    await page.until('one less', async () => (await laid()) === many - 1);
    await page.until(
      'their pressures',
      async () => (await count('[data-chart=polar-pressure] polyline[data-series]')) === 2 * (many - 1),
    );
    await page.click('[aria-label="Close the point"]');
    await page.until('closed', async () => (await count('[data-test=stored-point]')) === 0);
  });
  it('points lie over each other, and play along the curve', async () => {
    await (await page.find('table tbody tr')).click();
    await page.until('the point', async () => /cl \d/.test(await page.text('[data-test=stored-point]')));
    await page.click('[data-test=lay-over]');
    const rows = await driver.findElements(By.css('table tbody tr'));
    await rows[1].click();
    await page.until('two points', async () => (await count('[aria-label="Overlaid points"] li')) === 2);
    await page.until(
      'two pressures',
      async () => (await count('[data-chart=polar-pressure] polyline[data-series]')) === 4,
    );
    await page.click('[data-test=play]');
    const before = await page.text('[data-test=stored-point] h2');
    await page.until('it plays', async () => (await page.text('[data-test=stored-point] h2')) !== before);
    await page.click('[data-test=play]');
    await page.click('[aria-label="Overlaid points"] button');
    await page.until('one point', async () => (await count('[aria-label="Overlaid points"] li')) === 0);
    await page.click('[aria-label="Close the point"]');
  });
  it('a measured table lies over the curves; what is no number is told; it survives a reload', async () => {
    const csv = join(server.folder, 'tunnel.csv');
    writeFileSync(csv, 'angle,lift,drag\n-2,0.1,0.009\n0,0.3,0.0088\n2,stall,0.0091\n4,0.75,0.0099\n');
    await (await driver.findElement(By.css('[data-test=measured-file]'))).sendKeys(csv);
    await page.until('its columns', async () =>
      /“stall” is no number/.test(await page.text('[data-test=measured-form]')),
    );
    expect(await page.text('[data-test=measured-form]')).toMatch(/4 rows/);
    await page.click('[data-test=measured-keep]');
    const drawn = async () => (await count('[data-chart=polar-first] [data-series^=measured-]')) > 0;
    await page.until('its points', drawn);
    await driver.navigate().refresh();
    await page.until('its points again', drawn);
    writeFileSync(csv, 'nothing here');
    await (await driver.findElement(By.css('[data-test=measured-file]'))).sendKeys(csv);
    await page.until('the refusal', async () => /two numbers/.test(await page.text('[data-test=measured-failure]')));
    await page.click('[aria-label="Remove tunnel"]');
    await page.until('none', async () => !(await drawn()));
  });
  it('facts stand over facts, and limits filter the ledger', async () => {
    await page.click('[data-test=view-facts]');
    await page.until('a line for each curve', async () => (await count('[data-chart=parallel] path[data-line]')) === 4);
    expect(await page.text('[data-test=parallel-kept]')).toBe('4 of 4 within the limits');
    const handle = await page.find('[data-chart=parallel] [role=slider]');
    for (let i = 0; i < 3; i++) await handle.sendKeys(Key.PAGE_UP);
    await page.until('fewer', async () => /^[123] of 4/.test(await page.text('[data-test=parallel-kept]')));
    const kept = Number((await page.text('[data-test=parallel-kept]'))[0]);
    await page.until('the ledger', async () => (await count('table tbody tr')) === kept);
    await handle.sendKeys(Key.ESCAPE);
    await page.until('all', async () => /^4 of 4/.test(await page.text('[data-test=parallel-kept]')));
  });
  it('a family study runs its grid, says what drives what, goes half way, and keeps members in the library', async () => {
    await page.click('[data-test=view-family]');
    await page.until('no study', async () => /No family study yet/.test(await page.text('main, body')));
    await page.click('[data-test=new-study]');
    await page.until('its size', async () => /9 sections, 9 to run/.test(await page.text('[data-test=study-words]')));
    const values = await page.find('[data-test=values-thickness]');
    await values.sendKeys(Key.chord(Key.CONTROL, 'a'), '10, 13', Key.TAB);
    const camber = await page.find('[data-test=values-camber]');
    await camber.sendKeys(Key.chord(Key.CONTROL, 'a'), '2, 4', Key.TAB);
    await page.until('a smaller grid', async () =>
      /4 sections, 4 to run/.test(await page.text('[data-test=study-words]')),
    );
    await page.click('[data-test=run-study]');
    await page.until(
      'all run',
      async () => /4 sections, all run/.test(await page.text('[data-test=study-words]')),
      60_000,
    );
    await page.until('its lines', async () => (await count('[data-chart=parallel] path[data-line]')) === 4);
    expect(await page.text('[data-test=effects]')).toMatch(/cl max/);
    const rows = await driver.findElements(
      By.css('table tbody tr[aria-selected], table tbody tr[data-row], main table tbody tr'),
    );
    const members = [];
    for (const r of rows) if (/, t 1\d, f \d/.test(await r.getText())) members.push(r);
    expect(members).toHaveLength(4);
    await members[0].click();
    await members[3].click();
    await page.until('two picked', async () => (await count('[data-test=picked-member]')) === 2);
    await page.click('[data-test=between-members]');
    await page.until('one more', async () => /5 sections, 1 to run/.test(await page.text('[data-test=study-words]')));
    await page.click('[data-test=run-study]');
    await page.until(
      'all run',
      async () => /5 sections, all run/.test(await page.text('[data-test=study-words]')),
      60_000,
    );
    await page.click('[data-test=keep-members]');
    await page.until('saved', async () => {
      const now = await server.call<{ document: { sections: Record<string, { name: string }> } }>(
        'GET',
        `/projects/${id}`,
      );
      return Object.values(now.document.sections).filter((s) => /, t 1\d, f \d/.test(s.name)).length === 2;
    });
  });
  it('a search tries members by itself towards the criteria, and goes on after a reload', async () => {
    await page.click('[data-test=add-criterion]');
    await page.until('it can be searched', async () => (await page.find('[data-test=search-start]')).isEnabled());
    await page.click('[data-test=search-start]');
    const size = async () => Number(/^(\d+) sections/.exec(await page.text('[data-test=study-words]'))?.[1]);
    await page.until('tries', async () => (await size()) >= 9, 60_000);
    await driver.navigate().refresh();
    const now = await (async () => {
      await page.until('the study again', async () => (await size()) >= 9);
      return size();
    })();
    await page.until('more tries', async () => (await size()) > now, 60_000);
    await page.until('the nearest', async () => /Nearest: .*, t /.test(await page.text('[data-test=search-best]')));
    await page.click('[data-test=search-stop]');
    await page.until('stopped', async () => (await count('[data-test=search-start]')) === 1);
    await page.click('[data-test=view-curves]');
  });
  it('the curves go out as one file and come into another project', async () => {
    const reply = await fetch(`${server.base}/api/v1/projects/${id}/curves/file`);
    const path = join(server.folder, 'set.zip');
    writeFileSync(path, Buffer.from(await reply.arrayBuffer()));
    const { id: other } = await server.call<{ id: string }>('POST', '/projects', { name: 'Other' });
    await page.open(`/p/${other}/polars`);
    await page.until('empty', async () => /No polars yet/.test(await page.text('main, body')));
    await (await driver.findElement(By.css('[data-test=curves-file]'))).sendKeys(path);
    await page.until('its curves', async () => (await count('[data-chart=polar-first] polyline[data-series]')) > 4);
    await page.open(`/p/${id}/polars`);
    await page.until('the first project', async () => (await count('[data-test=run]')) >= 2);
  });
  it('survives the death of its server in the middle of a run', async () => {
    await type('Reynolds numbers', '60 k, 80 k, 100 k, 150 k');
    await type('Step', '0.25');
    await page.until('a long plan', async () => /^456 points; about/.test(await words()));
    await page.click('[data-test=run-plan]');
    await page.until(
      'some of it',
      async () => /running, (\d{2,}) of 456/.test(await page.text('[data-test=run]')),
      60_000,
    );
    await server.kill();
    await server.start();
    await page.until(
      'it goes on to its end',
      async () => /finished, 456 of 456/.test(await page.text('[data-test=run]')),
      120_000,
    );
  });
});
