import type { PathLine } from '@/components/view3d/FlightPath.vue';

/**
 * Small motions as a path in space: speed and angles change about steady flight to the north, so many times as large as they are.
 * @param states one list a time, of u, w, q, θ or v, p, r, φ (SI). @param alpha of the trim, rad.
 */
export function flownResponse(
  states: readonly (readonly number[])[],
  longitudinal: boolean,
  step: number,
  speed: number,
  alpha: number,
  times: number,
): Omit<PathLine, 'id' | 'colour' | 'dash'> {
  const out = { x: [0], y: [0], h: [0], phi: [0], theta: [alpha], psi: [0] };
  let [x, y, h, psi] = [0, 0, 0, 0];
  states.forEach((s, i) => {
    const [a, b, r, d] = s.map((v) => v * times);
    if (i > 0) {
      if (longitudinal) {
        x += (speed + a) * step;
        h += (speed * d - b) * step;
      } else {
        psi += r * step;
        x += speed * step;
        y += (speed * psi + a) * step;
      }
    }
    out.x[i] = x;
    out.y[i] = y;
    out.h[i] = h;
    out.phi[i] = longitudinal ? 0 : d;
    out.theta[i] = alpha + (longitudinal ? d : 0);
    out.psi[i] = psi;
  });
  // Over the ground, so that the lowest place is not under it.
  const low = Math.min(...out.h);
  out.h = out.h.map((v) => v - low + 0.06 * Math.max(1, x));
  return out;
}
