import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { seedsnipe } from './seedsnipe';

// The demo as one file, which the server offers and the loader sends: npm run write -w demo
writeFileSync(
  fileURLToPath(new URL('../seedsnipe.json', import.meta.url)),
  `${JSON.stringify(seedsnipe(), null, 1)}\n`,
);
