import { spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { resolvedSource } from '@veldtwind/core/project';
import { seedsnipe } from './seedsnipe';

// Starts the server, loads the demo project through its API when there is none yet, prints the address, and stays.
const port = process.env.VELDTWIND_PORT ?? '4410';
const base = `http://127.0.0.1:${port}`;
const server = spawn(process.execPath, [fileURLToPath(new URL('../../scripts/serve.mjs', import.meta.url))], {
  stdio: ['ignore', 'inherit', 'inherit'],
  env: { ...process.env, VELDTWIND_PORT: port, VELDTWIND_LOG: process.env.VELDTWIND_LOG ?? 'warn' },
});
server.on('exit', (code) => process.exit(code ?? 1));
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => server.kill(signal));

const token = process.env.VELDTWIND_TOKEN;
const headers = { 'content-type': 'application/json', ...(token ? { authorization: `Bearer ${token}` } : {}) };

async function until<T>(work: () => Promise<T>, seconds: number): Promise<T> {
  for (let k = 0; ; k++) {
    try {
      return await work();
    } catch (error) {
      if (k > seconds * 5) throw error;
      await new Promise((done) => setTimeout(done, 200));
    }
  }
}

const { projects } = (await until(async () => (await fetch(`${base}/api/v1/projects`, { headers })).json(), 30)) as {
  projects: { id: string; name: string }[];
};
let demo = projects.find((p) => p.name === 'Seedsnipe');
if (!demo) {
  const reply = await fetch(`${base}/api/v1/projects`, { method: 'POST', headers, body: JSON.stringify(seedsnipe()) });
  if (!reply.ok) {
    process.stderr.write(`The demo project could not be loaded: ${await reply.text()}\n`);
    server.kill();
    process.exit(1);
  }
  demo = (await reply.json()) as { id: string; name: string };
  // Polars of the wing's sections at the Reynolds numbers that it flies at; they are solved while the page is opened.
  const { sections } = seedsnipe().document;
  const plan = {
    sections: ['karoo-14', 'karoo-12', 'spekboom-11'].map((id) => ({
      id,
      name: sections[id].name,
      source: resolvedSource(sections, id),
    })),
    reynolds: [2e5, 4e5, 7e5],
    alphas: Array.from({ length: 23 }, (_, i) => i - 6),
  };
  const run = await fetch(`${base}/api/v1/projects/${demo.id}/runs`, {
    method: 'POST',
    headers,
    body: JSON.stringify({ name: 'Sections of the wing × 3 Re', plan }),
  });
  if (!run.ok) process.stderr.write(`The demo's run could not be begun: ${await run.text()}\n`);
}
process.stdout.write(`\nThe demo project ${demo.name} is ready. Open  ${base}/p/${demo.id}/brief\n`);
