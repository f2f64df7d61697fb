import { DEG } from '../numerics';
import type { LayerDistribution } from '../section-flow';
import type { SectionFacts } from '../section';
import { quantitiesOf, type Quantity } from './quantity';

/** Facts of a section's shape, by which a library is shown, sorted and filtered. */
export const SECTION_QUANTITIES = quantitiesOf<SectionFacts>([
  {
    id: 'thickness',
    symbol: 'thickness',
    name: 'greatest thickness',
    dimension: 'ratio',
    digits: 2,
    of: (f) => f.thickness.max,
  },
  {
    id: 'thickness-at',
    symbol: 'thickness at',
    name: 'place of the greatest thickness',
    dimension: 'ratio',
    per: '% c',
    of: (f) => f.thickness.at,
  },
  { id: 'camber', symbol: 'camber', name: 'greatest camber', dimension: 'ratio', digits: 2, of: (f) => f.camber.max },
  {
    id: 'camber-at',
    symbol: 'camber at',
    name: 'place of the greatest camber',
    dimension: 'ratio',
    per: '% c',
    of: (f) => f.camber.at,
  },
  { id: 'nose', symbol: 'nose radius', name: 'nose radius', dimension: 'ratio', digits: 2, of: (f) => f.noseRadius },
  {
    id: 'edge',
    symbol: 'edge angle',
    name: 'trailing-edge angle',
    dimension: 'angle',
    digits: 1,
    of: (f) => DEG * f.trailingEdge.angle,
  },
  {
    id: 'gap',
    symbol: 'edge gap',
    name: 'trailing-edge gap',
    dimension: 'ratio',
    digits: 2,
    of: (f) => f.trailingEdge.gap,
  },
  { id: 'area', symbol: 'area', name: 'area', dimension: 'plain', digits: 4, per: 'c²', of: (f) => f.area },
]);

/** Quantities along the layers that can be charted. */
export type LayerKey = Exclude<keyof LayerDistribution, 'x' | 'y' | 's' | 'cp' | 'cpInviscid'>;

/** One station of a layer. */
export interface LayerStation {
  layer: LayerDistribution;
  index: number;
}

/** A quantity along the layers, with what it says and whether the wake has it. */
export interface LayerQuantity extends Quantity<LayerStation> {
  id: LayerKey;
  says: string;
  wake: boolean;
}

const along =
  (key: LayerKey) =>
  ({ layer, index }: LayerStation) => {
    const v = layer[key][index];
    return Number.isFinite(v) ? v : null;
  };
const layer = (
  id: LayerKey,
  symbol: string,
  name: string,
  says: string,
  digits: number,
  wake: boolean,
): LayerQuantity => ({
  id,
  symbol,
  name,
  says,
  digits,
  wake,
  dimension: 'plain',
  of: along(id),
});

export const LAYER_QUANTITIES: readonly LayerQuantity[] = [
  layer(
    'displacementThickness',
    'δ* / c',
    'Displacement thickness',
    'how far the layers push the outer flow away',
    5,
    true,
  ),
  layer('momentumThickness', 'θ / c', 'Momentum thickness', 'the momentum that the layers have lost', 5, true),
  layer('shapeFactor', 'H', 'Shape factor', 'δ* over θ; it rises toward separation', 3, true),
  layer('friction', 'Cf', 'Friction', 'on local dynamic pressure; below zero the flow runs back', 5, false),
  layer(
    'amplification',
    'n',
    'Amplification',
    'exponent of the largest disturbance, where the layer is laminar',
    2,
    false,
  ),
  layer('shearStress', 'Cτ', 'Shear stress', 'largest shear stress coefficient, where the layer is turbulent', 5, true),
  layer('reTheta', 'Re θ', 'Momentum-thickness Reynolds number', 'local speed times θ', 0, false),
  layer('edgeVelocity', 'u / V', 'Edge velocity', 'just outside the layers, on the stream', 3, true),
];
