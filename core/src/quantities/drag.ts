import type { DragBuildUp } from '../drag';
import { quantitiesOf } from './quantity';

/** Drag of the shape without lift, by the build-up. */
export const DRAG_QUANTITIES = quantitiesOf<DragBuildUp>([
  {
    id: 'drag.zeroLiftForce',
    symbol: 'D₀',
    name: 'zero-lift drag',
    says: 'friction, form and interference of all parts, and the allowances',
    formula: 'D₀ = q S CD₀',
    dimension: 'force',
    digits: 2,
    of: (b) => b.drag,
  },
  {
    id: 'drag.zeroLiftCoefficient',
    symbol: 'CD₀',
    name: 'zero-lift drag coefficient',
    formula: 'CD₀ = Σ cf F Q S_wet/S + allowances',
    dimension: 'plain',
    digits: 5,
    of: (b) => b.CD,
  },
  {
    id: 'drag.zeroLiftCounts',
    symbol: 'CD₀',
    name: 'zero-lift drag, counts',
    says: 'a count is 0.0001 of the coefficient',
    formula: '10⁴ CD₀',
    dimension: 'plain',
    digits: 1,
    per: 'counts',
    of: (b) => 1e4 * b.CD,
  },
  {
    id: 'drag.dragArea',
    symbol: 'D₀/q',
    name: 'drag area',
    says: 'area of a unit drag coefficient',
    formula: 'D₀/q = CD₀ S',
    dimension: 'area',
    digits: 5,
    of: (b) => b.dragArea,
  },
  {
    id: 'drag.wettedArea',
    symbol: 'S wet',
    name: 'wetted area',
    says: 'of all surfaces and bodies, both sides',
    formula: 'Σ S_wet',
    dimension: 'area',
    of: (b) => b.parts.reduce((sum, p) => sum + p.wettedArea, 0),
  },
]);
