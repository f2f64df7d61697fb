import { DEG } from '../numerics';
import type { SolvedPoint } from '../section-flow';
import { plain, quantitiesOf } from './quantity';

/** A place along the chord that not every point has. */
const place = (id: string, symbol: string, name: string, of: (p: SolvedPoint) => number | undefined) =>
  plain<SolvedPoint>(id, symbol, name, 3, (p) => of(p) ?? null);

/** What a flow without viscosity gives, too. */
export type Forces = Pick<SolvedPoint, 'cl' | 'cd' | 'cm' | 'cpMin'>;
const cl = plain<Forces>('cl', 'cl', 'lift coefficient', 4, (p) => p.cl);
const cd = plain<Forces>('cd', 'cd', 'drag coefficient', 5, (p) => p.cd);
const cm = plain<Forces>('cm', 'cm', 'moment about the quarter chord', 4, (p) => p.cm);
const cpMin = plain<Forces>('cp-min', 'least Cp', 'least pressure coefficient', 3, (p) => p.cpMin);

/** Quantities of a section at one angle, with viscosity or without. */
export const FORCE_QUANTITIES = quantitiesOf<Forces>([cl, cd, cm, cpMin]);

/** Drag in counts: ten-thousandths. */
const counts = (id: string, symbol: string, name: string, of: (p: SolvedPoint) => number) => ({
  ...plain<SolvedPoint>(id, symbol, name, 1, (p) => 1e4 * of(p)),
  per: 'counts',
});

/** Quantities of a section at one angle with viscosity, in the order in which they are printed. */
export const POLAR_QUANTITIES = quantitiesOf<SolvedPoint>([
  {
    id: 'alpha',
    symbol: 'α',
    name: 'angle of attack',
    dimension: 'angle',
    digits: 4,
    of: (p) => p.alpha * DEG,
  },
  plain('Re', 'Re', 'Reynolds number', 0, (p) => p.reynolds),
  cl,
  cd,
  plain('friction', 'cd friction', 'drag of friction', 5, (p) => p.cdFriction),
  cm,
  cpMin,
  place('transition-top', 'x / c transition, top', 'transition on the upper surface', (p) => p.transitionTop),
  place('transition-bottom', 'x / c transition, bottom', 'transition on the lower surface', (p) => p.transitionBottom),
  place('separation-top', 'x / c separation, top', 'separation on the upper surface', (p) => p.separationTop),
  place('separation-bottom', 'x / c separation, bottom', 'separation on the lower surface', (p) => p.separationBottom),
  plain('pressure-drag', 'cd pressure', 'drag of pressure', 5, (p) => p.cdPressure),
  // Where drag is next to nothing a ratio to it says nothing.
  plain('ratio', 'cl / cd', 'lift over drag', 1, (p) => (p.cd > 1e-6 ? p.cl / p.cd : null)),
  plain('climb', 'cl^1.5 / cd', 'climb ratio', 1, (p) => (p.cd > 1e-6 && p.cl > 0 ? p.cl ** 1.5 / p.cd : null)),
  plain('mach-critical', 'M crit', 'critical Mach number', 3, (p) => p.machCritical),
  plain('wave-drag', 'cd wave', 'drag of shocks, estimated', 5, (p) => p.cdWave ?? 0),
  counts('cd-counts', 'cd', 'drag in counts', (p) => p.cd),
  counts('friction-counts', 'cd friction', 'drag of friction in counts', (p) => p.cdFriction),
  counts('pressure-counts', 'cd pressure', 'drag of pressure in counts', (p) => p.cdPressure),
  counts('wave-counts', 'cd wave', 'drag of shocks in counts', (p) => p.cdWave ?? 0),
  plain(
    'hinge-moment',
    'hinge moment',
    "flap's hinge moment on its chord",
    4,
    (p) => p.hinge?.momentOnFlapChord ?? null,
  ),
]);
