import { zipSync, strToU8 } from 'fflate';
import { writeSection } from '@veldtwind/core/formats';
import { designationOutline, pairsFromOutline } from '@veldtwind/core/section';
import { openBrowser, Page, TestServer } from '@veldtwind/browser-tests/harness';

const COUNT = 5000;

/** Outlines that differ: thickness, camber and crest of the four-digit form run through their range. */
function outline(k: number) {
  const digits = `${k % 7}${2 + (k % 5)}${String(6 + (k % 15)).padStart(2, '0')}`;
  const base = designationOutline(k % 7 === 0 ? `00${digits.slice(2)}` : digits, 'published', 121);
  return { x: base.x, y: base.y.map((y) => y * (0.9 + (k % 200) / 1000)) };
}

/** Times of a large library in the real interface, in ms. Needs a build. */
export async function libraryTimes(): Promise<Record<string, number[]>> {
  const server = new TestServer();
  await server.start();
  const { driver, close } = await openBrowser();
  const page = new Page(driver, server.base);
  const opened: number[] = [];
  const times: Record<string, number[]> = {};
  try {
    const { id } = await server.call<{ id: string }>('POST', '/projects', { name: 'Large library' });
    for (let first = 0; first < COUNT; first += 1000) {
      const state = await server.call<{ version: number }>('GET', `/projects/${id}`);
      const changes = Array.from({ length: 1000 }, (_, i) => {
        const k = first + i;
        const points = pairsFromOutline(outline(k)).map(([x, y]) => [Number(x.toFixed(7)), Number(y.toFixed(7))]);
        return {
          part: `section:s${k}`,
          value: {
            id: `s${k}`,
            name: `Section ${k}`,
            source: { kind: 'coordinates', points },
            steps: [],
            tags: [],
            note: '',
          },
        };
      });
      const start = performance.now();
      await server.call('POST', `/projects/${id}/edits`, { baseVersion: state.version, label: 'bench', changes });
      (times['library: 1 000 sections saved in one edit'] ??= []).push(performance.now() - start);
    }
    for (let k = 0; k < 4; k++) {
      await page.open('/');
      await driver.sleep(500);
      const start = performance.now();
      await page.open(`/p/${id}/sections?view=library`);
      await page.find('[data-test=section-card]');
      opened.push(performance.now() - start);
    }
    times[`library: ${COUNT} sections, from the address to the first cards`] = opened;
    const inside: number[] = [];
    for (let k = 0; k < 4; k++) {
      await page.open(`/p/${id}/brief`);
      await page.find('[data-test=area-sections]');
      await driver.sleep(2500);
      inside.push(
        await driver.executeAsyncScript<number>(`
          const done = arguments[0], start = performance.now();
          new MutationObserver((_, o) => { if (document.querySelector('[data-test=section-card]')) { o.disconnect(); requestAnimationFrame(() => done(performance.now() - start)); } })
            .observe(document.body, { childList: true, subtree: true });
          document.querySelector('[data-test=area-sections]').click();`),
      );
    }
    times[`library: ${COUNT} sections, from another area to the first cards`] = inside;
    const start = performance.now();
    await page.until('all measured', async () => (await page.text('[data-test=section-card]')).includes('%'), 60000);
    times['library: first card measured'] = [performance.now() - start];
    times['library: scrolled through in 40 steps, longest frame'] = [
      await driver.executeAsyncScript<number>(`
        const done = arguments[0];
        const box = document.querySelector('[data-test=library-cards]');
        let k = 0, last = performance.now(), worst = 0;
        const step = () => {
          const now = performance.now(); worst = Math.max(worst, now - last); last = now;
          if (k++ > 40) return done(worst);
          box.scrollTop = (box.scrollHeight * k) / 41;
          requestAnimationFrame(step);
        };
        requestAnimationFrame(step);`),
    ];
    const files: Record<string, Uint8Array> = {};
    for (let k = 0; k < 1000; k++)
      files[`set/${k}.txt`] = strToU8(writeSection(`File ${k}`, outline(k), k % 2 ? 'single-loop' : 'two-surface'));
    const archive = Buffer.from(zipSync(files)).toString('base64');
    const { id: other } = await server.call<{ id: string }>('POST', '/projects', { name: 'Files' });
    await page.open(`/p/${other}/sections?view=library`);
    await page.find('[data-test=drop-zone]');
    await driver.sleep(500);
    const begun = performance.now();
    await driver.executeScript(
      `const bytes = Uint8Array.from(atob(arguments[0]), (c) => c.charCodeAt(0));
       const transfer = new DataTransfer();
       transfer.items.add(new File([bytes], 'set.zip'));
       document.querySelector('[data-test=section-file]').files = transfer.files;
       document.querySelector('[data-test=section-file]').dispatchEvent(new Event('change'));`,
      archive,
    );
    await page.until(
      '1 000 read',
      async () => (await page.text('[data-test=read-report]')).includes('1000 read'),
      60000,
    );
    times['library: zip of 1 000 files read'] = [performance.now() - begun];
  } finally {
    await close();
    await server.stop();
  }
  return times;
}
