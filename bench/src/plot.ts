import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { build, preview } from 'vite';
import { openBrowser } from '@veldtwind/browser-tests/harness';

const web = resolve('web');
const shared = { configFile: join(web, 'vite.config.ts'), root: web, logLevel: 'error' as const };

/** Times of a chart with 200 curves of 100 points in the real browser, in ms: new values, and a moving cursor. */
export async function plotTimes(): Promise<Record<string, number[]>> {
  const outDir = mkdtempSync(join(tmpdir(), 'veldtwind-bench-'));
  await build({
    ...shared,
    build: {
      outDir,
      emptyOutDir: true,
      modulePreload: false,
      rollupOptions: { input: join(web, 'src/bench/plot.html') },
    },
  });
  const server = await preview({ ...shared, build: { outDir }, preview: { port: 0 } });
  const { driver, close } = await openBrowser();
  try {
    await driver.get(`${server.resolvedUrls!.local[0]}src/bench/plot.html`);
    await driver.wait(
      () => driver.executeScript<boolean>('return document.querySelectorAll("[data-series]").length === 200'),
      20000,
    );
    const times = await driver.executeAsyncScript<{ redraw: number[]; cursor: number[] }>(
      'run().then(arguments[0], (e) => arguments[0](String(e.stack)))',
    );
    return { 'chart: 200 curves × 100 points, new values': times.redraw, 'chart: of them, the cursor': times.cursor };
  } finally {
    await close();
    await server.close();
    rmSync(outDir, { recursive: true, force: true });
  }
}
