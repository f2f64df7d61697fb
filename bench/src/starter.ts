import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { DEG, RAD } from '@veldtwind/core/numerics';
import { isSolved, polarPoints, ViscousSection } from '@veldtwind/core/section-flow';
import { sourceOutline, type ShapingStep } from '@veldtwind/core/shaping';
import { ownStarterSections, STARTER_REYNOLDS, type StarterFigures } from '@veldtwind/core/starter';

// Computes the figures of the starter library's own families: npm run starter -w bench
const figures: Record<string, StarterFigures> = {};
for (const plan of ownStarterSections()) {
  const reynolds = STARTER_REYNOLDS[plan.name.split(' ')[0]];
  const source = { kind: 'recipe', source: plan.source, steps: plan.steps as ShapingStep[] } as never;
  const section = new ViscousSection(sourceOutline(source, 241));
  const alphas = Array.from({ length: 41 }, (_, i) => (i * 0.5 - 4) * RAD);
  const points = polarPoints(section, { kind: 'fixed-re', conditions: { reynolds }, alphas })
    .filter(isSolved)
    .filter((p) => p.status === 'solved');
  // Up to the first fall of the lift: what follows is beyond stall.
  let top = points[0];
  for (const p of points) {
    if (p.cl >= top.cl) top = p;
    else if (p.cl < top.cl - 0.02) break;
  }
  const flown = points.filter((p) => p.alpha <= top.alpha);
  const best = flown.reduce((a, b) => (b.cl / b.cd > a.cl / a.cd ? b : a));
  const round = (v: number, d: number) => Number(v.toFixed(d));
  figures[plan.name] = {
    reynolds,
    clMax: round(top.cl, 3),
    alphaClMaxDeg: round(top.alpha * DEG, 1),
    bestRatio: round(best.cl / best.cd, 1),
    clBest: round(best.cl, 3),
    cmBest: round(best.cm, 4),
    cdLeast: round(Math.min(...flown.map((p) => p.cd)), 5),
  };
  process.stdout.write(`${plan.name} ${points.length} of ${alphas.length} ${JSON.stringify(figures[plan.name])}\n`);
}
writeFileSync(
  fileURLToPath(new URL('../../core/src/starter/figures.json', import.meta.url)),
  `${JSON.stringify(figures, null, 2)}\n`,
);
