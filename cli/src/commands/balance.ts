import { dirname, resolve } from 'node:path';
import { Command } from 'commander';
import { standingIn, type SectionLookup } from '@veldtwind/core/airframe';
import { flowState, GRAVITY } from '@veldtwind/core/atmosphere';
import { centreRange, principalMoments, type MassProperties } from '@veldtwind/core/balance';
import {
  airframeMotion,
  controlLimits,
  anglesOf,
  loadedMass,
  parasiteOf,
  readCandidateFile,
  steadyTrim,
  wholeBalance,
  type WholeBalance,
  withPlacedMass,
} from '@veldtwind/core/candidate';
import { withStreamEffects } from '@veldtwind/core/flight';
import { keptMeanLine, latticeMach } from '@veldtwind/core/lift';
import { lateralTrim } from '@veldtwind/core/motion';
import { InvalidInput, RAD } from '@veldtwind/core/numerics';
import { withSetting } from '@veldtwind/core/project';
import { fileLookup, readRange, readTextFile } from '../arguments';
import { printJson } from '../output';

const OPEN = { min: null, max: null };

/** A band as it is written, from:to. */
function band(text: string | undefined, name: string): { min: number; max: number } | null {
  if (text === undefined) return null;
  const [min, max] = text.split(':').map((v) => readRange(v, name)[0]);
  if (!(min < max)) throw new InvalidInput(name, `--${name} ${text} is no range.`, 'Write it as 0.05:0.25.', name);
  return { min, max };
}

interface Options {
  airframe: string;
  loading?: string;
  setting?: string;
  altitude: string;
  margin: string;
  trimAngle?: string;
  slope?: string;
  speed?: string;
  climb: string;
  bank: string;
  thrustLine?: string;
  crosswind?: string;
  yawMoment: string;
  rollMoment: string;
  json?: boolean;
}

export function balanceCommand(): Command {
  return new Command('balance')
    .description('Mass, centre of gravity, inertia, neutral point, static margin and trim of an airframe')
    .requiredOption('--airframe <file>', 'candidate file, see docs/candidate-file.md')
    .option('--loading <name>', 'a loading that the candidate keeps; else all items are there')
    .option('--setting <name>', 'a kept setting of the controls')
    .option('--altitude <m>', 'altitude of the standard atmosphere, for the speed of the trim', '0')
    .option('--margin <from:to>', 'static margins that are allowed, shares of the chord', '0.05:0.25')
    .option('--trim-angle <from:to>', 'trimmed angles of attack that are allowed, degrees')
    .option('--slope <from:to>', 'slopes of the pitching moment that are allowed, 1/°')
    .option(
      '--speed <m/s>',
      'of the level flight that margin and neutral point are told in, else that of the trim; tells its angle, deflection, thrust, deflection per g',
    )
    .option('--climb <degrees>', 'of that flight', '0')
    .option('--bank <degrees>', 'of a level turn', '0')
    .option(
      '--thrust-line <x,z,tilt>',
      'where thrust acts, m, and its tilt upward, degrees; through the centre without',
    )
    .option(
      '--crosswind <m/s>',
      'with --speed: straight flight in a wind from the right; bank, controls and what is left of them',
    )
    .option('--yaw-moment <N m>', 'of that flight, nose right: an engine out', '0')
    .option('--roll-moment <N m>', 'of that flight, right wing down: unequal wings', '0')
    .option('--json', 'print JSON')
    .action(run);
}

const stateWords = ({ at, speed, alpha }: WholeBalance['state']) =>
  at === 'level' ? `level flight at ${speed!.toFixed(1)} m/s, α ${(alpha / RAD).toFixed(2)}°` : 'α 0°';

function run(o: Options): void {
  const { candidate: read, sections } = readCandidateFile(readTextFile(o.airframe));
  const lookup = fileLookup(sections, (name) => resolve(dirname(o.airframe), name));
  const candidate = withPlacedMass(standingIn(o.setting === undefined ? read : withSetting(read, o.setting)), lookup);
  const [altitude] = readRange(o.altitude, 'altitude');
  const staticMargin = band(o.margin, 'margin')!;
  const bands = {
    staticMargin,
    trimAngleDeg: band(o.trimAngle, 'trim-angle') ?? OPEN,
    pitchSlopePerDeg: band(o.slope, 'slope') ?? OPEN,
  };
  const mass = loadedMass(candidate, o.loading);
  const speed = o.speed === undefined ? undefined : readRange(o.speed, 'speed')[0];
  const lineOf = (key: string) => keptMeanLine(lookup(key));
  const { lift, balance } = wholeBalance(
    {
      surfaces:
        speed === undefined
          ? candidate.surfaces
          : withStreamEffects({ ...candidate, speed, altitude, mass: mass.mass }, lookup, lineOf),
      bodies: candidate.bodies,
      alphas: anglesOf(candidate.sweep).map((a) => a * RAD),
      about: mass.centre,
      ...(candidate.reference ? { reference: candidate.reference } : {}),
      mach: speed === undefined ? 0 : latticeMach(flowState(speed, altitude).mach),
    },
    lineOf,
    mass,
    {
      speed,
      altitude,
      ...(candidate.engine && { engine: candidate.engine, parasite: parasiteOf({ altitude }, candidate, lookup) }),
    },
  );
  const { inertia: t } = mass;
  const [trim] = balance.trims;
  const names = { staticMargin: 'static margin', trimAngleDeg: 'trim angle', pitchSlopePerDeg: 'pitch slope' };
  const range = centreRange(lift, balance.centres, bands, (key, value) => `${names[key]} ${value}`);
  const steady = o.speed === undefined ? undefined : steadyOf(o, candidate, lookup, mass, altitude);
  const side = lateralOf(o, candidate, lookup, altitude);
  const answer = {
    mass: mass.mass,
    weight: mass.mass * GRAVITY,
    centre: mass.centre,
    inertia: {
      about: 'centre of gravity',
      axes: 'x aft, y right, z up',
      products: 'elements of the tensor: −∫xy dm, −∫xz dm, −∫yz dm',
      tensor: [
        [t.xx, t.xy, t.xz],
        [t.xy, t.yy, t.yz],
        [t.xz, t.yz, t.zz],
      ],
      principal: principalMoments(t),
    },
    reference: lift.reference,
    neutralPoint: balance.neutralPoint,
    staticMargin: balance.staticMargin,
    pitchSlopePerRad: balance.pitchSlope,
    liftSlopePerRad: balance.liftSlope,
    method: 'lattice',
    state: {
      at: balance.state.at === 'level' ? 'level flight in trim' : 'zero angle of attack',
      speed: balance.state.speed,
      alphaDeg: balance.state.alpha / RAD,
      controls: Object.fromEntries(Object.entries(balance.state.controls).map(([id, d]) => [id, d / RAD])),
      ...(balance.state.reason !== undefined && { reason: balance.state.reason }),
    },
    trim: trim ? { alphaDeg: trim.alpha / RAD, CL: trim.CL, speed: trim.speed, stable: trim.stable } : null,
    allowedCentre: {
      forward: range.forward?.x ?? null,
      aft: range.aft?.x ?? null,
      limitedBy: { forward: range.forward?.by ?? null, aft: range.aft?.by ?? null },
      inside:
        !range.empty &&
        (range.forward === null || mass.centre.x >= range.forward.x) &&
        (range.aft === null || mass.centre.x <= range.aft.x),
    },
  };
  if (o.json) return printJson({ ...answer, ...(steady && { steady }), ...(side && { lateral: side }) });
  const { allowedCentre: a } = answer;
  process.stdout.write(
    `${candidate.name}: ${mass.mass.toFixed(3)} kg, centre ${mass.centre.x.toFixed(4)}, ${mass.centre.y.toFixed(4)}, ${mass.centre.z.toFixed(4)} m\n` +
      `inertia about it: Ixx ${t.xx.toFixed(4)}, Iyy ${t.yy.toFixed(4)}, Izz ${t.zz.toFixed(4)}, ∫xz dm ${(-t.xz).toFixed(4)} kg m²\n` +
      `neutral point x ${balance.neutralPoint.toFixed(4)} m, static margin ${(100 * balance.staticMargin).toFixed(1)} % (${stateWords(balance.state)}), allowed centre x ${a.forward?.toFixed(4) ?? '…'} to ${a.aft?.toFixed(4) ?? '…'} m (${a.limitedBy.forward ?? 'open'}; ${a.limitedBy.aft ?? 'open'})${a.inside ? '' : ': outside'}\n` +
      (trim
        ? `trims at ${(trim.alpha / RAD).toFixed(2)}°, CL ${trim.CL.toFixed(4)}${trim.speed ? `, ${trim.speed.toFixed(2)} m/s` : ''}\n`
        : 'does not trim within the sweep\n'),
  );
  if (side)
    process.stdout.write(
      `crosswind ${o.crosswind} m/s: sideslip ${side.sideslipDeg.toFixed(2)}°, bank ${side.bankDeg.toFixed(2)}°, ${side.controls.map((c) => `${c.name} ${c.deflectionDeg.toFixed(2)}°${c.left === null ? '' : ` (${(100 * c.left).toFixed(0)} % left)`}`).join(', ')}\n`,
    );
  if (steady) {
    const deflections = Object.entries(steady.controls).map(([id, d]) => `${id} ${d.toFixed(2)}°`);
    process.stdout.write(
      `steady at ${o.speed} m/s: α ${steady.alphaDeg.toFixed(2)}°${deflections.length ? `, ${deflections.join(', ')}` : ''}, thrust ${steady.thrust.toFixed(2)} N, load factor ${steady.loadFactor.toFixed(3)}, manoeuvre margin ${(100 * steady.manoeuvreMargin).toFixed(1)} %\n`,
    );
  }
}

/** Straight flight in a crosswind, without section polars. */
function lateralOf(o: Options, candidate: Parameters<typeof steadyTrim>[0], lookup: SectionLookup, altitude: number) {
  if (o.crosswind === undefined) return null;
  if (o.speed === undefined)
    throw new InvalidInput('speed', '--crosswind needs a speed.', 'Give --speed in m/s.', 'speed');
  const [speed] = readRange(o.speed, 'speed');
  const [crosswind] = readRange(o.crosswind, 'crosswind');
  if (Math.abs(crosswind) >= speed)
    throw new InvalidInput(
      'crosswind',
      `A crosswind of ${crosswind} m/s leaves no way ahead at ${speed} m/s.`,
      'Give less than the speed.',
      'crosswind',
    );
  const { case: moving } = airframeMotion(candidate, lookup, (key) => keptMeanLine(lookup(key)), {
    speed,
    altitude,
    polars: null,
    ...(o.loading === undefined ? {} : { loading: o.loading }),
  });
  const sideslip = Math.asin(crosswind / speed);
  const [yawMoment] = readRange(o.yawMoment, 'yaw-moment');
  const [rollMoment] = readRange(o.rollMoment, 'roll-moment');
  const trim = lateralTrim(moving, { sideslip, yawMoment, rollMoment }, controlLimits(candidate));
  return {
    sideslipDeg: sideslip / RAD,
    bankDeg: trim.bank / RAD,
    controls: trim.controls.map(({ name, deflection, limit, left }) => ({
      name,
      deflectionDeg: deflection / RAD,
      limitDeg: limit === null ? null : limit / RAD,
      left,
    })),
    most: trim.most && { sideslipDeg: trim.most.sideslip / RAD, control: trim.most.control },
  };
}

/** Steady flight at a speed, without section polars. */
function steadyOf(
  o: Options,
  candidate: Parameters<typeof steadyTrim>[0],
  lookup: SectionLookup,
  mass: MassProperties,
  altitude: number,
) {
  const [speed] = readRange(o.speed!, 'speed');
  const [climb] = readRange(o.climb, 'climb');
  const [bank] = readRange(o.bank, 'bank');
  if (Math.abs(climb) > 80 || Math.abs(bank) > 80)
    throw new InvalidInput('bank', '--climb and --bank must lie within ±80°.', 'Steady flight ends there.', 'bank');
  const line = o.thrustLine?.split(',').map((v) => Number(v));
  if (line && (line.length < 2 || line.length > 3 || !line.every(Number.isFinite)))
    throw new InvalidInput(
      'thrust-line',
      `--thrust-line ${o.thrustLine} is no place.`,
      'Write it as 1.02,0.08 or 1.02,0.08,2.',
      'thrustLine',
    );
  const lineOf = (key: string) => keptMeanLine(lookup(key));
  const trim = steadyTrim(candidate, lookup, lineOf, mass, {
    speed,
    altitude,
    flight: {
      climb: climb * RAD,
      bank: bank * RAD,
      ...(line && { thrustLine: { at: { x: line[0], y: 0, z: line[1] }, tilt: (line[2] ?? 0) * RAD } }),
    },
  });
  const motion = airframeMotion(candidate, lookup, lineOf, {
    speed,
    altitude,
    polars: null,
    ...(o.loading === undefined ? {} : { loading: o.loading }),
  });
  const degrees = (v: Record<string, number | null>) =>
    Object.fromEntries(Object.entries(v).map(([k, d]) => [k, d === null ? null : d / RAD]));
  return {
    alphaDeg: trim.alpha / RAD,
    speed,
    CL: trim.CL,
    CD: trim.CD,
    controls: degrees(trim.controls) as Record<string, number>,
    Cm: trim.Cm,
    thrust: trim.thrust,
    loadFactor: trim.loadFactor,
    manoeuvreMargin: motion.manoeuvre.margin,
    manoeuvrePoint: mass.centre.x + motion.manoeuvre.margin * motion.reference.chord,
    deflectionPerGDeg: degrees(motion.manoeuvre.deflectionPerG),
  };
}
