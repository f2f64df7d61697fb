import { hostileText, readCoordinates, seeded } from '@veldtwind/core/formats';

/** What a reader may take: 50 ms and a microsecond a byte. */
const allowed = (length: number) => 50 + length / 1000;

/** Reads hostile texts for some seconds. @returns how many, and the largest time over what is allowed, with its text. */
export function fuzzReaders(seconds: number, seed = 1): { texts: number; worst: number; text: string } {
  const random = seeded(seed);
  const end = performance.now() + 1000 * seconds;
  let [texts, worst, text] = [0, 0, ''];
  for (; performance.now() < end; texts++) {
    const given = hostileText(random, 1_000_000);
    const begun = performance.now();
    try {
      readCoordinates(given);
    } catch (error) {
      if (!(error as { code?: string }).code) throw error;
    }
    const share = (performance.now() - begun) / allowed(given.length);
    if (share > worst) [worst, text] = [share, `${given.length} signs from ${JSON.stringify(given.slice(0, 40))}`];
  }
  return { texts, worst, text };
}
