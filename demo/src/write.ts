import { mkdirSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { SAMPLES } from './samples';
import { seedsnipe } from './seedsnipe';

// The demo and the sample aircraft as files, which the server offers and the loader sends: npm run write -w demo
const put = (name: string, value: unknown) =>
  writeFileSync(fileURLToPath(new URL(`../${name}`, import.meta.url)), `${JSON.stringify(value, null, 1)}\n`);
put('seedsnipe.json', seedsnipe());
mkdirSync(fileURLToPath(new URL('../samples', import.meta.url)), { recursive: true });
for (const [place, make] of SAMPLES.entries()) {
  const sample = make();
  put(`samples/${sample.id}.json`, { place, ...sample });
}
