import { writeFileSync } from 'node:fs';
import { designationSection } from '@veldtwind/core/project';
import { starterLibrary } from '@veldtwind/core/starter';
import { openBrowser, Page, TestServer } from './harness';

// Pictures of the main views from the demo data: npm run screenshots [-- folder [only]]
const folder = process.argv[2] ?? 'docs/screenshots';
const only = process.argv[3];
const server = new TestServer({ VELDTWIND_AUTOMATIC_POLARS: 'on' });
await server.start();
const { driver, close } = await openBrowser();
const page = new Page(driver, server.base);
try {
  const id = await server.demo();
  // The starter library beside the demo's own sections, one of them with a recipe, three compared.
  const recipe = {
    ...designationSection('karoo-12-recipe', 'Karoo 12, thinned', '2312'),
    steps: [
      { kind: 'set-thickness', id: 's1', to: 0.105 },
      { kind: 'camber-crest', id: 's2', to: 0.45 },
      { kind: 'nose-radius', id: 's3', to: 0.009, blend: 0.25 },
      { kind: 'hinge', id: 's4', x: 0.75, height: 0.5, angleDeg: 6, joint: 0.012 },
    ],
  };
  const study = {
    id: 'karoo',
    name: 'Karoo 14 family',
    base: 'karoo-14',
    numbers: [
      { id: 'thickness', values: [0.1, 0.12, 0.14] },
      { id: 'camber', values: [0.02, 0.03, 0.04] },
      { id: 'camber-crest', values: [0.35, 0.5] },
    ],
    reynolds: [4e5],
    alpha: { fromDeg: -4, toDeg: 16, stepDeg: 1 },
    criteria: [
      { fact: 'cl-max', way: 'least', value: 1.25, weight: 0 },
      { fact: 'cd-design', way: 'most', value: 0.009, weight: 1 },
    ],
  };
  // Made up, near to what is computed, with the scatter of a small tunnel.
  const measured = {
    id: 'hall',
    name: 'Wind hall',
    reynolds: 4e5,
    columns: ['alpha', 'cl', 'cd'],
    rows: [
      [-4, -0.2, 0.0112],
      [-2, 0.02, 0.0101],
      [0, 0.22, 0.0095],
      [2, 0.45, 0.0097],
      [4, 0.67, 0.0102],
      [6, 0.85, 0.0124],
      [8, 1.02, 0.0157],
      [10, 1.12, 0.0222],
    ],
  };
  await server.call('POST', `/projects/${id}/edits`, {
    baseVersion: 0,
    label: 'Starter library',
    changes: [
      ...[...starterLibrary(), recipe].map((value) => ({ part: `section:${value.id}`, value })),
      { part: 'study:karoo', value: study },
      { part: 'measurement:hall', value: measured },
    ],
  });
  await server.call('PUT', `/preferences/compare-${id.slice(0, 8)}`, {
    value: ['karoo-14', 'spekboom-11', 'kite-10-18'],
  });
  await server.call('PUT', `/preferences/section-styles-${id.slice(0, 8)}`, {
    value: { 'karoo-14': { place: 0 }, 'spekboom-11': { place: 1 }, 'kite-10-18': { place: 2 } },
  });
  // Two sections at the Reynolds numbers of the wing, and a run that is solved before its picture is taken.
  const { document } = (await server.call('GET', `/projects/${id}`)) as {
    document: { sections: Record<string, { source: unknown }> };
  };
  const plan = {
    sections: ['karoo-14', 'karoo-12'].map((key) => ({
      id: key,
      name: key === 'karoo-14' ? 'Karoo 14' : 'Karoo 12',
      source: document.sections[key].source,
    })),
    reynolds: [2e5, 4e5, 8e5],
    alphas: Array.from({ length: 45 }, (_, i) => -6 + 0.5 * i),
  };
  const run = (await server.call('POST', `/projects/${id}/runs`, { name: 'Karoo 14, Karoo 12 × 3 Re', plan })) as {
    id: string;
  };
  await server.call('PUT', '/preferences/polar-plan', {
    value: { sections: ['karoo-14', 'karoo-12'], reynolds: '200 k, 400 k, 800 k', stepDeg: 0.5, toDeg: 16 },
  });
  const done = async () =>
    ((await server.call('GET', `/projects/${id}/runs`)) as { runs: { id: string; state: string }[] }).runs.some(
      (r) => r.id === run.id && r.state === 'finished',
    );
  while (!(await done())) await driver.sleep(500);
  if (!only || 'polars-family'.startsWith(only)) {
    await page.open(`/p/${id}/polars?c=a&view=family`);
    await page.click('[data-test=run-study]');
    await page.until('the family', async () => /all run/.test(await page.text('[data-test=study-words]')), 120_000);
  }
  const views: [string, string, 'paper' | 'dusk'][] = [
    ['brief', `/p/${id}/brief?c=a`, 'paper'],
    ['sections', `/p/${id}/sections/karoo-14?c=a`, 'paper'],
    ['library', `/p/${id}/sections/kite-10-18?view=library&c=a`, 'paper'],
    ['shape', `/p/${id}/sections/karoo-12-recipe?view=shape&c=a`, 'paper'],
    ['compare-dusk', `/p/${id}/sections/karoo-14?view=compare&c=a`, 'dusk'],
    ['airframe', `/p/${id}/airframe/wing?c=a`, 'paper'],
    ['polars', `/p/${id}/polars?c=a`, 'paper'],
    ['layouts', '/layouts', 'paper'],
    ['polars-family', `/p/${id}/polars?c=a&view=family`, 'dusk'],
    ['lift', `/p/${id}/lift?c=a`, 'paper'],
    ['drag', `/p/${id}/drag?c=a`, 'paper'],
    ['balance', `/p/${id}/balance?c=a`, 'paper'],
    ['performance', `/p/${id}/performance?c=a`, 'paper'],
    ['studies', `/p/${id}/studies?c=a`, 'paper'],
    ['motion', `/p/${id}/motion?c=a`, 'paper'],
    ['control', `/p/${id}/control?c=a`, 'paper'],
    ['flights', `/p/${id}/flights?c=a`, 'paper'],
    ['report', `/p/${id}/report?c=a`, 'paper'],
    // It adds mass: what is pictured before is without it.
    ['structure', `/p/${id}/structure?c=a`, 'paper'],
  ];
  // What stands on the polars of the sections is pictured with them: they come by themselves.
  const STANDS = [
    'brief',
    'lift',
    'balance',
    'performance',
    'structure',
    'motion',
    'control',
    'drag',
    'airframe',
    'flights',
    'studies',
    'report',
  ];
  if (!only || STANDS.some((v) => v.startsWith(only))) {
    await page.open(`/p/${id}/brief?c=a`);
    const strip = () => page.find('[data-test=method]');
    await page.until(
      'polars',
      async () =>
        (await (await strip()).getAttribute('data-method')) === 'polars' && !/%/.test(await (await strip()).getText()),
      600_000,
    );
  }
  for (const [name, path, theme] of views) {
    if (only && !name.startsWith(only)) continue;
    await server.call('PUT', '/preferences/theme', { value: theme });
    await page.open(path);
    // The map is what is seen best of a study; its finer one follows.
    if (name === 'studies') await page.click('[data-test=study-view-map]');
    if (name === 'structure') {
      await page.click('[data-test=begin-structure]');
      await page.click('[data-test=structure-figure-reserve]');
    }
    if (name === 'report') {
      await page.click('[data-test=new-review]');
      const drawn =
        "return document.querySelectorAll('.report-content svg').length > 15 && document.querySelector('[data-test=report-state]').dataset.state === 'fresh'";
      await page.until('a report', () => driver.executeScript<boolean>(drawn), 120_000);
      const lift = "document.querySelectorAll('[data-kind=figure]')[4].scrollIntoView()";
      await driver.executeScript(lift);
    }
    await driver.sleep(name === 'lift' ? 12_000 : 3000);
    // Nothing is pictured while it says that it is still being made.
    await page.until(name, async () => !/being made…|[Cc]omputing…/.test(await page.text('body')), 120_000);
    await driver.sleep(name === 'flights' ? 2000 : 200);
    writeFileSync(`${folder}/${name}.png`, await page.picture());
    for (const e of await page.errors()) process.stderr.write(`${name}: ${e}\n`);
  }
} finally {
  await close();
  await server.stop();
}
