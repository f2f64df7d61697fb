import type { LayerDistribution } from '@veldtwind/core/section-flow';
import type { ChartMark } from '@/lib/chart-model';
import { LOWER, UPPER } from '@/lib/series-style';
import type { ViscousFlow } from '@/worker/compute.worker';

export type QuantityId = Exclude<keyof LayerDistribution, 'x' | 'y' | 's' | 'cp' | 'cpInviscid'>;

/** Quantities of the layers that can be charted. */
export const QUANTITIES: {
  id: QuantityId;
  name: string;
  title: string;
  says: string;
  digits: number;
  wake: boolean;
}[] = [
  {
    id: 'displacementThickness',
    name: 'δ* / c',
    title: 'Displacement thickness',
    says: 'how far the layers push the outer flow away',
    digits: 5,
    wake: true,
  },
  {
    id: 'momentumThickness',
    name: 'θ / c',
    title: 'Momentum thickness',
    says: 'the momentum that the layers have lost',
    digits: 5,
    wake: true,
  },
  {
    id: 'shapeFactor',
    name: 'H',
    title: 'Shape factor',
    says: 'δ* over θ; it rises toward separation',
    digits: 3,
    wake: true,
  },
  {
    id: 'friction',
    name: 'Cf',
    title: 'Friction',
    says: 'on local dynamic pressure; below zero the flow runs back',
    digits: 5,
    wake: false,
  },
  {
    id: 'amplification',
    name: 'n',
    title: 'Amplification',
    says: 'exponent of the largest disturbance, where the layer is laminar',
    digits: 2,
    wake: false,
  },
  {
    id: 'shearStress',
    name: 'Cτ',
    title: 'Shear stress',
    says: 'largest shear stress coefficient, where the layer is turbulent',
    digits: 5,
    wake: true,
  },
  {
    id: 'reTheta',
    name: 'Re θ',
    title: 'Momentum-thickness Reynolds number',
    says: 'local speed times θ',
    digits: 0,
    wake: false,
  },
  {
    id: 'edgeVelocity',
    name: 'u / V',
    title: 'Edge velocity',
    says: 'just outside the layers, on the stream',
    digits: 3,
    wake: true,
  },
];

/** Value of a distribution at a place along the chord, behind the nose. */
export function valueAt(d: LayerDistribution, key: QuantityId | 'cp' | 'y', x: number): number {
  let k = d.x.length - 2;
  while (k > 0 && d.x[k] > x) k--;
  const t = (x - d.x[k]) / (d.x[k + 1] - d.x[k] || 1);
  return d[key][k] + Math.max(0, Math.min(1, t)) * (d[key][k + 1] - d[key][k]);
}

export interface LayerMark {
  surface: 'top' | 'bottom';
  x: number;
  kind: 'transition' | 'laminar separation' | 'reattachment' | 'separation';
}

/** Where the layers change, behind the first hundredth and ahead of the last half per cent of the chord. */
export function layerMarks({ point }: ViscousFlow): LayerMark[] {
  const marks: LayerMark[] = [];
  for (const surface of ['top', 'bottom'] as const) {
    const end = surface === 'top' ? 'Top' : 'Bottom';
    const add = (x: number | undefined, kind: LayerMark['kind']) => {
      if (x !== undefined && (x < 0.975 || (kind === 'separation' && x < 0.995))) marks.push({ surface, x, kind });
    };
    add(point[`transition${end}`], 'transition');
    add(point[`laminarSeparation${end}`], 'laminar separation');
    add(point[`reattachment${end}`], 'reattachment');
    add(point[`separation${end}`], 'separation');
  }
  return marks;
}

/** The same as marks on a chart of a quantity; one word where several lie close together. */
export function marksOfLayers(flow: ViscousFlow, key: QuantityId | 'cp'): ChartMark[] {
  const out: ChartMark[] = [];
  const all = layerMarks(flow);
  for (const m of all) {
    const y = valueAt(flow.distributions![m.surface], key, m.x);
    if (!Number.isFinite(y)) continue;
    const bubble =
      m.kind !== 'separation' && all.some((o) => o.surface === m.surface && o.kind === 'laminar separation');
    // A bubble's three marks lie together: transition carries its name.
    const text = m.kind === 'transition' ? (bubble ? 'bubble, transition' : 'transition') : bubble ? '' : m.kind;
    out.push({ x: m.x, y, text, colour: m.surface === 'top' ? UPPER.colour : LOWER.colour });
  }
  return out;
}
