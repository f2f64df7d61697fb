import { limitBroken, type FieldLimit } from '../limits';
import { InvalidInput, RAD } from '../numerics';
import { SURFACE_LIMITS } from './limits';
import type { EdgeFlow, LiftingSurface } from './types';

/** Least cosine of a turn about x: beyond, a surface belongs to the other plane. */
const LEAST_COSINE = Math.cos(75.0001 * RAD);

/**
 * Refuses a surface whose numbers cannot be a shape: the same limits that its schema and its fields have.
 * @throws InvalidInput `surface-stations`, or `chord-range` and its kin with the limit, the nearest value that works and the path of the field.
 */
export function checkSurface(surface: LiftingSurface): void {
  const name = surface.name || surface.id;
  const refuse = (code: string, what: string, hint: string | undefined, path: string): never => {
    throw new InvalidInput(code, `${name}${what}`, hint, path);
  };
  if (surface.stations.length < 2 || surface.bays.length !== surface.stations.length - 1)
    refuse(
      'surface-stations',
      ': a surface needs two or more stations and one bay between each pair.',
      'Add a station.',
      'stations',
    );
  const hold = (limit: FieldLimit, value: number | undefined, code: string, path: string, where = '') => {
    if (value === undefined) return;
    const broken = limitBroken(limit, value);
    if (broken) refuse(code, `${where}: ${broken.message}.`, undefined, path);
  };
  const { position, incidenceDeg, rollDeg, yawDeg, station, bay, edge } = SURFACE_LIMITS;
  surface.stations.forEach((s, i) => {
    const where = `, station ${i + 1}`;
    hold(station.chord, s.chord, 'chord-range', `stations.${i}.chord`, where);
    hold(station.twistDeg, s.twistDeg, 'twist-range', `stations.${i}.twistDeg`, where);
    hold(station.twistAbout, s.twistAbout, 'twist-about', `stations.${i}.twistAbout`, where);
    for (const line of ['leading', 'trailing', 'rise'] as const) {
      const flow: EdgeFlow | undefined = s.edges?.[line];
      if (!flow) continue;
      const path = `stations.${i}.edges.${line}`;
      hold(
        edge.angleDeg,
        flow.run === 'held' ? (flow.angleDeg ?? NaN) : undefined,
        'edge-angle',
        `${path}.angleDeg`,
        where,
      );
      hold(edge.reach, flow.reach, 'edge-reach', `${path}.reach`, where);
      hold(edge.reachOutboard, flow.reachOutboard, 'edge-reach', `${path}.reachOutboard`, where);
      const missing =
        (flow.run === 'outboard' && i === surface.stations.length - 1) ||
        (flow.run === 'inboard' && i === 0 && !surface.mirrored);
      if (missing)
        refuse(
          'edge-neighbour',
          `${where}: there is no bay ${flow.run} of it to be in line with.`,
          'Hold an angle, or let the edge run straight.',
          `${path}.run`,
        );
    }
  });
  surface.bays.forEach((b, i) => {
    hold(bay.span, b.span, 'span-range', `bays.${i}.span`, `, bay ${i + 1}`);
    hold(bay.sweepDeg, b.sweepDeg, 'sweep-range', `bays.${i}.sweepDeg`, `, bay ${i + 1}`);
    hold(bay.sweepAt, b.sweepAt, 'sweep-at', `bays.${i}.sweepAt`, `, bay ${i + 1}`);
    hold(bay.dihedralDeg, b.dihedralDeg, 'dihedral-range', `bays.${i}.dihedralDeg`, `, bay ${i + 1}`);
  });
  for (const key of ['x', 'y', 'z'] as const) hold(position[key], surface.position[key], 'position', `position.${key}`);
  hold(incidenceDeg, surface.incidenceDeg, 'incidence-range', 'incidenceDeg');
  hold(rollDeg, surface.rollDeg, 'turn-range', 'rollDeg');
  hold(yawDeg, surface.yawDeg, 'turn-range', 'yawDeg');
  const roll = surface.rollDeg ?? 0;
  const stands = Math.abs(Math.cos(roll * RAD));
  if (stands < LEAST_COSINE || (surface.plane === 'horizontal' && Math.cos(roll * RAD) < 0)) {
    const most = Math.sign(roll) * 75;
    refuse(
      'turn-range',
      `: a ${surface.plane} surface turns about x by at most 75°${surface.plane === 'vertical' ? ', or by 105° and more to hang down' : ''}; ${roll}° is not. Nearest that works: ${most}°.`,
      `Choose the ${surface.plane === 'horizontal' ? 'vertical' : 'horizontal'} plane.`,
      'rollDeg',
    );
  }
}
