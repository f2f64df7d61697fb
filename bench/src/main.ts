import { designationOutline } from '@veldtwind/core/section';
import {
  dimensionsOf,
  DRAWING_VIEWS,
  meanLineCache,
  partMeshes,
  planformOf,
  setDimension,
  standing,
  surfaceFacts,
  surfaceLines,
  type LiftingSurface,
} from '@veldtwind/core/airframe';
import { flowState } from '@veldtwind/core/atmosphere';
import { dragBuildUp } from '@veldtwind/core/drag';
import {
  airframeMotion,
  CandidateFlyer,
  controlNames,
  evaluateCandidate,
  flightTables,
  flownScenario,
  flownVehicle,
  sectionLookup,
  inputsOfMotion,
  performance as levelPerformance,
  performanceLimits,
  performanceMap,
} from '@veldtwind/core/candidate';
import { levelPoint } from '@veldtwind/core/performance';
import { studyLoop } from '@veldtwind/core/control';
import { kernels } from '@veldtwind/core/kernels';
import { analyseLift, analyseThick, DEFAULT_PANELS, keptMeanLine, makeLattice, polarNeeds } from '@veldtwind/core/lift';
import { gathered, steadySweep, sweepFor } from '@veldtwind/core/flight';
import { factorise, RAD } from '@veldtwind/core/numerics';
import { solveCurve } from '@veldtwind/core/polar';
import { readCoordinates, writeCoordinates } from '@veldtwind/core/formats';
import { DEFAULT_SPREAD, InviscidSection, polarPoints, ViscousSection } from '@veldtwind/core/section-flow';
import { seedsnipe } from '@veldtwind/demo/seedsnipe';
import { fly } from '@veldtwind/core/simulation';
import { libraryTimes } from './library';
import { sourceFacts, sourceOutline, type SectionSource, type ShapingStep } from '@veldtwind/core/shaping';
import { openingTimes, pageTimes } from './page';
import { fuzzReaders } from './fuzz';
import { bytesOfProject, load } from './load';
import { plotTimes } from './plot';
import { printSkins } from './skins';
import { LOW_REYNOLDS, LOW_SECTIONS, printReach } from './reach';
import { breakThings } from '@veldtwind/browser-tests/faults/rig';
import { soak } from '@veldtwind/browser-tests/soak';

/** Medians of repeated runs, as a table: npm run bench [-- --page --plot --library --fuzz --soak --faults --load --reach --skins]. Times vary with the machine; compare rows, and runs on one machine. */
interface Row {
  what: string;
  median: number;
  least: number;
  most: number;
}
const rows: Row[] = [];

function time(what: string, work: () => unknown, runs = 15): void {
  for (let k = 0; k < 3; k++) work();
  const times: number[] = [];
  for (let k = 0; k < runs; k++) {
    const start = performance.now();
    work();
    times.push(performance.now() - start);
  }
  add(what, times);
}
function add(what: string, times: number[]): void {
  if (times.length === 0) return;
  const sorted = times.slice().sort((a, b) => a - b);
  rows.push({ what, median: sorted[Math.floor(sorted.length / 2)], least: sorted[0], most: sorted[sorted.length - 1] });
}

const wing = (span: number): LiftingSurface => ({
  id: 'wing',
  name: 'Wing',
  role: 'wing',
  plane: 'horizontal',
  mirrored: true,
  position: { x: 0, y: 0, z: 0 },
  incidenceDeg: 0,
  stations: [
    { chord: 1, twistDeg: 0, section: 'naca:2411' },
    { chord: 0.5, twistDeg: -2, section: 'naca:2411' },
  ],
  bays: [{ span, sweepDeg: 5, dihedralDeg: 3 }],
});
const lineOf = meanLineCache(sectionLookup({}));

if (process.argv.includes('--soak')) {
  // Three browsers at the pace of a script: an hour's work in ten minutes, or in as many seconds as are given.
  const s = await soak(Number(process.argv[process.argv.indexOf('--soak') + 1]) || 600);
  const change = (a: number, b: number) => `${a.toFixed(1)} → ${b.toFixed(1)} MB (${(100 * (b / a - 1)).toFixed(1)} %)`;
  console.log(
    `${s.actions} actions by three browsers in ${s.seconds.toFixed(0)} s (${Object.entries(s.byKind)
      .map(([k, n]) => `${k} ${n}`)
      .join(
        ', ',
      )}), ${s.edits} edits, ${s.flights} flights; beside them ${s.beside.edits} edits of another project and ${s.beside.curves} polars\nserver ${change(s.serverFirst, s.serverLast)}, page ${change(s.pageFirst, s.pageLast)}, ${s.errors.length} errors`,
  );
  for (const e of s.errors.slice(0, 20)) console.log(`  ${e}`);
  console.log(`page, MB over s: ${s.samples.map((x) => `${x.at.toFixed(0)} ${x.page.toFixed(1)}`).join(', ')}`);
  process.exit(0);
}
if (process.argv.includes('--load')) {
  // Twenty people at human pace beside a run of polars, then as fast as they can; what a project weighs.
  const seconds = Number(process.argv[process.argv.indexOf('--load') + 1]) || 120;
  const told = (what: string, l: Awaited<ReturnType<typeof load>>) =>
    console.log(
      `${what}: ${l.people} people, ${l.projects} projects, ${l.seconds.toFixed(0)} s; ${l.edits} edits (${l.stale} met another’s, ${l.refused} refused), ${(l.edits / l.seconds).toFixed(1)} a second\n` +
        `  edit: median ${l.edit.median.toFixed(1)} ms, 99th percentile ${l.edit.percentile99.toFixed(0)}, longest ${l.edit.longest.toFixed(0)}; reading what changed: ${l.read.median.toFixed(1)}, ${l.read.percentile99.toFixed(0)}, ${l.read.longest.toFixed(0)}\n` +
        `  processor ${l.processor.toFixed(2)} cores, ${l.residentMB.toFixed(0)} MB, ${l.points} points of polars`,
    );
  told('at human pace beside a run', await load(seconds));
  told('without the run', await load(seconds / 2, 20, 5, false));
  told('without pauses', await load(Math.min(20, seconds / 4), 20, 5, false, 0));
  const { empty, one, perEdit } = await bytesOfProject(2000);
  console.log(
    `database: empty ${(empty / 1e3).toFixed(0)} kB, with one project like the demo ${(one / 1e3).toFixed(0)} kB, ${perEdit.toFixed(0)} bytes an edit of the brief`,
  );
  process.exit(0);
}
if (process.argv.includes('--faults')) {
  // Half an hour of two seeds, or as many seconds and the seeds that are given.
  const [seconds = 1800, ...seeds] = process.argv.slice(process.argv.indexOf('--faults') + 1).map(Number);
  let wrong = 0;
  for (const seed of seeds.length > 0 ? seeds : [1, 2]) {
    const r = await breakThings(seconds, seed);
    const { lost, stuck, failures, ...done } = r.testers;
    const { wrongSaved, lost: pageLost, stuck: pageStuck, ...typed } = r.page;
    const told = [...lost, ...stuck, ...failures, ...wrongSaved, ...pageLost, ...pageStuck, ...r.runs.stuck];
    wrong += told.length;
    const counts = (of: object) =>
      Object.entries(of)
        .map(([k, n]) => `${k} ${n}`)
        .join(', ');
    console.log(`seed ${seed}, ${r.seconds.toFixed(0)} s; broken: ${counts(r.faults)}`);
    console.log(
      `  testers: ${counts(done)}; page: ${counts(typed)}; runs: ${r.runs.finished} of ${r.runs.begun} finished`,
    );
    console.log(
      `  lost ${lost.length + pageLost.length}, stuck ${stuck.length + pageStuck.length + r.runs.stuck.length}, wrong “Saved” ${wrongSaved.length}, failures inside ${failures.length}`,
    );
    for (const t of [...told, ...r.leftOut.map((l) => `left out: ${l}`)].slice(0, 30)) console.log(`  ${t}`);
  }
  process.exit(wrong > 0 ? 1 : 0);
}
if (process.argv.includes('--reach')) {
  printReach(
    LOW_SECTIONS,
    LOW_REYNOLDS,
    Array.from({ length: 25 }, (_, i) => i - 8),
  );
  process.exit(0);
}
if (process.argv.includes('--skins')) {
  printSkins(150);
  process.exit(0);
}
if (process.argv.includes('--fuzz')) {
  const { texts, worst, text } = fuzzReaders(60);
  console.log(`${texts} hostile texts read; the slowest took ${worst.toFixed(2)} of what is allowed (${text})\n`);
}

const outline = designationOutline('4415');
for (const panels of [120, 160, 240])
  time(
    `section, ${panels} panels: assembled and factorised`,
    () => new InviscidSection(outline, { ...DEFAULT_SPREAD, panels }),
  );
const solved = new InviscidSection(outline);
time('section, 160 panels: 31 more angles', () => {
  for (let a = 0; a < 31; a++) solved.at((a - 10) * RAD);
});
for (const [rowsCount, strips] of [
  [8, 50],
  [16, 50],
] as const) {
  const n = rowsCount * strips;
  // A lattice that was made is kept: each is of another span.
  let made = 0;
  const make = () =>
    makeLattice(
      { surfaces: [wing(3 + 1e-4 * made++)], spread: { chordwise: rowsCount, spanwise: strips, spacing: 'cosine' } },
      lineOf,
    );
  time(
    `lattice, ${n} unknowns (${2 * n} panels on both sides): assembled, factorised, first angle`,
    () => make().at({ alpha: 0.05 }),
    7,
  );
  const ready = make();
  ready.at({ alpha: 0 });
  time(
    `lattice, ${n} unknowns: 31 angles after that`,
    () => {
      for (let a = 0; a < 31; a++) ready.at({ alpha: (a - 10) * RAD });
    },
    7,
  );
  time(
    `lattice, ${n} unknowns: all of it`,
    () => {
      const l = make();
      for (let a = 0; a < 31; a++) l.at({ alpha: (a - 10) * RAD });
    },
    7,
  );
}
// Sections with viscosity: sweeps of 41 angles, each point on its own.
const perPoint: string[] = [];
for (const panels of [120, 160, 240]) {
  const times: number[] = [];
  const steps: number[] = [];
  let bytes = 0;
  for (const [name, reynolds] of [
    ['4415', 3e6],
    ['0012', 1e6],
    ['2312', 2e5],
    ['23012', 5e6],
  ] as const) {
    const section = new ViscousSection(designationOutline(name), { ...DEFAULT_SPREAD, panels });
    const alphas = Array.from({ length: 41 }, (_, i) => (-8 + 0.5 * i) * RAD);
    const request = { kind: 'fixed-re', conditions: { reynolds }, alphas } as const;
    polarPoints(section, request);
    let last = performance.now();
    const heap = process.memoryUsage().heapUsed;
    const points = polarPoints(section, request, {
      onPoint: () => {
        const now = performance.now();
        times.push(now - last);
        last = now;
      },
    });
    bytes += Math.max(0, process.memoryUsage().heapUsed - heap);
    steps.push(...points.map((p) => p.iterations));
  }
  const at = (list: number[], f: number) =>
    list.sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(f * list.length))];
  add(`viscous point of a sweep, ${panels} panels`, times);
  perPoint.push(
    `${panels} panels: 95th percentile ${at(times, 0.95).toFixed(0)} ms; iterations median ${at(steps, 0.5)}, 95th percentile ${at(steps, 0.95)}; about ${(bytes / times.length / 1024).toFixed(0)} kB of heap a point`,
  );
}
time('viscous section made ready (panels, coupling)', () => new ViscousSection(outline), 7);
const { document } = seedsnipe();
const lookup = sectionLookup(document.sections);
time('a candidate of the demo, brief to findings (wing, tail, 19 angles)', () =>
  evaluateCandidate(document.brief, document.candidates.a, lookup, meanLineCache(lookup)),
);
const six = Array.from({ length: 6 }, (_, k): LiftingSurface => ({
  ...document.candidates.b.surfaces[0],
  id: `s${k}`,
  position: { x: 0.6 * k, y: 0, z: 0.2 * k },
  controls: [],
  stations: Array.from({ length: 9 }, (_, i) => ({
    chord: 0.4 - 0.02 * i,
    twistDeg: 0,
    section: 'karoo-14',
    ...(i > 0 && i < 8
      ? { edges: { leading: { run: 'inboard' as const }, trailing: { run: 'inboard' as const } } }
      : {}),
  })),
  bays: Array.from({ length: 8 }, (_, i) => ({ span: 0.3, sweepDeg: 2 + i, dihedralDeg: 2 * i })),
}));
time('one of six surfaces of eight flowing bays edited: its lines in three views', () =>
  DRAWING_VIEWS.map((view) => surfaceLines(six[0], view, lookup)),
);
time('its planform and dimensions', () => [planformOf(six[0]), dimensionsOf(six[0])]);
time('one of its dimensions set, three held', () => setDimension(six[0], 'span', 5.2));
time('facts of all six, wetted areas too', () => six.map((x) => surfaceFacts(x, lookup)), 7);
time('closed meshes of all six', () => partMeshes(six, [], lookup), 7);
time(
  'lift of all six, 19 angles',
  () => analyseLift({ surfaces: six, alphas: Array.from({ length: 19 }, (_, i) => (i - 6) / 57.3) }, lookup),
  5,
);
const flown = document.candidates.a;
const stands = standing(flown.surfaces, flown.bodies);
const air = flowState(26, 600);
const polarsOf = polarNeeds(stands, [air.reynoldsPerMetre]).map((need) => {
  const { input, values } = sweepFor(need, lookup, { ncrit: 9, mach: air.mach });
  return { need, points: solveCurve(input, values) };
});
const aircraft = {
  surfaces: stands,
  bodies: flown.bodies,
  drag: flown.drag,
  mass: 24,
  altitude: 600,
  polars: gathered(polarsOf),
};
const degrees = (from: number, to: number) => Array.from({ length: to - from + 1 }, (_, i) => (from + i) / 57.3);
const meanLine = (key: string) => keptMeanLine(lookup(key));
time(
  'lift with polars of the demo, 23 angles through the stall',
  () => steadySweep(aircraft, 26, { kind: 'alpha', alphas: degrees(-4, 18) }, lookup, meanLine),
  7,
);
time(
  'level flight over 25 speeds',
  () =>
    steadySweep(
      aircraft,
      26,
      { kind: 'level', speeds: Array.from({ length: 25 }, (_, i) => 15 + i) },
      lookup,
      meanLine,
    ),
  5,
);
time(
  'trim, derivatives and modes of the demo, polars there',
  () => airframeMotion(flown, lookup, meanLine, { speed: 26, altitude: 600, polars: aircraft.polars }),
  5,
);
const conditions = { speed: 26, altitude: 600, polars: aircraft.polars };
time('tables for flights of the demo, polars there', () => flightTables(flown, lookup, meanLine, conditions), 3);
const levelTrims = (f: CandidateFlyer) => Array.from({ length: 26 }, (_, i) => levelPoint(f, 15 + i, 600, false));
const flyer = () => new CandidateFlyer(flown, lookup, meanLine, conditions);
time('26 speeds of level flight in trim, polars there', () => levelTrims(flyer()), 5);
const told = {
  of: { ...inputsOfMotion(document, 'a', 26, undefined, aircraft.polars), altitude: 600 },
  energy: flown.energy ?? null,
  settings: document.brief.assumptions.performance,
};
const spread = (from: number, to: number, count: number) =>
  Array.from({ length: count }, (_, k) => from + ((to - from) * k) / (count - 1));
time(
  'performance over 33 speeds with its optima',
  () => levelPerformance.run({ ...told, speeds: spread(10, 47, 33) }, {}),
  3,
);
const once = async (what: string, work: () => unknown) => {
  const begun = performance.now();
  await work();
  console.log(`${what}: ${(performance.now() - begun).toFixed(0)} ms, once`);
};
await once('limits of performance', () => performanceLimits.run(told, {}));
await once('climb over 20 speeds and 20 altitudes', () =>
  performanceMap.run({ ...told, speeds: spread(12, 46, 20), altitudes: spread(0, 4000, 20) }, {}),
);
const tables = flightTables(flown, lookup, meanLine, conditions);
const strips = flownScenario(document.scenarios.strips, flown);
const minute = { ...strips, duration: 60, waypoints: [{ x: 1e5, y: 0, height: 120, radius: 10 }] };
time('60 s of flight of the demo with loops and turbulence', () =>
  fly(minute, flownVehicle(flown.massItems, {}, tables, minute)),
);
const { case: moving } = airframeMotion(flown, lookup, meanLine, conditions);
time('study of a loop of the demo: margins, curves, step, path', () =>
  studyLoop({
    of: moving,
    scale: {},
    settings: flown.autopilot!,
    controls: controlNames(flown),
    chain: 'pitch',
    loop: 1,
  }),
);
for (const [chordwise, spanwise] of [
  [20, 20],
  [24, 40],
  [36, 55],
] as const) {
  const input = { surfaces: [stands[0]], spread: { ...DEFAULT_PANELS, chordwise, spanwise } };
  const { panels } = analyseThick({ ...input, alphas: [0] }, lookup);
  time(
    `thick skin of its wing, ${panels} panels a half, one angle`,
    () => analyseThick({ ...input, alphas: [0.07] }, lookup),
    3,
  );
  const n = panels;
  const dense = Float64Array.from({ length: n * n }, (_, k) => (k % (n + 1) === 0 ? 4 : Math.sin(k)));
  time(`a dense factorisation of ${n}, for comparison`, () => factorise(dense.slice(), n), 1);
}
time('drag of the demo, part by part', () => dragBuildUp(document.candidates.a, flowState(26, 600), lookup));
const text = writeCoordinates(
  'x',
  Array.from(outline.x, (x, i) => [x, outline.y[i]] as [number, number]),
);
time('reading a coordinate file of 161 points', () => readCoordinates(text));
const shaped: ShapingStep[] = [
  { kind: 'set-thickness', to: 0.13 },
  { kind: 'set-camber', to: 0.03 },
  { kind: 'thickness-crest', to: 0.35 },
  { kind: 'camber-crest', to: 0.45 },
  { kind: 'nose-radius', to: 0.014, blend: 0.25 },
  { kind: 'edge-gap', to: 0.004, blend: 0.5 },
  { kind: 'mix', fraction: 0.2, other: { kind: 'designation', designation: '0012', trailingEdge: 'published' } },
  { kind: 'scale-thickness', by: 0.95 },
  { kind: 'bump', surface: 'upper', at: 0.4, height: 0.004, width: 0.3 },
  { kind: 'smooth', surface: 'upper', from: 0.2, to: 0.7, strength: 1, bound: 0.002 },
  { kind: 'hinge', x: 0.75, height: 0.5, angleDeg: 5, joint: 0.012 },
  { kind: 'square-up' },
];
const recipeOf = (designation: string): SectionSource => ({
  kind: 'recipe',
  source: { kind: 'designation', designation, trailingEdge: 'published' },
  steps: shaped,
});
time('a recipe of 12 steps, 161 points', () => sourceOutline(recipeOf('4415')));
time('facts of a section', () => sourceFacts({ kind: 'designation', designation: '4415', trailingEdge: 'published' }));

if (process.argv.includes('--library'))
  for (const [what, times] of Object.entries(await libraryTimes())) add(what, times);
if (process.argv.includes('--page'))
  for (const [what, times] of Object.entries({ ...(await openingTimes()), ...(await pageTimes()) })) add(what, times);
if (process.argv.includes('--plot')) for (const [what, times] of Object.entries(await plotTimes())) add(what, times);

console.log(`kernels: ${kernels() ? 'compiled' : 'TypeScript reference'}; Node ${process.version}\n`);
const width = Math.max(...rows.map((r) => r.what.length));
console.log(`${'what'.padEnd(width)}  ${'median'.padStart(9)}  ${'least'.padStart(9)}  ${'most'.padStart(9)}   ms`);
for (const r of rows)
  console.log(
    `${r.what.padEnd(width)}  ${r.median.toFixed(2).padStart(9)}  ${r.least.toFixed(2).padStart(9)}  ${r.most.toFixed(2).padStart(9)}`,
  );
console.log(`\nviscous points\n${perPoint.join('\n')}`);
process.exit(0);
