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
    const numbers = made.blocks.flatMap((b) => ('number' in b && b.kind !== 'table' ? [b.number] : []));
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
    expect(made.blocks.filter((b) => b.kind === 'space-view')).toMatchObject([{ subject: 'z', azimuthDeg: 40 }]);
    const kinds = (r: typeof review) =>
      r.blocks.filter((b) => b.kind !== 'three-view' && b.kind !== 'space-view').map((b) => b.kind);
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

describe('blocks that hold what was kept or added', () => {
  const PIXEL =
    'data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg==';
  const own = { title: '', caption: '' };
  const attachments = {
    p: { id: 'p', name: 'model.png', data: PIXEL },
    f: { id: 'f', name: 'note.txt', data: 'data:application/octet-stream;base64,aGVsbG8=' },
  };
  const withFiles = { ...document, attachments };
  it('show a picture, and name a file with its size', () => {
    const [picture, file, wrong, gone] = composed(
      [
        { id: '1', kind: 'picture', attachment: 'p', ...own },
        { id: '2', kind: 'file', attachment: 'f', caption: 'Of the builder.' },
        { id: '3', kind: 'picture', attachment: 'f', ...own },
        { id: '4', kind: 'file', attachment: 'constructor', caption: '' },
      ],
      withFiles,
    );
    expect(picture).toMatchObject({ kind: 'picture', number: 1, title: 'model.png', data: PIXEL });
    expect(file).toMatchObject({ kind: 'file', name: 'note.txt', size: 5, caption: 'Of the builder.' });
    expect(wrong).toMatchObject({ kind: 'missing', reason: expect.stringMatching(/neither PNG nor JPEG/) });
    expect(gone).toMatchObject({ kind: 'missing', gone: true });
  });
  it('keep a table as it was, and refuse one whose rows do not fit its heading', () => {
    const kept = {
      id: 't', kind: 'kept-table' as const, from: 'Drag', at: '2026-11-30T10:00:00Z', title: 'Parts', caption: '',
      table: { columns: [{ name: 'Part' }, { name: 'CD', numbers: true }], rows: [['Wing', '0.0100']] },
    }; // prettier-ignore
    const b = one('table', kept);
    expect(b).toMatchObject({ number: 1, title: 'Parts', caption: 'Snapshot from Drag, 2026-11-30.' });
    expect(b.table.rows).toEqual([[{ text: 'Wing' }, { text: '0.0100' }]]);
    expect(reportPart.safeParse({ id: 'r', name: 'R', blocks: [kept] }).success).toBe(true);
    const wrong = { ...kept, table: { ...kept.table, rows: [['Wing']] } };
    expect(reportPart.safeParse({ id: 'r', name: 'R', blocks: [wrong] }).error!.issues[0].message).toMatch(
      /another length/,
    );
  });
  it('show a candidate in space from where it is looked at', () => {
    const view = (azimuthDeg: number, elevationDeg: number) =>
      one('view', { id: 'v', kind: 'space-view', subject: 'a', azimuthDeg, elevationDeg, ...own }).view;
    const size = ({ facets, unit }: ReturnType<typeof view>) =>
      [0, 1].map((i) => {
        const all = facets.flatMap((f) => f.points.map((p) => p[i]));
        return unit * (Math.max(...all) - Math.min(...all));
      });
    const wing = document.candidates.a.surfaces.find((s) => s.role === 'wing')!;
    const span = 2000 * wing.bays.reduce((sum, b) => sum + b.span, 0);
    // From ahead and from above the whole span is seen, from the side none of it.
    expect(size(view(0, 0))[0]).toBeCloseTo(span, 0);
    expect(size(view(0, 90))[0]).toBeCloseTo(span, 0);
    expect(size(view(90, 0))[0]).toBeLessThan(0.8 * span);
    // What faces away is left out: about half of all facets.
    const [front, back] = [view(30, 20).facets.length, view(210, -20).facets.length];
    expect(front).toBeGreaterThan(100);
    expect(Math.abs(front - back)).toBeLessThan(0.3 * front);
    for (const f of view(30, 20).facets) expect(f.shade).toBeLessThanOrEqual(24);
  });
  it('tell control loops with their margins, and studies with what came of them', () => {
    expect(one('missing', table('loops')).reason).toMatch(/control loop/);
    expect(one('missing', table('studies')).reason).toMatch(/No study was run/);
    const studies = [
      {
        name: 'Tail', kind: 'solve' as const, candidate: 'a', state: 'finished', tries: 12, createdAt: '2026-11-30T10:00:00Z',
        result: {
          kind: 'solve' as const, variables: [{ name: 'Tail: x', paths: ['x'], from: 0.9, to: 1.1, value: 1, step: 0.01 }],
          answers: ['balance.staticMargin at 26 m/s'], resumed: 0,
          solution: { index: 11, values: [1], answers: [0.125], met: true, change: [0], atBound: [] },
        },
      },
      { name: 'Later', kind: 'search' as const, candidate: 'b', state: 'running', tries: 3, createdAt: '2026-11-30T11:00:00Z', result: null },
    ]; // prettier-ignore
    const material = { document, results, polars: {}, units: 'metric' as const, studies };
    const [b] = composeReport({ id: 'r', name: 'R', blocks: [table('studies')] }, 'P', material).blocks;
    expect(b).toMatchObject({ kind: 'table' });
    const rows = (b as Extract<ComposedBlock, { kind: 'table' }>).table.rows.map((r) => r.map((c) => c.text));
    expect(rows[0]).toEqual([
      'A',
      'Tail',
      'Solution',
      'Tail: x 0.9 to 1.1',
      '12',
      'All bands are met: static margin at 26 m/s 12.5 %',
    ]);
    expect(rows[1]).toEqual(['B', 'Later', 'Search', '', '3', 'running']);
  });
});
