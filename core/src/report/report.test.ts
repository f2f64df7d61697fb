import { keptMeanLine } from '../lift';
import { DEG } from '../numerics';
import { modelOf, sectionLookup } from '../candidate';
import { keyOf, kindOf, readDocument, reportPart, type ProjectDocument } from '../project';
import { formatNumber } from '../units';
import {
  composedReport,
  composeReport,
  designReview,
  fromTemplate,
  templateOf,
  reportChanges,
  resultsOf,
  REPORT_FIGURES,
  REPORT_TABLES,
  type CandidateResults,
  type ComposedBlock,
  type ReportBlock,
} from '.';
import { madeReportProject } from './testing/made-project';

const NONE = { level: null, flight: null };
const document = madeReportProject();
const results: Record<string, CandidateResults> = {};
beforeAll(async () => {
  for (const id of ['a', 'b']) results[id] = await resultsOf(document, id, NONE);
});
const composed = (blocks: ReportBlock[], of: ProjectDocument = document, own = results) =>
  composeReport({ id: 'r', name: 'R', blocks }, 'Project', { document: of, results: own, polars: {}, units: 'metric' })
    .blocks;
const one = <K extends ComposedBlock['kind']>(kind: K, block: ReportBlock) => {
  const [b] = composed([block]);
  expect(b.kind).toBe(kind);
  return b as Extract<ComposedBlock, { kind: K }>;
};
const figure = (of: (typeof REPORT_FIGURES)[number], subject?: string): ReportBlock => ({
  id: of,
  kind: 'figure',
  of,
  title: '',
  caption: '',
  ...(subject && { subject }),
});
const table = (of: (typeof REPORT_TABLES)[number]): ReportBlock => ({
  id: of,
  kind: 'table',
  of,
  title: '',
  caption: '',
});
const cells = (of: (typeof REPORT_TABLES)[number], row: string) =>
  one('table', table(of))
    .table.rows.find((r) => r[0].text === row)!
    .map((c) => c.text);

describe('a report', () => {
  it('tells the numbers of the model, digit by digit', () => {
    const lookup = sectionLookup(document.sections);
    const model = modelOf(document.candidates.a, lookup, (k) => keptMeanLine(lookup(k)), {
      speed: 24,
      altitude: 500,
      method: 'lattice',
      polars: null,
    });
    const value = (m: typeof model.staticMargin) => (m as { value: number }).value;
    const margin = `${formatNumber(100 * value(model.staticMargin), 1)} %`;
    expect(cells('requirements', 'static margin')[3]).toBe(margin);
    expect(cells('performance', 'static margin')[1]).toBe(margin);
    const [text] = composed([
      {
        id: 't',
        kind: 'text',
        markdown: 'It has @{A static-margin} at @{A level-angle} and CD @{ A  level-CD }; B @{B static-margin}.',
      },
    ]);
    expect(text).toMatchObject({
      unknown: [],
      markdown: expect.stringContaining(
        `It has ${margin} at ${formatNumber(value(model.levelAngle) * DEG, 2)}° and CD ${formatNumber(value(model.dragCoefficient), 5)}`,
      ) as string,
    });
    const centre = one('figure', figure('margin-centre')).figure;
    expect(centre.marks[0].y).toBeCloseTo(100 * value(model.staticMargin), 9);
    const roots = one('figure', figure('modes', 'a')).figure;
    expect(roots.series[0].points).toContainEqual([model.motion!.modes[0].re, model.motion!.modes[0].im]);
  });
  it('holds candidates against the requirements', () => {
    const { rows } = one('table', table('requirements')).table;
    const margin = rows.find((r) => r[0].text === 'static margin')!;
    expect(margin[1].text).toBe('10–30 %');
    const held = ['a', 'b'].map((id) => {
      const m = results[id].made.motion!.staticMargin;
      return m >= 0.1 && m <= 0.3 ? 'inside' : 'outside';
    });
    expect(margin.slice(3).map((c) => c.state)).toEqual(held);
    expect(new Set(held).size).toBe(2);
    expect(
      rows
        .find((r) => r[0].text === 'best glide')!
        .slice(3)
        .map((c) => c.state),
    ).toEqual(['outside', 'outside']);
  });
  it('draws level flight through the points of the analysis', () => {
    const { figure: f } = one('figure', figure('power-required', 'a'));
    const points = results.a.made.performance!.points.filter((p) => p.power !== null && p.status !== 'unflyable');
    expect(f.series[0].points.filter((p) => p !== null)).toEqual(points.map((p) => [p.speed, p.power]));
  });
  it('shows the load of the wing at the angle of level flight: its lift comes to what is carried', () => {
    const { figure: f } = one('figure', figure('span-load', 'a'));
    const { motion, evaluation } = results.a.made;
    // Half the wing by trapezia, in shares of the mean chord.
    const p = f.series[0].points as [number, number][];
    let half = p[0][0] * p[0][1];
    for (let i = 1; i < p.length; i++) half += 0.5 * (p[i][1] + p[i - 1][1]) * (p[i][0] - p[i - 1][0]);
    const { area, chord } = evaluation!.lift!.reference;
    const CL = (2 * half * chord) / area;
    expect(Math.abs(CL - motion!.trim.CL)).toBeLessThan(0.12 * motion!.trim.CL);
  });
  it('begins finished, and each of its blocks is shown or says why not', () => {
    let n = 0;
    const review = designReview(document, () => `b${n++}`);
    expect(reportPart.parse(review)).toEqual(review);
    const made = composeReport(review, 'Project', { document, results, polars: {}, units: 'us' });
    expect(composedReport.parse(JSON.parse(JSON.stringify(made))).blocks).toHaveLength(review.blocks.length);
    expect(made.blocks.filter((b) => b.kind === 'missing').map((b) => b.id)).toEqual(
      review.blocks.filter((b) => b.kind === 'figure' && /^section-[dlm]/.test(b.of)).map((b) => b.id),
    );
    const numbers = made.blocks.flatMap((b) => (b.kind === 'figure' || b.kind === 'drawing' ? [b.number] : []));
    expect(numbers).toEqual(numbers.map((_, i) => i + 1));
    // The reader's units.
    expect(JSON.stringify(made)).toContain('ft/s');
  });
  it('composes every figure and table of its lists, also of a project with nothing in it', async () => {
    const all = [
      ...REPORT_FIGURES.map((f) => figure(f)),
      ...REPORT_TABLES.map((t) => ({ ...table(t), id: `t-${t}` })),
    ] as ReportBlock[];
    for (const b of composed(all)) if (b.kind === 'missing') expect(b.reason).toMatch(/\.$/);
    const bare = { ...document, candidates: { a: { ...document.candidates.a, surfaces: [], massItems: [] } } };
    const own = { a: await resultsOf(bare, 'a', NONE) };
    for (const b of composed(all, bare, own)) if (b.kind === 'missing') expect(b.reason.length).toBeGreaterThan(10);
    for (const b of composed(all, { ...document, candidates: {} }, {})) expect(b).toBeDefined();
  });
  it('says of a candidate that went, and of a number that there is none of', () => {
    expect(one('missing', figure('lift-curve', 'gone')).reason).toMatch(/no longer in the project/);
    const [text] = composed([
      { id: 't', kind: 'text', markdown: '@{Z static-margin} @{A no-such} @{A performance.range}' },
    ]);
    expect(text).toMatchObject({ unknown: ['@{Z static-margin}', '@{A no-such}', '@{A performance.range}'] });
  });
  it('is a part of the project that opens with older documents, and refuses what is no report', () => {
    const { reports: _, ...older } = JSON.parse(JSON.stringify(document)) as ProjectDocument;
    expect(readDocument(older).reports).toEqual({});
    expect(keyOf('report', 'r')).toBe('report:r');
    expect(kindOf('report').label({ name: 'Review' })).toBe('the report Review');
    const blocks = [{ id: 'x', kind: 'text', markdown: 'a'.repeat(60_001) }];
    expect(reportPart.safeParse({ id: 'r', name: 'R', blocks }).error!.issues[0].message).toMatch(/longer than 60000/);
    expect(reportPart.safeParse({ id: 'r', name: 'R', blocks: [figure('modes'), figure('modes')] }).success).toBe(
      false,
    );
    expect(reportPart.safeParse({ id: 'r', name: '', blocks: [] }).success).toBe(false);
  });
  it('says that a method stands only until the polars come', async () => {
    const best = {
      ...document,
      brief: { ...document.brief, assumptions: { ...document.brief.assumptions, method: 'best' as const } },
    };
    const rows = (composed([table('validity')], best) as Extract<ComposedBlock, { kind: 'table' }>[])[0].table.rows;
    expect(rows.map((r) => r[1].text)).toContain('Provisional');
  });
});

describe('a template', () => {
  let n = 0;
  const newId = () => `n${n++}`;
  it('makes the same report for another project, of its own candidates', () => {
    const review = designReview(document, newId);
    const kept = JSON.parse(JSON.stringify(templateOf(review))) as unknown;
    const { a } = document.candidates;
    const made = fromTemplate(kept, { ...document, candidates: { z: { ...a, id: 'z' } } }, newId, 'Ours')!;
    expect(reportPart.parse(made)).toEqual(made);
    expect(made.blocks.filter((b) => b.kind === 'three-view')).toMatchObject([{ subject: 'z' }]);
    const kinds = (r: typeof review) => r.blocks.filter((b) => b.kind !== 'three-view').map((b) => b.kind);
    expect(kinds(made)).toEqual(kinds(review));
  });
  it('leaves out what is no block, and is none where it is no list', () => {
    expect(
      fromTemplate([{ kind: 'nonsense' }, { kind: 'heading', level: 1, text: 'H' }], document, newId, 'R')!.blocks,
    ).toMatchObject([{ text: 'H' }]);
    for (const bad of [null, 3, {}, [1], 'x']) expect(fromTemplate(bad, document, newId, 'R')).toBeNull();
  });
});

describe('two states of a report', () => {
  const state = (own: Record<string, CandidateResults>, of = document) =>
    composeReport(
      {
        id: 'r',
        name: 'R',
        blocks: [
          { id: 'h', kind: 'heading', level: 1, text: 'Head' },
          table('requirements'),
          figure('margin-centre'),
          table('masses'),
        ],
      },
      'P',
      { document: of, results: own, polars: {}, units: 'metric' },
    );
  it('that are equal have no changes', () => {
    expect(reportChanges(state(results), state(results))).toEqual([]);
  });
  it('tell each number that changed, where it stands', () => {
    const swapped = { a: results.b, b: results.a };
    const changes = reportChanges(state(results), state(swapped));
    const margin = changes.find(
      (c) => c.block === 'requirements' && c.where.includes('static margin') && c.where.includes('A Fore'),
    )!;
    expect(margin.before).toBe(cells('requirements', 'static margin')[3]);
    expect(margin.after).toBe(cells('requirements', 'static margin')[4]);
    expect(changes.some((c) => c.block === 'margin-centre' && c.where === 'curve A')).toBe(true);
  });
  it('tell what was added and removed', () => {
    const now = state(results);
    const [head, ...rest] = now.blocks;
    const changes = reportChanges(
      { ...now, blocks: [...rest, { kind: 'text', id: 'old', markdown: 'Old', unknown: [] }] },
      { ...now, blocks: [head, ...rest] },
    );
    expect(changes.map((c) => [c.block, c.after])).toEqual([
      ['h', 'added'],
      ['old', 'removed'],
    ]);
  });
});
