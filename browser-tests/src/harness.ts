import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { Builder, By, Key, logging, until, type WebDriver, type WebElement } from 'selenium-webdriver';
import { Options, ServiceBuilder } from 'selenium-webdriver/chrome';

export { By, Key, until };

/** A server of our own on a free port, with its own database; it can be killed and started again on the same file. */
export class TestServer {
  private child?: ChildProcess;
  readonly folder = mkdtempSync(join(tmpdir(), 'veldtwind-'));
  base = '';
  private port = '0';

  /** @param env what the server is told beside its port and file. */
  constructor(private readonly env: Readonly<Record<string, string>> = {}) {}

  async start(): Promise<void> {
    await new Promise<void>((done, fail) => {
      this.child = spawn(process.execPath, [resolve('scripts/serve.mjs')], {
        env: {
          ...process.env,
          VELDTWIND_PORT: this.port,
          VELDTWIND_DATABASE: join(this.folder, 'test.sqlite'),
          VELDTWIND_LOG: 'warn',
          // Only the suite that looks at them wants the processor for polars that nobody asked for.
          VELDTWIND_AUTOMATIC_POLARS: 'off',
          ...this.env,
        },
      });
      this.child.stdout!.on('data', (d: Buffer) => {
        const m = /http:\/\/[\d.]+:(\d+)/.exec(String(d));
        if (m) {
          this.port = m[1];
          this.base = `http://127.0.0.1:${m[1]}`;
          done();
        }
      });
      this.child.stdout!.on('data', (d) => this.note(String(d)));
      this.child.stderr!.on('data', (d) => {
        this.note(String(d));
        process.stderr.write(String(d));
      });
      this.child.on('exit', (code) => fail(new Error(`the server ended with ${code}`)));
    });
  }

  /** What the server complained of: warnings and errors of its log, and all else that it did not say as log. */
  readonly complaints: string[] = [];
  private note(text: string): void {
    for (const line of text.split('\n')) if (line && !line.startsWith('Veldtwind: ')) this.complaints.push(line);
  }
  /** The server's process. */
  get pid(): number {
    return this.child!.pid!;
  }

  async kill(signal: NodeJS.Signals = 'SIGKILL'): Promise<void> {
    const child = this.child;
    if (!child || child.exitCode !== null) return;
    await new Promise<void>((done) => {
      child.removeAllListeners('exit');
      child.on('exit', () => done());
      child.kill(signal);
    });
  }

  async call<T>(method: string, path: string, body?: unknown): Promise<T> {
    const res = await fetch(`${this.base}/api/v1${path}`, {
      method,
      headers: {
        'content-type': 'application/json',
        ...(this.env.VELDTWIND_TOKEN && { authorization: `Bearer ${this.env.VELDTWIND_TOKEN}` }),
      },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
    return (await res.json()) as T;
  }

  /** A fresh copy of the demo. @returns the project's id. */
  async demo(): Promise<string> {
    return (await this.call<{ id: string }>('POST', '/projects', { name: 'Seedsnipe', from: 'demo' })).id;
  }

  async stop(): Promise<void> {
    await this.kill('SIGTERM');
    rmSync(this.folder, { recursive: true, force: true });
  }
}

/** Headless Chromium at 1280 × 800 with a profile of its own. @param more arguments of its own. */
export async function openBrowser(...more: string[]): Promise<{ driver: WebDriver; close: () => Promise<void> }> {
  const profile = mkdtempSync(join(tmpdir(), 'chromium-'));
  const options = new Options();
  options.setChromeBinaryPath(process.env.CHROMIUM ?? '/usr/bin/chromium');
  options.addArguments(
    '--headless',
    '--no-sandbox',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    // The page is painted by the processor; only the space view is drawn by the emulated graphics card, which takes far longer.
    '--disable-gpu-compositing',
    '--use-angle=swiftshader',
    '--enable-unsafe-swiftshader',
    '--window-size=1280,800',
    '--hide-scrollbars',
    `--user-data-dir=${profile}`,
    ...more,
  );
  const prefs = new logging.Preferences();
  prefs.setLevel(logging.Type.BROWSER, logging.Level.ALL);
  options.setLoggingPrefs(prefs);
  const driver = await new Builder()
    .forBrowser('chrome')
    .setChromeOptions(options)
    .setChromeService(new ServiceBuilder(process.env.CHROMEDRIVER ?? '/usr/bin/chromedriver'))
    .build();
  // The window's frame takes some of its size, also without a head.
  const [w, h] = (await driver.executeScript('return [innerWidth, innerHeight]')) as [number, number];
  await driver
    .manage()
    .window()
    .setRect({ width: 1280 + (1280 - w), height: 800 + (800 - h) });
  return {
    driver,
    close: async () => {
      await driver.quit();
      rmSync(profile, { recursive: true, force: true });
    },
  };
}

/** How long a test waits for what must come, ms: a bound for slow machines, not a pace. */
const PATIENCE = 45_000;

/** What a test does to the page, in a user's words. */
export class Page {
  constructor(
    readonly driver: WebDriver,
    readonly base: string,
  ) {}

  async open(path: string): Promise<void> {
    await this.driver.get(this.base + path);
  }
  find(css: string, ms = PATIENCE): Promise<WebElement> {
    return this.driver.wait(until.elementLocated(By.css(css)), ms, `nothing matches ${css}`);
  }
  async click(css: string): Promise<void> {
    await this.retry(async () => (await this.find(css)).click());
  }
  async text(css: string): Promise<string> {
    return (await this.find(css)).getText();
  }
  /** The input of the field with this label. */
  async field(label: string, within = 'aside'): Promise<WebElement> {
    const xpath = `//${within}//label[starts-with(normalize-space(.), '${label}')]`;
    const el = await this.driver.wait(until.elementLocated(By.xpath(xpath)), PATIENCE, `no field ${label}`);
    return this.driver.findElement(By.id(String(await el.getAttribute('for'))));
  }
  async type(label: string, value: string, end: string = Key.ENTER): Promise<void> {
    await this.retry(async () => {
      const input = await this.field(label);
      await this.driver.executeScript('arguments[0].scrollIntoView({block: "center"})', input);
      await input.click();
      await input.sendKeys(Key.chord(Key.CONTROL, 'a'), value, end);
    });
  }
  async value(label: string): Promise<string> {
    return String(await (await this.field(label)).getAttribute('value'));
  }
  /** The number of a quantity that follows. */
  async derived(label: string): Promise<number> {
    const row = await this.driver.wait(
      until.elementLocated(By.xpath(`//aside//div[span[1][normalize-space(.)='${label}']]/span[2]`)),
      PATIENCE,
      `no quantity ${label}`,
    );
    return Number((await row.getText()).replace('−', '-'));
  }
  async retry<T>(work: () => Promise<T>, times = 6): Promise<T> {
    for (let k = 1; ; k++) {
      try {
        return await work();
      } catch (error) {
        if (k >= times) throw error;
        await this.driver.sleep(150);
      }
    }
  }
  async until(what: string, check: () => Promise<boolean>, ms = PATIENCE): Promise<void> {
    await this.driver.wait(
      async () => {
        try {
          return await check();
        } catch {
          return false;
        }
      },
      Math.max(ms, PATIENCE),
      `never came true: ${what}`,
    );
  }
  saved(): Promise<void> {
    return this.until('saved', async () => (await this.text('[data-test=saving]')) === 'Saved');
  }
  /** Messages of the browser's console that are errors. */
  async errors(): Promise<string[]> {
    const entries = await this.driver.manage().logs().get(logging.Type.BROWSER);
    return entries.filter((e) => e.level.name === 'SEVERE').map((e) => e.message);
  }
  async picture(): Promise<Buffer> {
    return Buffer.from(await this.driver.takeScreenshot(), 'base64');
  }
}
