import { openBrowser, Page, TestServer } from './harness';
import { readFileSync, readdirSync } from 'node:fs';
const server = new TestServer(); await server.start(); const id = await server.demo();
const browser = await openBrowser(...(process.argv[3] ? [process.argv[3]] : [])); const page = new Page(browser.driver, server.base);
function cpu() {
  const t: Record<string, number> = {}; let workers = 0;
  for (const pid of readdirSync('/proc')) { if (!/^\d+$/.test(pid)) continue;
    try { if (!readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('--type=renderer')) continue;
      for (const k of readdirSync(`/proc/${pid}/task`)) { const f = readFileSync(`/proc/${pid}/task/${k}/stat`, 'utf8');
        const name = f.slice(f.indexOf('(') + 1, f.lastIndexOf(')')); const r = f.slice(f.lastIndexOf(')') + 2).split(' ');
        if (name === 'DedicatedWorker') workers++;
        t[name] = (t[name] ?? 0) + (+r[11] + +r[12]) / 100; } } catch {} }
  return { main: t.chromium ?? 0, worker: t.DedicatedWorker ?? 0, pool: t.ThreadPoolForeg ?? 0, workers };
}
let before = cpu();
for (const area of (process.argv[2] ?? 'brief,airframe,lift,airframe,airframe').split(',')) {
  const t0 = Date.now();
  await page.open('/p/' + id + '/' + area); before = cpu();
  await browser.driver.sleep(6000);
  const a = cpu(); for (const e of await browser.driver.manage().logs().get('browser')) if (e.message.includes('PROF')) console.log('   ', e.message.replace(/^.*PROF/, ''));
  console.log(area, JSON.stringify({ main: +(a.main).toFixed(1), worker: +(a.worker).toFixed(1), pool: +(a.pool).toFixed(1), workers: a.workers }), Date.now() - t0);
}
await browser.close(); await server.stop(); process.exit(0);
