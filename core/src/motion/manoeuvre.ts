import { GRAVITY } from '../atmosphere';
import type { MotionCase } from './derivatives';

/** What a pull-up at constant speed asks for; margins over the reference chord. */
export interface Manoeuvre {
  /** How far aft the centre of gravity may move until a pull-up needs no deflection any more. */ margin: number;
  /** Deflection for one more g, rad; by the control's name; null where it does not pitch. */
  deflectionPerG: Record<string, number | null>;
  /** Angle of attack for one more g with the first control that pitches held to it, rad. */ alphaPerG: number | null;
}

/**
 * Stick-fixed manoeuvre margin and the deflection per g of a steady pull-up: q = (n − 1) g / V, speed constant, the derivatives those of the trim.
 * @source Etkin and Reid, Dynamics of Flight, 3rd ed., 1996, §3.1.
 */
export function manoeuvreOf(c: MotionCase): Manoeuvre {
  const { derivatives: d, chord, speed, area, density, mass } = c;
  // Per g: the pitch rate made non-dimensional, and the lift coefficient of the weight.
  const rate = ((GRAVITY / speed) * chord) / (2 * speed);
  const weight = (mass * GRAVITY) / (0.5 * density * speed * speed * area);
  const free = weight - d.CL_q * rate;
  const margin = -(d.Cm_alpha * free + d.Cm_q * rate * d.CL_alpha) / (d.CL_alpha * weight);
  const deflectionPerG: Manoeuvre['deflectionPerG'] = {};
  let alphaPerG: number | null = null;
  for (const [name, k] of Object.entries(d.controls)) {
    // CLα a + CLδ e = W − CLq q, Cmα a + Cmδ e = −Cmq q.
    const det = d.CL_alpha * k.Cm - k.CL * d.Cm_alpha;
    if (Math.abs(k.Cm) < 1e-4 || Math.abs(det) < 1e-9 || Math.abs(k.Cl) > 1e-6) {
      deflectionPerG[name] = null;
      continue;
    }
    deflectionPerG[name] = (d.CL_alpha * (-d.Cm_q * rate) - d.Cm_alpha * free) / det;
    alphaPerG ??= (free * k.Cm + k.CL * d.Cm_q * rate) / det;
  }
  return { margin, deflectionPerG, alphaPerG };
}
