import { dirname, resolve } from 'node:path';
import { standingIn } from '@veldtwind/core/airframe';
import { airframeMotion, loadedMass, readCandidateFile } from '@veldtwind/core/candidate';
import { keptMeanLine } from '@veldtwind/core/lift';
import { parseJson, refusalOf } from '@veldtwind/core/limits';
import { motionCase, type MotionCase } from '@veldtwind/core/motion';
import { InvalidInput } from '@veldtwind/core/numerics';
import { withSetting } from '@veldtwind/core/project';
import { fileLookup, readRange, readTextFile } from './arguments';
import { computePolars } from './viscous-lift';

/** The steady flight of an airframe that options tell. */
export interface FlownOptions {
  airframe?: string;
  speed?: string;
  altitude: string;
  loading?: string;
  setting?: string;
  ncrit: string;
  inviscid?: boolean;
  climb: string;
}

/** The motion of an airframe's candidate file about its steady flight, and what it was made from. */
export async function motionOfAirframe(o: FlownOptions) {
  if (o.speed === undefined)
    throw new InvalidInput('speed', '--airframe needs a speed.', 'Give --speed in m/s, and --altitude in m.', 'speed');
  const { candidate: read, sections } = readCandidateFile(readTextFile(o.airframe!));
  const candidate = standingIn(o.setting === undefined ? read : withSetting(read, o.setting));
  const lookup = fileLookup(sections, (name) => resolve(dirname(o.airframe!), name));
  const [speed] = readRange(o.speed, 'speed');
  const [altitude] = readRange(o.altitude, 'altitude');
  const [ncrit] = readRange(o.ncrit, 'ncrit');
  // What is wrong with the masses is said before polars are computed.
  loadedMass(candidate, o.loading);
  const polars = o.inviscid ? null : (await computePolars(candidate, lookup, [speed], altitude, ncrit)).polars;
  const motion = airframeMotion(candidate, lookup, (key) => keptMeanLine(lookup(key)), {
    speed,
    altitude,
    ...(o.loading === undefined ? {} : { loading: o.loading }),
    climbDeg: readRange(o.climb, 'climb')[0],
    polars,
  });
  return { candidate, lookup, speed, altitude, polars, motion };
}

/** A set of derivatives with its steady flight, as JSON. */
export function readMotionCase(file: string): MotionCase {
  const parsed = motionCase.safeParse(parseJson(readTextFile(file), 'The file', 'See docs/motion.md for the format.'));
  if (!parsed.success) throw refusalOf(parsed.error, 'The set');
  return parsed.data;
}
