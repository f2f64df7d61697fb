import { z } from 'zod';
import { partId, within, words } from '../limits';
import { MOST_STATIONS, SURFACE_LIMITS } from './limits';

const { position, incidenceDeg, station, bay } = SURFACE_LIMITS;

/** A place in the airframe's axes (x aft, y right, z up), m. */
export const point3 = z.object({ x: within(position.x), y: within(position.y), z: within(position.z) });

/** A place along the span: chord in m, twist in degrees against the surface's incidence, key of a section. */
export const stationSchema = z.object({
  chord: within(station.chord),
  twistDeg: within(station.twistDeg),
  section: words(64).min(1, 'needs a section'),
});

/** The stretch between two stations: span of one side in projection in m, sweep of the quarter chord and dihedral in degrees. */
export const baySchema = z.object({
  span: within(bay.span),
  sweepDeg: within(bay.sweepDeg),
  dihedralDeg: within(bay.dihedralDeg),
});

/** A lifting surface as it is saved; see docs/candidate-file.md. */
export const surfaceSchema = z
  .object({
    id: partId,
    name: words(60).min(1, 'needs a name'),
    role: z.enum(['wing', 'tailplane', 'fin']),
    plane: z.enum(['horizontal', 'vertical']),
    mirrored: z.boolean(),
    position: point3,
    incidenceDeg: within(incidenceDeg),
    stations: z.array(stationSchema).min(2).max(MOST_STATIONS),
    bays: z
      .array(baySchema)
      .min(1)
      .max(MOST_STATIONS - 1),
  })
  .refine((s) => s.bays.length === s.stations.length - 1, {
    message: 'needs one bay between each pair of stations',
    path: ['bays'],
  });
