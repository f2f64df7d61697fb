import type { Body, LiftingSurface, SectionLookup } from '../airframe';
import { estimatedItems, partContent, type MassItem } from '../balance';
import { energySchema } from '../performance';
import type { CandidatePart } from '../project';
import { engineSchema, PISTON_LAPSE } from '../propulsion';
import type { LayoutPlan } from './plans';
import { ELECTRIC_UP_TO, type LayoutNumbers, type LayoutSizes } from './sizes';
import { mm, type LayoutState } from './state';

/** x of the places that may hold a payload, m. */
export const roomOf = (plan: LayoutPlan, state: LayoutState, chord: number): [number, number] => [
  0.12 * state.nose,
  state.nose + (plan.second === 'behind' ? plan.arm : plan.tail === 'tip-fins' ? 1.3 : 0.9) * chord,
];

/** Structure, equipment, engine, battery or fuel, and payload; together the mass that is asked for. */
export function itemsOf(
  plan: LayoutPlan,
  sizes: LayoutSizes,
  numbers: LayoutNumbers,
  state: LayoutState,
  surfaces: LiftingSurface[],
  bodies: Body[],
  lookup: SectionLookup,
): MassItem[] {
  const { masses, body, chord } = sizes;
  const skins = [...surfaces, ...bodies].reduce(
    (sum, p) => sum + (partContent(p.id, 'skin', surfaces, bodies, lookup) ?? 0),
    0,
  );
  const structure = estimatedItems(surfaces, bodies, lookup, {
    skin: masses.structure / skins,
    solid: 0,
    rib: 0,
    ribSpacing: 0.1,
  });
  const long = 0.35 * chord;
  const box = (id: string, name: string, mass: number, x: number): MassItem => ({
    id,
    name,
    mass: Number(mass.toPrecision(4)),
    position: { x: mm(x), y: 0, z: 0 },
    shape: 'box',
    size: { x: mm(long), y: mm(0.5 * body), z: mm(0.5 * body) },
  });
  const out: MassItem[] = [...structure, box('equipment', 'Equipment', masses.equipment, 0.6 * state.nose)];
  if (masses.engine > 0)
    out.push({
      id: 'engine',
      name:
        plan.pushedBy === 'thrust'
          ? 'Jet engine'
          : numbers.push <= ELECTRIC_UP_TO
            ? 'Motor and propeller'
            : 'Engine and propeller',
      mass: Number(masses.engine.toPrecision(4)),
      position: engineAt(plan, bodies),
    });
  const battery = plan.pushedBy === 'none' || (plan.pushedBy === 'power' && numbers.push <= ELECTRIC_UP_TO);
  out.push(box('energy', battery ? 'Battery' : 'Fuel', masses.energy, state.energyX));
  const sum = out.reduce((m, i) => m + i.mass, 0);
  out.push(
    box('payload', plan.pushedBy === 'none' ? 'Ballast and payload' : 'Payload', numbers.mass - sum, state.payloadX),
  );
  return out;
}

function engineAt(plan: LayoutPlan, [body]: Body[]): { x: number; y: number; z: number } {
  const last = body.stations[body.stations.length - 1];
  const x = plan.engine === 'nose' ? 0.01 * last.x : plan.engine === 'rear' ? last.x : 0.6 * last.x;
  return { x: mm(x), y: 0, z: mm(plan.engine === 'rear' ? last.z : 0) };
}

/** Engine and energy. */
export function engineOf(
  plan: LayoutPlan,
  sizes: LayoutSizes,
  numbers: LayoutNumbers,
  bodies: Body[],
): Pick<CandidatePart, 'engine' | 'energy'> {
  if (plan.pushedBy === 'none') return { engine: engineSchema.parse({ kind: 'none' }) };
  const position = engineAt(plan, bodies);
  const fuel = (consumption: number, per: 'power' | 'thrust') =>
    energySchema.parse({ kind: 'fuel', mass: Number(sizes.masses.energy.toPrecision(3)), consumption, per });
  if (plan.pushedBy === 'thrust')
    return {
      engine: engineSchema.parse({ kind: 'jet', thrust: numbers.push, position }),
      energy: fuel(0.16, 'thrust'),
    };
  const engine = engineSchema.parse({
    kind: 'power',
    power: numbers.push,
    efficiency: 0.7,
    diameter: Number(sizes.propeller.toPrecision(3)),
    ...(numbers.push > ELECTRIC_UP_TO && { powerDensityExponent: PISTON_LAPSE }),
    position,
  });
  return {
    engine,
    energy:
      numbers.push <= ELECTRIC_UP_TO
        ? energySchema.parse({ kind: 'battery', capacity: Math.round(170 * sizes.masses.energy) || 1 })
        : fuel(0.32, 'power'),
  };
}
