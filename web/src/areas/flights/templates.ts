import { scenarioPart, type BriefPart, type ScenarioPart } from '@veldtwind/core/project';

/** Scenarios to begin from. */
export const TEMPLATES = [
  { id: 'doublet', name: 'Doublet in level flight' },
  { id: 'rail', name: 'From the rail' },
  { id: 'throw', name: 'Thrown by hand' },
  { id: 'gust', name: 'Through a gust' },
  { id: 'round', name: 'Around way-points' },
] as const;
export type TemplateId = (typeof TEMPLATES)[number]['id'];

/**
 * A scenario at the brief's speed and altitude.
 * @param pitch name of the control that pitches, where there is one. @param x of the centre of gravity. @param weight N. @param engine whether the candidate has one.
 */
export function fromTemplate(
  kind: TemplateId,
  id: string,
  brief: BriefPart,
  of: { pitch: string | null; x: number; z: number; weight: number; span: number; engine: boolean },
): ScenarioPart {
  const height = 120;
  const ground = Math.max(0, Math.round(brief.altitude - height));
  const { speed } = brief;
  const propeller = {
    power: Math.round((of.weight * speed) / 5),
    diameter: Number((0.12 * of.span).toFixed(2)),
    position: { x: of.x + 0.8, y: 0, z: of.z },
  };
  // A candidate with an engine flies it; else a first propeller is given.
  const pushed = of.engine ? {} : { propeller };
  const flight = { kind: 'flight', speed, height };
  const scenarios: Record<TemplateId, object> = {
    doublet: {
      launch: flight,
      duration: 12,
      ...pushed,
      inputs: of.pitch ? [{ kind: 'doublet', control: of.pitch, at: 1, duration: 1, amountDeg: 3 }] : [],
    },
    rail: {
      launch: { kind: 'rail', length: 6, elevationDeg: 12, height: 0.5 },
      duration: 20,
      ...pushed,
      throttle: 0.7,
      boosts: [
        {
          name: 'launcher',
          // Enough for the brief's speed at the end of the rail.
          thrust: [
            [0, Math.round((of.weight / 9.81) * (speed * speed) * 0.095)],
            [0.5, Math.round((of.weight / 9.81) * (speed * speed) * 0.095)],
          ],
          position: { x: of.x, y: 0, z: of.z },
        },
      ],
    },
    throw: { launch: { kind: 'hand', speed: Math.round(0.7 * speed), height: 1.8, elevationDeg: 8 }, duration: 30 },
    gust: {
      launch: flight,
      duration: 15,
      ...pushed,
      gusts: [{ axis: 'up', amplitude: 4, start: 2, duration: 0.6 }],
      turbulence: { windAt6m: 4, seed: 1 },
    },
    round: {
      launch: flight,
      duration: 120,
      ...pushed,
      waypoints: [
        { name: 'gate', x: 500, y: 0, height: height + 20, radius: 30 },
        { name: 'corner', x: 800, y: 500, height: height + 40, radius: 40 },
        { name: 'home', x: 100, y: 400, height, radius: 40 },
      ],
    },
  };
  const name = TEMPLATES.find((t) => t.id === kind)!.name;
  return scenarioPart.parse({
    id,
    name,
    scenario: { ground, ...scenarios[kind] },
    loops: {
      on: kind === 'round' || kind === 'rail',
      from: kind === 'rail' ? 1 : 0,
      throttle: kind === 'round',
      wanted: kind === 'round' ? { course: 'waypoints', height: 'waypoints' } : {},
    },
  });
}
