// Compiles the kernels and writes them as a module that core can load anywhere: npm run kernels -w core
import { readFileSync, writeFileSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import asc from 'assemblyscript/asc';

const here = dirname(fileURLToPath(import.meta.url));
const folder = mkdtempSync(join(tmpdir(), 'kernels-'));
const file = join(folder, 'kernels.wasm');
const { error, stderr } = await asc.main([
  join(here, 'index.ts'),
  '--outFile',
  file,
  '-O3',
  '--converge',
  '--noAssert',
  '--runtime',
  'stub',
  '--enable',
  'simd',
  '--enable',
  'bulk-memory',
  '--use',
  'abort=',
]);
if (error) {
  console.error(stderr.toString());
  process.exit(1);
}
const bytes = readFileSync(file);
rmSync(folder, { recursive: true });
writeFileSync(
  join(here, '../src/kernels/binary.ts'),
  `// Made by core/kernels/build.mjs from core/kernels/*.ts; not edited by hand.\nexport const KERNEL_BYTES =\n  '${bytes.toString('base64')}';\n`,
);
console.log(`${bytes.length} bytes`);
