import { DESIGN_QUANTITIES, SURFACE_QUANTITIES } from './candidate';
import { DRAG_QUANTITIES } from './drag';
import { FACT_QUANTITIES } from './facts';
import { FLIGHT_QUANTITIES, FLOWN_QUANTITIES } from './flown';
import { LIFT_QUANTITIES, SPAN_QUANTITIES } from './lift';
import { LOOP_QUANTITIES, LOOPS_QUANTITIES } from './loop';
import { LEVEL_QUANTITIES } from './performance';
import { unitOf, type Quantity } from './quantity';
import { RESPONSES, type MadeBy } from './responses';
import { LAYER_QUANTITIES, SECTION_QUANTITIES } from './section';
import { ASYMMETRY_QUANTITIES } from './asymmetry';
import { STRENGTH_QUANTITIES, SURFACE_STRENGTH_QUANTITIES } from './strength';
import { TERMS } from './terms';

type Shown = Omit<Quantity<never>, 'of'>;
/** Made of a candidate too, under headings of their own. */
const APART: ReadonlySet<MadeBy> = new Set(['drag', 'loops', 'strength']);
const LISTS: readonly (readonly [heading: string, list: readonly Shown[]])[] = [
  ['Design point', DESIGN_QUANTITIES],
  ['Aircraft', RESPONSES.filter((q) => !APART.has(q.by))],
  ['Level flight at a speed', LEVEL_QUANTITIES],
  ['Surfaces', SURFACE_QUANTITIES],
  ['Lift', LIFT_QUANTITIES],
  ['Along the span', SPAN_QUANTITIES],
  ['Drag', DRAG_QUANTITIES],
  ['Control loops', [...LOOP_QUANTITIES, ...LOOPS_QUANTITIES]],
  ['Asymmetry', ASYMMETRY_QUANTITIES],
  ['Structure', [...SURFACE_STRENGTH_QUANTITIES, ...STRENGTH_QUANTITIES]],
  ['Flights', FLIGHT_QUANTITIES],
  ['In a flight', FLOWN_QUANTITIES],
  ['Sections', SECTION_QUANTITIES],
  ['Polars', FACT_QUANTITIES],
  ['Boundary layers', LAYER_QUANTITIES],
];

const cell = (text: string) => text.replaceAll('|', '\\|');
const table = (head: readonly string[], rows: readonly (readonly string[])[]) =>
  [head, head.map(() => '---'), ...rows].map((row) => `| ${row.map(cell).join(' | ')} |`).join('\n');

/** `docs/words.md`: every term and quantity with symbol, unit, meaning and definition, from the lists that the interface reads. */
export function wordsPage(): string {
  const quantities = LISTS.map(([heading, list]) => {
    const rows = list
      .filter((q, i) => list.findIndex((o) => o.name === q.name) === i)
      .map((q) => [q.name, q.symbol, unitOf(q, 'metric'), q.says ?? '', q.formula ?? '', `\`${q.id}\``]);
    return `## ${heading}\n\n${table(['Name', 'Symbol', 'Unit', 'Meaning', 'Definition', 'Id'], rows)}`;
  });
  const terms = [...TERMS].sort((a, b) => a.name.localeCompare(b.name));
  return [
    '# Words',
    'Each term has one sense, and each quantity one name, one symbol and one value: in fields, columns, axes, findings, files and on the command line. This page is made from the lists that the program reads (`npm run words`).',
    `## Terms\n\n${table(
      ['Term', 'Symbol', 'Meaning', 'Used in'],
      terms.map((t) => [t.name, t.symbol, t.meaning, t.used]),
    )}`,
    ...quantities,
  ]
    .join('\n\n')
    .concat('\n');
}
