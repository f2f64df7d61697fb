import { RAD } from '../numerics';
import type { Servo } from './schema';

/** What a servo gives at a deflection, or why it gives nothing. */
export type Given =
  | {
      /** Torque about the hinge, N·m. */ torque: number;
      /** Where the servo stands, rad. */ servo: number;
    }
  | { torque: null; reason: string };

/**
 * Torque about a control's hinge that its servo can hold at a deflection. Arm and horn stand square to a long rod at rest, so that their ends move alike
 * along it: arm · sin φ = horn · sin δ; what the servo's torque does over dφ, the hinge's does over dδ.
 * @param deflection rad. @returns a reason instead where arm or horn is missing, or the servo does not reach so far.
 */
export function servoGives(servo: Servo, deflection: number): Given {
  const { torque, travelDeg, arm, horn } = servo;
  if (arm === undefined || horn === undefined)
    return {
      torque: null,
      reason: `The servo has no ${arm === undefined ? (horn === undefined ? 'arm and no horn' : 'arm') : 'horn'}: what it gives at the hinge is not known.`,
    };
  const sine = (horn / arm) * Math.sin(deflection);
  const turn = Math.abs(sine) < 1 ? Math.asin(sine) : NaN;
  if (!(Math.abs(turn) <= travelDeg * RAD + 1e-9))
    return {
      torque: null,
      reason: `The servo does not reach ${(deflection / RAD).toFixed(1)}°: ${
        Number.isNaN(turn)
          ? 'the horn is too long for the arm'
          : `it would turn ${Math.abs(turn / RAD).toFixed(0)}° of ${travelDeg}°`
      }.`,
    };
  return { torque: (torque * horn * Math.cos(deflection)) / (arm * Math.cos(turn)), servo: turn };
}
