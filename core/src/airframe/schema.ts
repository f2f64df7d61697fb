import { z } from 'zod';
import { partId, within, words } from '../limits';
import { surfaceStructure } from '../structure';
import { MOST_CONTROLS, MOST_STATIONS, SURFACE_LIMITS } from './limits';

const L = SURFACE_LIMITS;

/** A place in the airframe's axes (x aft, y right, z up), m. */
export const point3 = z.object({ x: within(L.position.x), y: within(L.position.y), z: within(L.position.z) });

const edgeFlow = z
  .object({
    run: z.enum(['straight', 'held', 'inboard', 'outboard']),
    angleDeg: within(L.edge.angleDeg).optional(),
    reach: within(L.edge.reach).optional(),
    reachOutboard: within(L.edge.reachOutboard).optional(),
  })
  .refine((e) => e.run !== 'held' || e.angleDeg !== undefined, {
    message: 'needs the angle that it is held at',
    path: ['angleDeg'],
  });

/** A place along the span: chord in m, twist in degrees, key of a section, and how the edges run through it. */
export const stationSchema = z.object({
  chord: within(L.station.chord),
  twistDeg: within(L.station.twistDeg),
  twistAbout: within(L.station.twistAbout).optional(),
  twistRelative: z.boolean().optional(),
  section: words(64).min(1, 'needs a section'),
  edges: z
    .object({ leading: edgeFlow.optional(), trailing: edgeFlow.optional(), rise: edgeFlow.optional() })
    .optional(),
});

/** The stretch between two stations: span of one side in projection in m, sweep and dihedral in degrees. */
export const baySchema = z.object({
  span: within(L.bay.span),
  sweepDeg: within(L.bay.sweepDeg),
  sweepAt: within(L.bay.sweepAt).optional(),
  dihedralDeg: within(L.bay.dihedralDeg),
  dihedralRelative: z.boolean().optional(),
});

/** A flap or control surface; shares of the half span, chord fraction of the hinge, degrees. */
export const controlSchema = z
  .object({
    id: partId,
    name: words(60).min(1, 'needs a name'),
    from: within(L.control.from),
    to: within(L.control.to),
    hinge: within(L.control.hinge),
    kind: z.enum(['symmetric', 'opposed']),
    deflectionDeg: within(L.control.deflectionDeg).default(0),
    limitsDeg: z.tuple([within(L.control.limitDeg), within(L.control.limitDeg)]).default([-25, 25]),
    riggingDeg: within(L.control.riggingDeg).optional(),
  })
  .superRefine((c, context) => {
    const refuse = (path: string, message: string) => context.addIssue({ code: 'custom', path: [path], message });
    if (!(c.to > c.from)) refuse('to', `must lie outboard of its inner end, ${c.from}`);
    const [low, high] = c.limitsDeg;
    if (low > high) refuse('limitsDeg', `must go from the least to the greatest; ${low} to ${high} do not`);
    else if (c.deflectionDeg < low || c.deflectionDeg > high)
      refuse(
        'deflectionDeg',
        `must lie within the limits of ${c.name}, ${low}° to ${high}°; ${c.deflectionDeg}° does not. Nearest that works: ${Math.min(high, Math.max(low, c.deflectionDeg))}°`,
      );
  });

const attachment = z.union([
  z.object({ surface: partId, share: within(L.attachedShare), chord: within(L.attachedChord).optional() }),
  z.object({ body: partId, share: within(L.attachedShare) }),
]);

const names = z.array(words(30)).max(10);

/** How the right half of a mirrored surface is built otherwise than the left: right less left; degrees, kg, share of the profile drag. */
export const asymmetrySchema = z
  .object({
    incidenceDeg: within(L.asymmetry.incidenceDeg),
    twistDeg: within(L.asymmetry.twistDeg),
    dihedralDeg: within(L.asymmetry.dihedralDeg),
    mass: within(L.asymmetry.mass),
    drag: within(L.asymmetry.drag),
  })
  .partial();

/** A lifting surface as it is saved; see docs/candidate-file.md. */
export const surfaceSchema = z
  .object({
    id: partId,
    name: words(60).min(1, 'needs a name'),
    role: z.enum(['wing', 'tailplane', 'foreplane', 'fin']),
    plane: z.enum(['horizontal', 'vertical']),
    mirrored: z.boolean(),
    position: point3,
    attachedTo: attachment.optional(),
    incidenceDeg: within(L.incidenceDeg),
    rollDeg: within(L.rollDeg).optional(),
    yawDeg: within(L.yawDeg).optional(),
    sectionsStand: z.enum(['upright', 'normal']).optional(),
    stations: z
      .array(stationSchema)
      .min(2, 'needs two stations or more')
      .max(MOST_STATIONS, `has at most ${MOST_STATIONS} stations`),
    bays: z
      .array(baySchema)
      .min(1, 'needs a bay')
      .max(MOST_STATIONS - 1, `has at most ${MOST_STATIONS - 1} bays`),
    controls: z.array(controlSchema).max(MOST_CONTROLS, `has at most ${MOST_CONTROLS} controls`).optional(),
    pressureRatio: within(L.pressureRatio).optional(),
    streamEffects: z
      .object({ wake: z.boolean().optional(), slipstream: z.boolean().optional(), carryOver: z.boolean().optional() })
      .optional(),
    structure: surfaceStructure.optional(),
    asymmetry: asymmetrySchema.optional(),
    held: z.object({ surface: names, bays: z.array(names).max(MOST_STATIONS).optional() }).optional(),
  })
  .refine((s) => s.bays.length === s.stations.length - 1, {
    message: 'needs one bay between each pair of stations',
    path: ['bays'],
  });
