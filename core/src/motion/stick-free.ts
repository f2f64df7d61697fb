import type { LiftingSurface } from '../airframe';
import { stripShares, thinFlapLift, thinHingeSlopes, type HingeSlopes } from '../lift';
import type { AirframeSource, StateCoefficients } from './airframe-motion';

/** A control whose hinge moment nobody holds. */
export interface StickFree {
  control: string;
  name: string;
  /** On the mean flap chord squared and the flap's span, per rad: with the angle of the whole aircraft, and with the deflection. */ hinge: HingeSlopes;
  /** How far the control floats when the angle changes, rad per rad: against the stream positive. */ floats: number;
  /** Neutral point less centre, over the chord, with the control free. */ staticMargin: number;
}

/**
 * Static margin with a control that is free to turn about its hinge without friction, mass or balance: it floats to where its hinge moment vanishes.
 * Hinge moments are those of thin sections at the angle that each strip of the lattice meets.
 * @param state the trimmed angle, rad. @param slopes of the whole aircraft with the angle, controls fixed, per rad. @param effect of the control, per rad.
 * @returns null where the control has no strips. @source Etkin and Reid, Dynamics of Flight, 3rd ed., 1996, §2.6; sections: {@link thinHingeSlopes}.
 */
export function stickFree(
  source: AirframeSource,
  alpha: number,
  controlId: string,
  slopes: Pick<StateCoefficients, 'CL' | 'Cm'>,
  effect: Pick<StateCoefficients, 'CL' | 'Cm'>,
): StickFree | null {
  const surface = source.surfaces.find((s) => s.controls?.some((c) => c.id === controlId));
  const control = surface?.controls?.find((c) => c.id === controlId);
  if (!surface || !control || control.kind !== 'symmetric') return null;
  const hinge = hingeOfLattice(source, surface, control, alpha);
  if (!hinge || !(hinge.perDeflection < 0)) return null;
  const floats = -hinge.perAngle / hinge.perDeflection;
  const [CL, Cm] = [slopes.CL + effect.CL * floats, slopes.Cm + effect.Cm * floats];
  return { control: controlId, name: control.name || control.id, hinge, floats, staticMargin: -Cm / CL };
}

/** Slopes of a control's hinge moment over its span in the flow of the whole airframe. */
function hingeOfLattice(
  { lattice }: AirframeSource,
  surface: LiftingSurface,
  control: NonNullable<LiftingSurface['controls']>[number],
  alpha: number,
): HingeSlopes | null {
  const h = 1e-3;
  const [section, flap] = [thinHingeSlopes(control.hinge), thinFlapLift(control.hinge)];
  const parts = lattice.lattice.parts;
  const clear = (state: Parameters<typeof lattice.at>[0]) => {
    const { strips } = lattice.at(state);
    return strips.map((s) => s.cl);
  };
  const between = (up: number[], down: number[]) => up.map((v, i) => (v - down[i]) / (2 * h));
  const byAngle = between(clear({ alpha: alpha + h }), clear({ alpha: alpha - h }));
  const byTurn = between(
    clear({ alpha, controls: { [control.id]: h } }),
    clear({ alpha, controls: { [control.id]: -h } }),
  );
  let [start, weight, perAngle, perDeflection] = [0, 0, 0, 0];
  for (const part of parts) {
    if (part.id === surface.id) {
      const shares = stripShares(part, control.from, control.to);
      for (let s = 0; s < part.strips; s++) {
        if (shares[s] === 0) continue;
        const moment = shares[s] * part.width[s] * (part.chord[s] * (1 - control.hinge)) ** 2;
        // What a section carries beside its own flap is its angle.
        const angle = byAngle[start + s] / (2 * Math.PI);
        const turned = (byTurn[start + s] - shares[s] * flap) / (2 * Math.PI);
        weight += moment;
        perAngle += moment * section.perAngle * angle;
        perDeflection += moment * (section.perDeflection + section.perAngle * turned);
      }
    }
    start += part.strips;
  }
  return weight > 0 ? { perAngle: perAngle / weight, perDeflection: perDeflection / weight } : null;
}
