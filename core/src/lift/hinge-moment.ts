/** Hinge moment coefficients of a thin section per rad, on stream pressure and the flap's chord squared; trailing edge down positive. */
export interface HingeSlopes {
  /** With the angle of attack. */ perAngle: number;
  /** With the deflection. */ perDeflection: number;
}

const STEPS = 4000;

/**
 * Hinge moment slopes of a plain flap on a thin section without viscosity: the loads of incidence and of the bent mean line, integrated behind the hinge.
 * @param hinge chord fraction, above 0 and below 1. @source thin-section theory, R&M 1095, 1927. Thickness and boundary layers take 10 to 30 % of it.
 */
export function thinHingeSlopes(hinge: number): HingeSlopes {
  const at = Math.acos(1 - 2 * hinge);
  const width = (Math.PI - at) / STEPS;
  let [angle, deflection] = [0, 0];
  for (let i = 0; i < STEPS; i++) {
    const t = at + (i + 0.5) * width;
    // Times sin t, which the element of the chord has.
    const nose = 1 + Math.cos(t);
    const bend = (Math.sin(t) / Math.PI) * Math.log(Math.abs(Math.sin((at + t) / 2) / Math.sin((at - t) / 2)));
    const arm = (0.5 * (1 - Math.cos(t)) - hinge) * 0.5 * width;
    angle -= 4 * nose * arm;
    deflection -= 4 * ((1 - at / Math.PI) * nose + bend) * arm;
  }
  const flap = (1 - hinge) ** 2;
  return { perAngle: angle / flap, perDeflection: deflection / flap };
}
