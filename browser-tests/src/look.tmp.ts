import { writeFileSync } from 'node:fs';
import { openBrowser, Page, TestServer } from './harness';
const server = new TestServer();
await server.start();
const { driver, close } = await openBrowser();
const page = new Page(driver, server.base);
const shots = process.argv.slice(2);
try {
  const id = await server.demo();
  await page.open(`/p/${id}/sections?c=a`);
  await driver.sleep(1500);
  await page.click('[data-test=starter-take]');
  await driver.sleep(3500);
  await server.call('PUT', '/preferences/theme', { value: process.env.THEME ?? 'paper' });
  const steps = [{kind:'set-thickness',to:0.12,id:'a'},{kind:'camber-crest',to:0.5,id:'b'},{kind:'bump',surface:'upper',at:0.35,height:0.008,width:0.3,id:'c'},{kind:'hinge',x:0.78,height:0.5,angleDeg:6,joint:0.012,id:'d',off:true}];
  const state = await server.call<any>('GET', `/projects/${id}`);
  const karoo = state.document.sections['karoo-12'];
  await server.call('POST', `/projects/${id}/edits`, { baseVersion: state.version, label: 'x', changes: [{ part: 'section:karoo-12', value: { ...karoo, steps } }] });
  for (const s of shots) {
    const [name, path, click] = s.split('|');
    await page.open(path.replace('ID', id));
    await driver.sleep(Number(process.env.WAIT ?? 2500));
    if (click) for (const c of click.split(';')) { try { await page.click(c); } catch (e) { console.log('click', c, (e as Error).message); } await driver.sleep(1500); }
    writeFileSync(`/tmp/w/${name}.png`, await page.picture());
    for (const e of await page.errors()) process.stderr.write(`${name}: ${e}\n`);
  }
} finally { await close(); await server.stop(); }
