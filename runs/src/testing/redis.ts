import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** A port that nobody listens on. */
async function freePort(): Promise<number> {
  const server = createServer();
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as { port: number };
  await new Promise((resolve) => server.close(resolve));
  return port;
}

/** A Redis of a test's own that keeps nothing on disk, so that one that is ended forgets everything. */
export class TestRedis {
  private process?: ChildProcess;
  private readonly folder = mkdtempSync(join(tmpdir(), 'redis-'));
  private constructor(readonly port: number) {}

  static async start(): Promise<TestRedis> {
    const redis = new TestRedis(await freePort());
    await redis.up();
    return redis;
  }

  get url(): string {
    return `redis://127.0.0.1:${this.port}`;
  }

  /** Starts it, empty. @throws Error where Redis is not installed. */
  async up(): Promise<void> {
    const child = spawn(
      'redis-server',
      ['--port', String(this.port), '--save', '', '--appendonly', 'no', '--dir', this.folder],
      {
        stdio: ['ignore', 'pipe', 'ignore'],
      },
    );
    this.process = child;
    await new Promise<void>((resolve, reject) => {
      child.on('error', reject);
      child.on('exit', () => reject(new Error('redis-server ended before it was ready')));
      child.stdout.on('data', (text: Buffer) => /Ready to accept/.test(String(text)) && resolve());
    });
  }

  async down(): Promise<void> {
    const child = this.process;
    if (!child || child.exitCode !== null) return;
    const ended = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGKILL');
    await ended;
  }

  async remove(): Promise<void> {
    await this.down();
    rmSync(this.folder, { recursive: true });
  }
}
