import { readFileSync } from 'node:fs';
import { minVersion, satisfies } from 'semver';

interface Lock {
  packages: Record<string, { engines?: { node?: string }; optional?: boolean }>;
}
const read = (name: string) => JSON.parse(readFileSync(name, 'utf8')) as unknown;

it('every package runs on the oldest Node that the project promises', () => {
  const { engines } = read('package.json') as { engines: { node: string } };
  const oldest = minVersion(engines.node)!;
  const { packages } = read('package-lock.json') as Lock;
  const wanting = Object.entries(packages).filter(
    ([, p]) => p.engines?.node && !p.optional && !satisfies(oldest, p.engines.node),
  );
  expect(wanting.map(([name, p]) => `${name} wants ${p.engines!.node}`)).toEqual([]);
});
