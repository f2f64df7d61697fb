import type { Outline } from '../section';

/** An exact section: its outline and its exact flow, for checking the panel method. */
export interface ExactSection {
  outline: Outline;
  /** Speed along the loop's tangent at each outline point, at an angle of attack in rad. */
  speed(alpha: number): Float64Array;
  cl(alpha: number): number;
}

/**
 * A Kármán–Trefftz section (Joukowski when the edge angle is zero) and its exact potential flow, scaled to unit chord.
 * @param centreX, centreY centre of the generating circle, which passes through ζ = 1. @param edgeAngle trailing-edge angle, rad.
 * @param count points, spread evenly in the circle's angle unless `angles` gives them.
 * @source Milne-Thomson, Theoretical Aerodynamics, 4th ed., 1966, chapters 6 and 7.
 */
export function conformalSection(centreX: number, centreY: number, edgeAngle: number, count = 401): ExactSection {
  const power = 2 - edgeAngle / Math.PI;
  const radius = Math.hypot(1 - centreX, centreY);
  const edge = Math.atan2(-centreY, 1 - centreX);
  const map = (zx: number, zy: number): { x: number; y: number; dx: number; dy: number } => {
    // z = k ((ζ+1)^k + (ζ−1)^k) / ((ζ+1)^k − (ζ−1)^k), with k the power.
    const p = complexPower(zx + 1, zy, power);
    const m = complexPower(zx - 1, zy, power, Math.atan2(zy, zx - 1));
    const num = [p[0] + m[0], p[1] + m[1]];
    const den = [p[0] - m[0], p[1] - m[1]];
    const z = divide(num, den);
    // dz/dζ = 4 k² ((ζ²−1)^(k−1)) / den²
    const below = [den[0] * den[0] - den[1] * den[1], 2 * den[0] * den[1]];
    const p1 = complexPower(zx + 1, zy, power - 1);
    const m1 = complexPower(zx - 1, zy, power - 1, Math.atan2(zy, zx - 1));
    const top = [
      4 * power * power * (p1[0] * m1[0] - p1[1] * m1[1]),
      4 * power * power * (p1[0] * m1[1] + p1[1] * m1[0]),
    ];
    const d = divide(top, below);
    return { x: power * z[0], y: power * z[1], dx: d[0], dy: d[1] };
  };
  const x = new Float64Array(count);
  const y = new Float64Array(count);
  const dz = new Float64Array(count);
  const theta = new Float64Array(count);
  for (let i = 0; i < count; i++) {
    theta[i] = edge + (2 * Math.PI * i) / (count - 1);
    const first = i === 0 || i === count - 1;
    const p = first
      ? { x: power, y: 0, dx: 0, dy: 0 }
      : map(centreX + radius * Math.cos(theta[i]), centreY + radius * Math.sin(theta[i]));
    x[i] = p.x;
    y[i] = p.y;
    dz[i] = Math.hypot(p.dx, p.dy);
  }
  const left = Math.min(...x);
  const chord = power - left;
  for (let i = 0; i < count; i++) {
    x[i] = (x[i] - left) / chord;
    y[i] /= chord;
  }
  return {
    outline: { x, y },
    speed: (alpha) => {
      const circulation = Math.sin(alpha - edge);
      return theta.map((t, i) => {
        const onCircle = -2 * (Math.sin(t - alpha) + circulation);
        // At a sharp edge of finite angle the flow stagnates; at a cusp it keeps a finite speed.
        if (i === 0 || i === count - 1) return edgeAngle > 0 ? 0 : NaN;
        return onCircle / dz[i];
      });
    },
    cl: (alpha) => (8 * Math.PI * radius * Math.sin(alpha - edge)) / chord,
  };
}

function complexPower(x: number, y: number, k: number, angle = Math.atan2(y, x)): [number, number] {
  const r = Math.hypot(x, y) ** k;
  return [r * Math.cos(k * angle), r * Math.sin(k * angle)];
}

function divide(a: number[], b: number[]): [number, number] {
  const d = b[0] * b[0] + b[1] * b[1];
  return [(a[0] * b[0] + a[1] * b[1]) / d, (a[1] * b[0] - a[0] * b[1]) / d];
}
