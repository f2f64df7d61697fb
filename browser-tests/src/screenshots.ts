import { writeFileSync } from 'node:fs';
import { openBrowser, Page, TestServer } from './harness';

// Pictures of the main views from the demo data: npm run screenshots [-- folder [only]]
const folder = process.argv[2] ?? 'docs/screenshots';
const only = process.argv[3];
const server = new TestServer();
await server.start();
const { driver, close } = await openBrowser();
const page = new Page(driver, server.base);
try {
  const id = await server.demo();
  const views: [string, string, 'paper' | 'dusk'][] = [
    ['brief', `/p/${id}/brief?c=a`, 'paper'],
    ['sections', `/p/${id}/sections/karoo-14?c=a`, 'paper'],
    ['airframe', `/p/${id}/airframe/wing?c=a`, 'paper'],
    ['lift', `/p/${id}/lift?c=a`, 'paper'],
    ['balance', `/p/${id}/balance?c=a`, 'paper'],
    ['lift-dusk', `/p/${id}/lift?c=a`, 'dusk'],
    ['airframe-dusk', `/p/${id}/airframe/wing?c=b`, 'dusk'],
    ['projects', '/', 'paper'],
  ];
  for (const [name, path, theme] of views) {
    if (only && !name.startsWith(only)) continue;
    await server.call('PUT', '/preferences/theme', { value: theme });
    await page.open(path);
    await driver.sleep(3000);
    writeFileSync(`${folder}/${name}.png`, await page.picture());
    for (const e of await page.errors()) process.stderr.write(`${name}: ${e}\n`);
  }
} finally {
  await close();
  await server.stop();
}
