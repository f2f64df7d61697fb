import { Command } from 'commander';
import { InvalidInput, RAD } from '@veldtwind/core/numerics';
import { runAnalysis } from '@veldtwind/core/analysis';
import { flappedOutline, polarFacts, type FlapSetting, type PolarFacts, type PolarStep } from '@veldtwind/core/polar';
import {
  amplificationOfTurbulence,
  DEFAULT_SPREAD,
  InviscidSection,
  polarPoints,
  ViscousSection,
  type PolarKind,
  type PolarRequest,
  type ViscousPoint,
} from '@veldtwind/core/section-flow';
import { readRange, readSection } from '../arguments';
import { openTrace } from '../trace';
import { FORCE_QUANTITIES } from '@veldtwind/core/quantities';
import { printJson, quantityColumns, table, writeCsv } from '../output';
import { details, POINT_COLUMNS, printedPoint, type PointRow } from '../viscous-output';

const KINDS = ['fixed-re', 'fixed-lift', 'over-re'];

interface Options {
  section: string;
  alpha?: string;
  cl?: string;
  inviscid?: boolean;
  re?: string;
  sweep?: string;
  ncrit?: string;
  ncritTop?: string;
  ncritBottom?: string;
  turbulence?: string;
  grain?: string;
  tripTop?: string;
  tripBottom?: string;
  flap?: string;
  mach: string;
  panels: string;
  details?: boolean;
  facts?: boolean;
  trace?: string;
  csv?: string;
  json?: boolean;
}

export function polarCommand(): Command {
  return new Command('polar')
    .description('Lift, drag and moment of a section over angle of attack, lift or Reynolds number')
    .requiredOption('--section <section>', 'naca:4415 or the path of a coordinate file')
    .option(
      '--alpha <range>',
      'angles in degrees: one, from:to:step, or several of both with commas, such as -2,0,4.5,8:12:0.5',
    )
    .option('--cl <range>', 'lift coefficients instead of angles')
    .option('--inviscid', 'without viscosity: no drag, no stall')
    .option(
      '--re <range>',
      'Reynolds number of the chord; several only with --sweep over-re; needed unless --inviscid is given',
    )
    .option('--sweep <kind>', 'fixed-re; fixed-lift (--re is then the Reynolds number at cl = 1); over-re', 'fixed-re')
    .option('--ncrit <number>', 'critical amplification exponent (9 where nothing is given)')
    .option('--ncrit-top <number>', 'of the upper surface, where it differs')
    .option('--ncrit-bottom <number>', 'of the lower surface, where it differs')
    .option(
      '--turbulence <percent>',
      'turbulence level of the stream, instead of --ncrit; from 1 % on it enters the layer',
    )
    .option('--grain <height>', 'roughness: height of grains all over the surface, chords')
    .option('--trip-top <x>', 'trip on the upper surface, chords')
    .option('--trip-bottom <x>', 'trip on the lower surface, chords')
    .option('--flap <x,y,deg>', 'flap: hinge at x of the chord, at y of the thickness from below, angle positive down')
    .option('--mach <number>', 'Mach number, below 0.7', '0')
    .option('--panels <count>', 'panels, 20 to 1000', String(DEFAULT_SPREAD.panels))
    .option('--details', 'with the distributions along surfaces and wake (JSON)')
    .option('--facts', 'with the facts of the curve: greatest lift, least drag, low-drag range, best ratios, zero lift')
    .option('--trace <file>', 'for developers: every iteration of every attempt, with residuals by node, as JSON lines')
    .option('--csv <file>', 'write the table to a CSV file')
    .option('--json', 'print JSON')
    .action(run);
}

function one(text: string | undefined, what: string): number | undefined {
  if (text === undefined) return undefined;
  const values = readRange(text, what);
  if (values.length > 1) throw new InvalidInput('range', `${what}: one number is wanted here, not ${values.length}.`);
  return values[0];
}

async function run(options: Options): Promise<void> {
  const given = readSection(options.section);
  if ((options.alpha === undefined) === (options.cl === undefined)) {
    throw new InvalidInput('range', 'Give either --alpha or --cl.', 'For instance --alpha -4:12:0.5.');
  }
  const mach = one(options.mach, 'mach')!;
  const panels = one(options.panels, 'panels')!;
  const spread = { ...DEFAULT_SPREAD, panels };
  let flap: FlapSetting | null = null;
  if (options.flap !== undefined) {
    const parts = readRange(options.flap, 'flap');
    if (parts.length !== 3)
      throw new InvalidInput('range', `flap: "${options.flap}" is not x,y,deg.`, 'For instance --flap 0.75,0.5,10.');
    const [x, y, deg] = parts;
    flap = { x, y, angleDeg: deg };
  }
  if (options.inviscid) {
    if (options.alpha === undefined)
      throw new InvalidInput('range', 'Without viscosity a polar runs over --alpha.', 'Give --alpha instead of --cl.');
    const { outline } = flappedOutline(given.source, flap);
    runInviscid(given.name, new InviscidSection(outline, spread), readRange(options.alpha, 'alpha'), mach, options);
    return;
  }
  if (options.re === undefined) {
    throw new InvalidInput(
      'reynolds-missing',
      'A polar needs a Reynolds number.',
      'Give --re, for instance --re 3e6, or --inviscid.',
    );
  }
  const kind = options.sweep ?? 'fixed-re';
  if (!KINDS.includes(kind))
    throw new InvalidInput('sweep-kind', `A sweep is ${KINDS.join(', ')}; "${kind}" is none of them.`);
  if (options.facts && kind === 'over-re')
    throw new InvalidInput(
      'facts',
      'The facts are of a curve over angles or lift.',
      'Leave out --facts or --sweep over-re.',
    );
  const reynolds = readRange(options.re, 're');
  if (kind !== 'over-re' && reynolds.length > 1)
    throw new InvalidInput('range', 're: several Reynolds numbers need --sweep over-re.');
  if (options.ncrit !== undefined && options.turbulence !== undefined)
    throw new InvalidInput('range', 'Give either --ncrit or --turbulence.');
  const conditions = {
    reynolds: reynolds[0],
    mach,
    criticalAmplification:
      options.turbulence !== undefined
        ? amplificationOfTurbulence(one(options.turbulence, 'turbulence')!)
        : (one(options.ncrit, 'ncrit') ?? 9),
    criticalTop: one(options.ncritTop, 'ncrit-top'),
    criticalBottom: one(options.ncritBottom, 'ncrit-bottom'),
    turbulence: one(options.turbulence, 'turbulence'),
    grain: one(options.grain, 'grain'),
    tripTop: one(options.tripTop, 'trip-top'),
    tripBottom: one(options.tripBottom, 'trip-bottom'),
  };
  const request: PolarRequest = {
    kind: kind as PolarKind,
    conditions,
    ...(options.alpha !== undefined
      ? { alphas: readRange(options.alpha, 'alpha').map((a) => a * RAD) }
      : { lifts: readRange(options.cl!, 'cl') }),
    ...(kind === 'over-re' ? { reynolds } : {}),
  };
  const trace = options.trace === undefined ? undefined : openTrace(options.trace);
  const along: (ReturnType<typeof details> | undefined)[] = [];
  const keep = (index: number, distributions: PolarStep['distributions']) => {
    if (options.details) along[index] = distributions && details(distributions);
  };
  let points: ViscousPoint[];
  if (trace) {
    // Followed step by step, it runs here and not as a stored analysis.
    const { outline, hinge } = flappedOutline(given.source, flap);
    points = polarPoints(new ViscousSection(outline, spread), request, {
      hinge,
      trace: trace.write,
      onPoint: (index, _point, distributions) => keep(index, distributions),
    });
    trace.close();
  } else {
    points = await runAnalysis(
      'polar',
      { source: given.source, flap, spread, ...request },
      {
        report: ({ detail }) => {
          const { index, distributions } = detail as PolarStep;
          keep(index, distributions);
        },
      },
    );
  }
  const rows = points.map((point, i) => ({ point, printed: printedPoint(point, request, i, along[i]) }));
  const described = {
    model: 'viscous',
    sweep: kind,
    ...conditions,
    panels,
    ...(flap ? { flap: { x: flap.x, y: flap.y, deg: flap.angleDeg } } : {}),
  };
  if (options.csv !== undefined) writeCsv(options.csv, rows, POINT_COLUMNS);
  const facts = options.facts ? polarFacts(points) : undefined;
  if (options.json)
    printJson({
      section: given.name,
      conditions: described,
      points: rows.map((r) => r.printed),
      ...(facts ? { facts } : {}),
    });
  else {
    printTable(given.name, conditions.reynolds, kind, rows);
    if (facts) printFacts(facts);
  }
}

function printTable(name: string, reynolds: number, kind: string, rows: PointRow[]): void {
  const what =
    kind === 'fixed-lift'
      ? `fixed lift force, Reynolds number ${reynolds} at cl = 1`
      : kind === 'over-re'
        ? 'over Reynolds number'
        : `Reynolds number ${reynolds}`;
  process.stdout.write(`${name}, ${what}\n`);
  const shown = POINT_COLUMNS.filter((c) => kind !== 'fixed-re' || c.title !== 'Re');
  process.stdout.write(table(rows, shown));
  for (const { printed: p } of rows) if (p.reason) process.stdout.write(`${p.alphaDeg ?? 'cl'}: ${p.reason}\n`);
}

const FACT_LINES: [string, (f: PolarFacts) => string | undefined][] = [
  [
    'greatest lift',
    (f) =>
      f.clMax === null
        ? undefined
        : `${f.clMax.toFixed(4)} at ${f.alphaClMaxDeg!.toFixed(2)}°${f.clMaxReached ? '' : ' (the sweep ends before its maximum)'}`,
  ],
  ['lift kept 3° past the greatest', (f) => f.liftKept?.toFixed(3)],
  ['least drag', (f) => (f.cdMin === null ? undefined : `${f.cdMin.toFixed(5)} at cl ${f.clAtCdMin!.toFixed(3)}`)],
  ['low-drag range', (f) => f.lowDragRange?.map((v) => v.toFixed(3)).join(' to ')],
  [
    'best cl / cd',
    (f) =>
      f.bestLiftToDrag === null
        ? undefined
        : `${f.bestLiftToDrag.toFixed(1)} at cl ${f.clAtBestLiftToDrag!.toFixed(3)}`,
  ],
  ['best cl^1.5 / cd', (f) => f.bestClimb?.toFixed(1)],
  ['zero lift', (f) => (f.alphaZeroLiftDeg === null ? undefined : `${f.alphaZeroLiftDeg.toFixed(2)}°`)],
  ['slope of lift', (f) => (f.liftSlopePerDeg === null ? undefined : `${f.liftSlopePerDeg.toFixed(4)} /°`)],
  ['moment at zero lift', (f) => f.cmZeroLift?.toFixed(4)],
  ['greatest moment', (f) => f.cmGreatest?.toFixed(4)],
  ['greatest nose-up', (f) => f.cmGreatestNoseUp?.toFixed(4)],
];

function printFacts(facts: PolarFacts): void {
  for (const [name, of] of FACT_LINES) process.stdout.write(`${name.padStart(20)}  ${of(facts) ?? 'not reached'}\n`);
}

function runInviscid(name: string, flow: InviscidSection, alphas: number[], mach: number, options: Options): void {
  const points = alphas.map((alphaDeg) => {
    const p = flow.at(alphaDeg * RAD, mach);
    return {
      alphaDeg,
      cl: p.cl,
      cd: p.cd,
      cm: p.cm,
      cpMin: p.cpMin,
      status: p.status,
      ...(p.reason ? { reason: p.reason } : {}),
    };
  });
  const columns = [
    { title: 'alpha, deg', text: (p: (typeof points)[0]) => String(p.alphaDeg) },
    ...quantityColumns(FORCE_QUANTITIES, ['cl', 'cd', 'cm', 'cp-min'], (p: (typeof points)[0]) => p),
    { title: 'status', text: (p: (typeof points)[0]) => p.status },
  ];
  if (options.csv !== undefined) writeCsv(options.csv, points, columns);
  if (options.json) {
    printJson({
      section: name,
      conditions: { model: 'inviscid', mach, panels: flow.nodes.x.length - 1 },
      points,
    });
    return;
  }
  process.stdout.write(`${name}, inviscid, Mach ${mach}: no drag and no stall in this model\n`);
  process.stdout.write(table(points, columns));
}
