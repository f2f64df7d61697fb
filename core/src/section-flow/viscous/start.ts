import { marchLayer } from '../boundary-layer';
import type { PanelNodes } from '../panelling';
import type { Coupling } from './coupling';
import {
  criticalOf,
  emptyLayers,
  orderStations,
  stagnationPanel,
  streamOf,
  tripArc,
  type Layers,
  type ViscousConditions,
} from './layers';

/**
 * A first guess: both layers marched with the inviscid speed, with their shape prescribed where that speed would separate them, and a wake
 * that carries their sum on.
 * @param dead still air behind a blunt edge, by wake node.
 * @throws FailedComputation where even the marching fails.
 */
export function freshLayers(
  nodes: PanelNodes,
  coupling: Coupling,
  conditions: ViscousConditions,
  dead: Float64Array,
): Layers {
  const { s, x } = nodes;
  const n = s.length;
  const total = n + coupling.wake;
  const layers = emptyLayers(total);
  const { inviscid } = coupling;
  const panel = stagnationPanel(s, inviscid.subarray(0, n), nodes.nose);
  layers.stagnation =
    panel < 0
      ? nodes.nose
      : s[panel] + ((s[panel + 1] - s[panel]) * -inviscid[panel]) / (inviscid[panel + 1] - inviscid[panel]);
  const stations = orderStations(s, coupling.wake, layers.stagnation, layers.side, {
    order: new Int32Array(total),
    upper: 0,
    lower: 0,
  });
  layers.velocity.set(inviscid);
  const flow = streamOf(conditions);
  const critical = criticalOf(conditions);
  for (const surface of [0, 1] as const) {
    const from = surface === 0 ? 0 : stations.upper;
    const to = surface === 0 ? stations.upper : stations.lower;
    const sign = surface === 0 ? -1 : 1;
    const side = stations.order.subarray(from, to);
    const at = Float64Array.from(side, (i) => Math.abs(s[i] - layers.stagnation));
    const trip = tripArc(
      x,
      s,
      layers.stagnation,
      surface === 0,
      surface === 0 ? conditions.tripTop : conditions.tripBottom,
    );
    const bound = Math.abs(trip - layers.stagnation);
    const layer = marchLayer(
      at,
      Float64Array.from(side, (i) => Math.max(1e-3, sign * inviscid[i])),
      {
        flow,
        criticalAmplification: critical[surface],
        similarity: 1,
        trip: Math.min(bound, at[at.length - 1]),
        lenient: true,
      },
    );
    const place = Math.min(layer.transition ?? at[at.length - 1], bound);
    layers.transition[surface] = layers.stagnation + sign * place;
    layers.held[surface] = place >= bound * (1 - 1e-9);
    side.forEach((node, i) => {
      layers.c[node] = layer.c[i];
      layers.turbulent[node] = layer.kind[i] === 'turbulent' ? 1 : 0;
      layers.theta[node] = layer.theta[i];
      layers.velocity[node] = sign * layer.speed[i];
      layers.mass[node] = sign * layer.speed[i] * layer.displacement[i];
    });
  }
  const [a, b] = [stations.order[stations.upper - 1], stations.order[stations.lower - 1]];
  const edge = 0.5 * (layers.velocity[b] - layers.velocity[a]);
  const theta = layers.theta[a] + layers.theta[b];
  const shape = Math.max(1.1, (layers.mass[a] / layers.velocity[a] + layers.mass[b] / layers.velocity[b]) / theta);
  const shear = (layers.c[a] * layers.theta[a] + layers.c[b] * layers.theta[b]) / theta;
  for (let w = 0; w < coupling.wake; w++) {
    const node = n + w;
    const least = 1.05 + 0.4 * (conditions.mach ?? 0) ** 2;
    const h = least + Math.max(0.05, shape - least) * Math.exp(-coupling.wakeS[w] / 0.15);
    const u = w === 0 ? edge : Math.max(0.3, inviscid[node]);
    layers.velocity[node] = u;
    layers.theta[node] = theta * (edge / u) ** (2 + h);
    layers.mass[node] = u * (h * layers.theta[node] + dead[w]);
    layers.c[node] = Math.max(0.02, w === 0 ? shear : layers.c[node - 1] * 0.95);
  }
  return layers;
}
