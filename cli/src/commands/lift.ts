import { Command } from 'commander';
import { dirname, resolve } from 'node:path';
import { InvalidInput, RAD } from '@veldtwind/core/numerics';
import { standingIn, type SectionLookup } from '@veldtwind/core/airframe';
import { withSetting, type CandidatePart } from '@veldtwind/core/project';
import { readCandidateFile, withPlacedMass } from '@veldtwind/core/candidate';
import { massProperties } from '@veldtwind/core/balance';
import { runAnalysis } from '@veldtwind/core/analysis';
import type { SectionSource } from '@veldtwind/core/shaping';
import {
  DEFAULT_LATTICE,
  DEFAULT_PANELS,
  ellipseOf,
  ellipticLoad,
  keptMeanLine,
  latticeMach,
  type AirframeLoads,
  type LatticeSpread,
  type LiftResult,
  type ThickResult,
} from '@veldtwind/core/lift';
import { fileLookup, readRange, readTextFile } from '../arguments';
import { LATERAL_QUANTITIES, LIFT_QUANTITIES } from '@veldtwind/core/quantities';
import { printJson, quantityColumns, table } from '../output';
import { viscousLift, type ViscousAnswer } from '../viscous-lift';
import { flowState } from '@veldtwind/core/atmosphere';
import { pointSlopes, withStreamEffects, type SteadyPoint } from '@veldtwind/core/flight';

const SHOWN = ['alpha', 'CL', 'CDi', 'Cm', 'CY', 'Cl', 'Cn', 'efficiency'];

interface Options {
  airframe: string;
  alpha: string;
  beta: string;
  mach?: string;
  about?: string;
  chordwise?: string;
  spanwise?: string;
  spacing: string;
  wake: string;
  ground?: string;
  speed?: string;
  altitude: string;
  ncrit: string;
  method: string;
  viscous?: boolean;
  bodyLift: boolean;
  setting?: string;
  spanLoad?: boolean;
  json?: boolean;
}

export function liftCommand(): Command {
  return new Command('lift')
    .description('Lift, drag and moments of an airframe: vortex lattice, with section polars or without')
    .requiredOption('--airframe <file>', 'candidate file, see docs/candidate-file.md')
    .requiredOption('--alpha <range>', 'angles in degrees: from:to:step, one, or several with commas')
    .option('--beta <degrees>', 'sideslip, wind from the right positive', '0')
    .option('--speed <m/s>', 'speed; with the altitude it gives Mach and Reynolds numbers')
    .option('--altitude <m>', 'altitude of the standard atmosphere', '0')
    .option('--mach <number>', 'Mach number, below 0.9; that of the speed, else 0')
    .option('--viscous', 'with the polars of the sections in the loop, which are computed first; needs a speed')
    .option('--no-body-lift', 'bodies drag, and neither lift nor pitch nor yaw')
    .option('--ncrit <number>', 'critical amplification of the polars', '9')
    .option('--method <name>', 'lattice or panels', 'lattice')
    .option('--about <x,y,z>', 'moment reference in m; else the centre of gravity, else the quarter chord')
    .option(
      '--chordwise <count>',
      `panels along the chord, ${DEFAULT_LATTICE.chordwise} without; of --method panels on each face, an even number, ${DEFAULT_PANELS.chordwise} without`,
    )
    .option(
      '--spanwise <count>',
      `strips along half the longest surface, ${DEFAULT_LATTICE.spanwise} without; of --method panels ${DEFAULT_PANELS.spanwise}`,
    )
    .option('--spacing <law>', 'cosine or uniform', DEFAULT_LATTICE.spacing)
    .option('--wake <direction>', 'body or stream', 'body')
    .option('--ground <m>', 'height of the moment reference over the ground: images of the lattice')
    .option('--setting <name>', 'a kept setting of the controls; else they stand as the file has them')
    .option('--span-load', 'add the load of every strip')
    .option('--json', 'print JSON')
    .action(async (o: Options) => {
      const { candidate: read, sections } = readCandidateFile(readTextFile(o.airframe));
      const stands = standingIn(o.setting === undefined ? read : withSetting(read, o.setting));
      const lookup = fileLookup(sections, (name) => resolve(dirname(o.airframe), name));
      const candidate = withPlacedMass(stands, lookup);
      const one = (text: string, what: string) => readRange(text, what)[0];
      if (o.spacing !== 'cosine' && o.spacing !== 'uniform')
        throw new InvalidInput('spacing', `--spacing is cosine or uniform, not ${o.spacing}.`);
      if (o.wake !== 'body' && o.wake !== 'stream')
        throw new InvalidInput('wake', `--wake is body or stream, not ${o.wake}.`);
      const about = o.about ? readRange(o.about, 'about') : undefined;
      if (about && about.length !== 3) throw new InvalidInput('about', '--about needs three numbers: x,y,z.');
      const alphas = readRange(o.alpha, 'alpha');
      const used: Record<string, SectionSource> = {};
      for (const s of candidate.surfaces) for (const t of s.stations) used[t.section] ??= lookup(t.section);
      const altitude = one(o.altitude, 'altitude');
      const flow = o.speed === undefined ? null : flowState(one(o.speed, 'speed'), altitude);
      if (o.viscous && !flow)
        throw new InvalidInput(
          'speed',
          '--viscous needs a speed.',
          'Give --speed in m/s, and --altitude in m.',
          'speed',
        );
      const spread: LatticeSpread = {
        chordwise:
          o.method !== 'lattice' || o.chordwise === undefined
            ? DEFAULT_LATTICE.chordwise
            : one(o.chordwise, 'chordwise'),
        spanwise:
          o.method !== 'lattice' || o.spanwise === undefined ? DEFAULT_LATTICE.spanwise : one(o.spanwise, 'spanwise'),
        spacing: o.spacing,
      };
      const result = await runAnalysis('lift', {
        sections: used,
        surfaces: streamedSurfaces(candidate, lookup, flow?.speed, altitude),
        bodies: o.bodyLift ? candidate.bodies : [],
        alphas: alphas.map((a) => a * RAD),
        about: about ? { x: about[0], y: about[1], z: about[2] } : massProperties(candidate.massItems)?.centre,
        reference: candidate.reference ?? undefined,
        // As everywhere: the number that the lattice of a speed is made for.
        mach: o.mach === undefined ? latticeMach(flow?.mach ?? 0) : one(o.mach, 'mach'),
        beta: one(o.beta, 'beta') * RAD,
        spread,
        wake: o.wake,
        ...(o.ground !== undefined && { ground: groundOf(o) }),
      });
      if (o.method !== 'lattice' && o.method !== 'panels')
        throw new InvalidInput('method', `--method is lattice or panels, not ${o.method}.`);
      if (o.method === 'panels') {
        if (o.viscous)
          throw new InvalidInput(
            'method',
            'Section polars go with the lattice; the panels are without viscosity.',
            'Leave out --viscous or --method panels.',
          );
        const thick = await runAnalysis('thick', {
          sections: used,
          surfaces: candidate.surfaces,
          bodies: candidate.bodies,
          reference: candidate.reference ?? null,
          alphas: alphas.map((a) => a * RAD),
          beta: one(o.beta, 'beta') * RAD,
          mach: o.mach === undefined ? (flow?.mach ?? 0) : one(o.mach, 'mach'),
          about: result.momentReference,
          spread: {
            ...DEFAULT_PANELS,
            ...(o.chordwise !== undefined && { chordwise: one(o.chordwise, 'chordwise') }),
            ...(o.spanwise !== undefined && { spanwise: one(o.spanwise, 'spanwise') }),
          },
        });
        if (o.json) return printJson(thickJson(thick, alphas, Boolean(o.spanLoad)));
        process.stdout.write(`${candidate.name}: ${thick.panels} panels${thick.half ? ' on one half' : ''}\n`);
        return void process.stdout.write(
          table(thick.points, [
            { title: 'α, °', text: (p) => (p.alpha / RAD).toFixed(2) },
            { title: 'CL', text: (p) => p.CL.toFixed(4) },
            { title: 'CDi', text: (p) => p.CDi.toFixed(5) },
            { title: 'Cm', text: (p) => p.Cm.toFixed(4) },
            { title: 'least cp', text: (p) => p.cp.reduce((a, b) => Math.min(a, b), 1).toFixed(2) },
          ]),
        );
      }
      if (o.viscous && flow) {
        const answer = await viscousLift({
          candidate,
          lookup,
          alphas: alphas.map((a) => a * RAD),
          beta: one(o.beta, 'beta') * RAD,
          speed: flow.speed,
          altitude,
          ncrit: one(o.ncrit, 'ncrit'),
          spread,
          about: result.momentReference,
          bodiesLift: o.bodyLift,
        });
        if (o.json)
          return printJson({
            ...asJson(
              {
                ...result,
                points: answer.result.points,
                ...pointSlopes(answer.result.points, result.momentReference.x, result.reference.chord),
              },
              alphas,
              Boolean(o.spanLoad),
            ),
            ...viscousJson(answer),
          });
        return printViscous(candidate.name, answer);
      }
      if (o.json) return printJson(asJson(result, alphas, Boolean(o.spanLoad)));
      const { reference: r } = result;
      process.stdout.write(
        `${candidate.name}: area ${r.area.toFixed(4)} m², span ${r.span.toFixed(4)} m, chord ${r.chord.toFixed(4)} m, ${result.panels} panels\n` +
          `lift slope ${result.liftSlope.toFixed(4)} per rad, neutral point x = ${result.neutralPoint.toFixed(4)} m, moments about x = ${result.momentReference.x.toFixed(4)} m\n`,
      );
      process.stdout.write(
        table(
          result.points,
          quantityColumns([...LIFT_QUANTITIES, ...LATERAL_QUANTITIES], SHOWN, (point) => ({
            point,
            reference: r,
            dynamicPressure: null,
          })),
        ),
      );
    });
}

/** Surfaces with what is counted of the effects on their streams, at the candidate's own mass; as they are without a speed or a mass. */
function streamedSurfaces(
  candidate: CandidatePart,
  lookup: SectionLookup,
  speed: number | undefined,
  altitude: number,
) {
  const mass = massProperties(candidate.massItems)?.mass;
  if (speed === undefined || mass === undefined) return candidate.surfaces;
  return withStreamEffects({ ...candidate, speed, altitude, mass }, lookup, (key) => keptMeanLine(lookup(key)));
}

/** A height over the ground. @throws InvalidInput where it is none, or goes with a method without images. */
function groundOf(o: Options): number {
  const [height] = readRange(o.ground!, 'ground');
  if (!(height > 0))
    throw new InvalidInput('ground', `--ground ${height} is no height.`, 'Give metres above 0.', 'ground');
  if (o.viscous || o.method !== 'lattice')
    throw new InvalidInput(
      'ground',
      'Ground effect is of the lattice alone.',
      'Leave out --viscous and --method.',
      'ground',
    );
  return height;
}

/** The flow about the skins, in the shape of the lattice's answer. */
function thickJson(result: ThickResult, alphas: number[], withLoad: boolean): object {
  const { reference: r } = result;
  return {
    method: 'panels',
    reference: r,
    momentReference: result.momentReference,
    panels: result.panels,
    joined: result.joined,
    leftOut: result.leftOut,
    compared: result.compared,
    points: result.points.map((p, i) => ({
      alphaDeg: alphas[i],
      CL: p.CL,
      CDi: p.CDi,
      Cm: p.Cm,
      CY: p.CY,
      Cl: p.Cl,
      Cn: p.Cn,
      efficiency: (p.CL * p.CL) / (Math.PI * ((r.span * r.span) / r.area) * p.CDi),
      cpMin: p.cp.reduce((a, b) => Math.min(a, b), 1),
      ...(p.doubt ? { status: 'doubtful', reason: p.doubt } : {}),
      ...(withLoad
        ? {
            spanLoad: p.strips.map((s) => ({
              surface: s.id,
              y: s.y,
              station: s.station,
              chord: s.chord,
              cl: s.cl,
              load: (s.cl * s.chord * r.span) / r.area,
            })),
          }
        : {}),
    })),
  };
}

/** What polars add to a point. */
const viscousPoint = ({ CD, CDprofile, CDparasite, stalled, status, reason }: SteadyPoint) => ({
  CD,
  CDprofile,
  CDparasite,
  stalled,
  status,
  ...(reason === undefined ? {} : { reason }),
});

/** What polars add to a sweep. */
const viscousJson = ({ result, glide, stall, mass, polars }: ViscousAnswer) => ({
  mass,
  CLmax: result.CLmax,
  alphaCLmaxDeg: result.alphaCLmax === null ? null : result.alphaCLmax / RAD,
  stallSpeed: stall?.speed ?? null,
  stall: stall && { speed: stall.speed, CL: stall.CL, alphaDeg: stall.alpha / RAD, trimmed: false },
  stallBegins: result.stallBegins && {
    surface: result.stallBegins.surface,
    eta: result.stallBegins.eta,
    alphaDeg: result.stallBegins.alpha / RAD,
  },
  bestGlide: glide?.bestGlide ?? null,
  leastSink: glide?.leastSink ?? null,
  polars,
});

function printViscous(name: string, answer: ViscousAnswer): void {
  const { result, glide, polars } = answer;
  const told = (v: number | null | undefined, digits: number, unit = '') =>
    v === null || v === undefined ? 'not found' : `${v.toFixed(digits)}${unit}`;
  process.stdout.write(
    `${name}: ${result.panels} panels, ${polars.length} polars\n` +
      `greatest lift ${told(result.CLmax, 3)} at ${told(result.alphaCLmax === null ? null : result.alphaCLmax / RAD, 1, '°')}, ` +
      `stall begins ${result.stallBegins ? `on ${result.stallBegins.surface} at ${(100 * result.stallBegins.eta).toFixed(0)} % of the half span, ${(result.stallBegins.alpha / RAD).toFixed(1)}°` : 'outside the sweep'}\n` +
      `stall speed ${told(answer.stall?.speed, 2, ' m/s')} (not in trim), best glide ${told(glide?.bestGlide?.ratio, 2)} at ${told(glide?.bestGlide?.speed, 2, ' m/s')}, ` +
      `least sink ${told(glide?.leastSink?.rate, 3, ' m/s')} at ${told(glide?.leastSink?.speed, 2, ' m/s')}\n`,
  );
  process.stdout.write(
    table(result.points, [
      { title: 'α, °', text: (p) => (p.alpha / RAD).toFixed(2) },
      { title: 'CL', text: (p) => p.CL.toFixed(4) },
      { title: 'CD', text: (p) => p.CD.toFixed(5) },
      { title: 'CDi', text: (p) => p.CDi.toFixed(5) },
      { title: 'CD profile', text: (p) => p.CDprofile.toFixed(5) },
      { title: 'CD parasite', text: (p) => p.CDparasite.toFixed(5) },
      { title: 'Cm', text: (p) => p.Cm.toFixed(4) },
      { title: 'status', text: (p) => p.status },
    ]),
  );
}

function asJson(result: LiftResult, alphas: number[], withLoad: boolean): object {
  const meanChord = result.reference.area / result.reference.span;
  const side = (s: { id: string; station: number }) => `${s.id} ${s.station < 0}`;
  const load = (p: AirframeLoads) => {
    const fits = new Map(
      [...new Set(p.strips.map(side))].map((key) => [
        key,
        ellipseOf(
          p.strips.filter((s) => side(s) === key),
          meanChord,
        ),
      ]),
    );
    return p.strips.map((s) => ({
      surface: s.id,
      y: s.y,
      z: s.z,
      station: s.station,
      chord: s.chord,
      cl: s.cl,
      load: (s.cl * s.chord) / meanChord,
      elliptic: ellipticLoad(fits.get(side(s))!.CL, Math.abs(s.station)),
      ellipticDeviation: fits.get(side(s))!.deviation,
    }));
  };
  return {
    reference: result.reference,
    momentReference: result.momentReference,
    panels: result.panels,
    points: result.points.map((p, i) => ({
      alphaDeg: alphas[i],
      CL: p.CL,
      CDi: p.CDi,
      Cm: p.Cm,
      CY: p.CY,
      Cl: p.Cl,
      Cn: p.Cn,
      efficiency: p.efficiency,
      ...('CDprofile' in p ? viscousPoint(p as SteadyPoint) : {}),
      ...(withLoad ? { spanLoad: load(p) } : {}),
    })),
    liftSlopePerRad: result.liftSlope,
    momentSlopePerRad: result.momentSlope,
    zeroLiftAngleDeg: result.zeroLiftAngle / RAD,
    neutralPoint: result.neutralPoint,
    controls: result.controls,
  };
}
