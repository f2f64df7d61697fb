import type { Body, LiftingSurface } from '../airframe';
import type { LayoutPlan } from './plans';
import type { LayoutSizes } from './sizes';
import { mm, type LayoutState } from './state';

const ring = (x: number, size: number, z = 0): Body['stations'][number] => ({
  x: mm(x),
  width: mm(0.9 * size),
  height: mm(size),
  z: mm(z),
  shape: 'ellipse',
  corner: 0.3,
});

/** Fuselage, pod or booms of a layout at a state. */
export function bodiesOf(plan: LayoutPlan, sizes: LayoutSizes, state: LayoutState, surfaces: LiftingSurface[]): Body[] {
  const { chord, body } = sizes;
  const root = surfaces[0].stations[0].chord;
  const tailEnd = plan.arm * chord + state.nose + 0.25 * root + 0.7 * chord * (plan.second === 'behind' ? 1.6 : 0.8);
  const podEnd = state.nose + root * (plan.body === 'pod-and-boom' ? 1.15 : plan.tail === 'foreplane' ? 1.35 : 1.25);
  const place = { x: 0, y: 0, z: 0 };
  if (plan.body === 'fuselage') {
    const cabin = state.nose + root;
    return [
      {
        id: 'body',
        name: 'Fuselage',
        mirrored: false,
        position: place,
        loft: 'smooth',
        stations: [
          ring(0, plan.engine === 'nose' ? 0.35 * body : 0),
          ring(0.2 * state.nose, 0.72 * body),
          ring(0.6 * state.nose, body),
          ring(cabin, 0.92 * body),
          ring(tailEnd, 0.2 * body, 0.08 * body),
        ],
      },
    ];
  }
  const pod: Body = {
    id: 'body',
    name: 'Pod',
    mirrored: false,
    position: place,
    loft: 'smooth',
    stations: [
      ring(0, 0),
      ring(0.18 * state.nose, 0.65 * body),
      ring(0.55 * state.nose, body),
      ring(state.nose + 0.5 * root, 0.9 * body),
      ring(podEnd, 0.3 * body),
    ],
  };
  const boomFrom = state.nose + 0.4 * root;
  const boom = (y: number, z: number): Body => ({
    id: 'boom',
    name: y > 0 ? 'Booms' : 'Boom',
    mirrored: y > 0,
    position: { x: mm(boomFrom), y: mm(y), z: mm(z) },
    loft: 'straight',
    stations: [ring(0, 0.22 * body), ring(tailEnd - boomFrom, 0.12 * body)],
  });
  if (plan.body === 'pod-and-boom') return [pod, boom(0, 0)];
  if (plan.tail === 'booms') {
    const fin = surfaces.find((s) => s.id === 'fin');
    return [pod, boom(fin?.position.y ?? chord, fin?.position.z ?? 0)];
  }
  return [pod];
}
