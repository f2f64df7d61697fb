import { readCoordinates, SECTION_FORMATS, writeSection } from '@veldtwind/core/formats';
import { RAD } from '@veldtwind/core/numerics';
import {
  designationOutline,
  pairsFromOutline,
  sectionFacts,
  SurfaceSpline,
  type Outline,
} from '@veldtwind/core/section';
import {
  fitClassShape,
  sourceFacts,
  sourceOutline,
  surfaceSpeeds,
  type Found,
  type SectionSource,
  type ShapingStep,
} from '@veldtwind/core/shaping';
import type { Report } from './viscous';

const formula = (designation: string, trailingEdge: 'published' | 'sharp' = 'published'): SectionSource => ({
  kind: 'designation',
  designation,
  trailingEdge,
});
const shaped = (designation: string, steps: ShapingStep[]) =>
  sourceOutline({ kind: 'recipe', source: formula(designation), steps }, 241);
const size = (v: number) => v.toExponential(1);
const furthest = (a: Outline, b: Outline) =>
  a.x.reduce((m, x, i) => Math.max(m, Math.hypot(x - b.x[i], a.y[i] - b.y[i])), 0);

/** Greatest distance of the points of one outline from the curve of another. */
function apart(a: Outline, b: Outline): number {
  const spline = new SurfaceSpline(b);
  let most = 0;
  for (let i = 0; i < a.x.length; i++) {
    let best = Infinity;
    let at = 0;
    for (let k = 0; k <= 4000; k++) {
      const s = (spline.length * k) / 4000;
      const d = Math.hypot(spline.x(s) - a.x[i], spline.y(s) - a.y[i]);
      if (d < best) [best, at] = [d, s];
    }
    const [tx, ty] = spline.tangent(at);
    const inside = at > 1e-9 && at < spline.length - 1e-9;
    most = Math.max(most, inside ? Math.abs((a.x[i] - spline.x(at)) * ty - (a.y[i] - spline.y(at)) * tx) : best);
  }
  return most;
}

/** The chapter of the validation report on shapes: mean lines, recipes, fits, files, designs to a speed. */
export function shapingChapter({ say, table }: Report): void {
  say(
    '## Shapes',
    '',
    '### Thickness and camber from points alone',
    '',
    'Of outlines by formula, 241 points; the formula’s own values beside them.',
    '',
  );
  table(
    ['section', 'thickness', 'camber', 'by formula', 'crest of camber', 'by formula'],
    ['4415', '6409', '23012', '23111', '16-309', '0012-34'].map((d) => {
      const [facts, own] = [sectionFacts(designationOutline(d, 'published', 241)), sourceFacts(formula(d))];
      return [
        d,
        facts.thickness.max.toFixed(5),
        facts.camber.max.toFixed(6),
        own.camber.max.toFixed(6),
        facts.camber.at.toFixed(4),
        own.camber.at.toFixed(4),
      ];
    }),
  );
  say('### Recipes', '', 'Distance between outlines, chords. Target for thin, then thick: 1e-9.', '');
  const other = formula('0015');
  table(
    ['steps', 'against', 'largest distance'],
    [
      [
        'thickness × 0.37, camber × −0.4, and both back',
        'the section itself',
        size(
          furthest(
            shaped('4415', [
              { kind: 'scale-thickness', by: 0.37 },
              { kind: 'scale-camber', by: -0.4 },
              { kind: 'scale-camber', by: -2.5 },
              { kind: 'scale-thickness', by: 1 / 0.37 },
            ]),
            designationOutline('4415', 'published', 241),
          ),
        ),
      ],
      [
        '4415, thickness set to 12 %',
        '4412',
        size(
          furthest(shaped('4415', [{ kind: 'set-thickness', to: 0.12 }]), designationOutline('4412', 'published', 241)),
        ),
      ],
      [
        '4415, camber set to 2 %',
        '2415',
        size(
          furthest(shaped('4415', [{ kind: 'set-camber', to: 0.02 }]), designationOutline('2415', 'published', 241)),
        ),
      ],
      [
        '4415 and 0015, mixed by half',
        '2415',
        size(
          furthest(
            shaped('4415', [{ kind: 'mix', fraction: 0.5, other }]),
            designationOutline('2415', 'published', 241),
          ),
        ),
      ],
    ],
  );
  say('### Fits by class and shape functions', '', 'Greatest distance, chords.', '');
  table(
    ['section', ...[4, 6, 8, 10, 12].map((n) => `order ${n}`)],
    ['4415', '0012', '23012'].map((d) => [
      d,
      ...[4, 6, 8, 10, 12].map((n) => size(fitClassShape(designationOutline(d, 'published', 241), n).error.max)),
    ]),
  );
  say(
    '### Files',
    '',
    'Written and read again; largest distance of a point, chords (files of another chord begin at their own foremost point, which is taken into account). Target 1e-7.',
    '',
  );
  const outline = designationOutline('4412', 'published', 161);
  const pairs = pairsFromOutline(outline);
  table(
    ['format', 'chord 1', 'chord 240'],
    SECTION_FORMATS.map((format) => [
      format,
      ...[1, 240].map((chord) => {
        const read = readCoordinates(writeSection('x', outline, format, { chord }));
        const low = pairs.reduce((a, b) => (b[0] < a[0] ? b : a));
        const length = 0.5 * (pairs[0][0] + pairs[pairs.length - 1][0]) - low[0];
        const scaled = read.diagnosis.some((d) => d.code === 'scaled');
        const same = pairs.map(([x, y]) => (scaled ? [(x - low[0]) / length, (y - low[1]) / length] : [x, y]));
        return size(
          same.reduce((m, p, i) => Math.max(m, Math.hypot(p[0] - read.points[i][0], p[1] - read.points[i][1])), 0),
        );
      }),
    ]),
  );
  say(
    '### Designs to a speed',
    '',
    'Given the speed of a known section at 2°, without viscosity: how far the shape found lies from that section. Target 5e-4 chords.',
    '',
  );
  const rows: (string | number)[][] = [];
  const design = (name: string, base: string, steps: ShapingStep[], known: Outline) => {
    let found: Found | undefined;
    const start = performance.now();
    const made = sourceOutline({ kind: 'recipe', source: formula(base), steps }, 241, {
      report: (_, f) => (found = f),
    });
    const ms = performance.now() - start;
    const before = sourceOutline({ kind: 'recipe', source: formula(base), steps: steps.slice(0, -1) }, 241);
    rows.push([
      name,
      size(apart(before, known)),
      size(apart(made, known)),
      size(found!.report!.after),
      `${(ms / 1000).toFixed(1)} s`,
    ]);
  };
  const bump: ShapingStep = { kind: 'bump', surface: 'upper', at: 0.4, height: 0.006, width: 0.5 };
  for (const d of ['4415', '0012', '23012']) {
    const known = designationOutline(d, 'published', 241);
    const target = surfaceSpeeds(known, 2 * RAD).upper.filter(([x]) => x > 0.04 && x < 0.92);
    design(
      `${d} with a bump of 0.6 %, 5 to 90 % above`,
      d,
      [bump, { kind: 'target-speed', surface: 'upper', from: 0.05, to: 0.9, angleDeg: 2, target }],
      known,
    );
  }
  for (const [from, to] of [
    ['0012', '4412'],
    ['0012', '23012'],
    ['4412', '4415'],
    ['4415', '0012'],
  ]) {
    const known = designationOutline(to, 'published', 241);
    const gap = Math.hypot(known.x[0] - known.x[240], known.y[0] - known.y[240]);
    design(
      `${from} to ${to}, whole`,
      from,
      [{ kind: 'whole-speed', angleDeg: 2, gap, ...surfaceSpeeds(known, 2 * RAD) }],
      known,
    );
  }
  table(['design', 'before', 'after', 'left of the speed, root mean square', 'time'], rows);
}
