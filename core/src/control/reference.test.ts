import { closeLoops, controlModel } from '.';
import reference from '../../reference/control.json';

// Made by core/reference/control.py with another library.
describe('loops against another way of computing them', () => {
  const { loops } = closeLoops(controlModel.parse(reference.model));
  it.each(reference.loops.map((r, i) => [reference.model.loops[i].from, r, loops[i]] as const))(
    '%s',
    (_, expected, made) => {
      expect(Math.abs(made.gainMarginDb! - expected.gainMarginDb)).toBeLessThan(1e-6);
      // The other way tells the lead that a stable loop bears below zero.
      const signed = made.phaseWay === 'lead' ? -made.phaseMarginDeg! : made.phaseMarginDeg!;
      expect(Math.abs(signed - expected.phaseMarginDeg)).toBeLessThan(1e-6);
      expect(made.gainCrossover! / expected.gainCrossover).toBeCloseTo(1, 9);
      expect(made.phaseCrossover! / expected.phaseCrossover).toBeCloseTo(1, 9);
      for (const p of expected.closedPoles) {
        const nearest = Math.min(...made.closedPoles.map((q) => Math.hypot(q[0] - p[0], q[1] - p[1])));
        // Poles of the delay's all-pass lie near each other and are large: both ways lose digits there.
        expect(nearest / Math.hypot(p[0], p[1])).toBeLessThan(Math.hypot(p[0], p[1]) > 100 ? 1e-6 : 1e-9);
      }
      // This one comes to rest at zero.
      if (expected.overshoot === null)
        expect([made.finalValue, made.reasons.step]).toEqual([0, expect.stringMatching(/rest at zero/)]);
      if (expected.overshoot === null) return;
      for (const key of ['riseTime', 'settlingTime', 'finalValue'] as const)
        expect(Math.abs(made[key]! / expected[key]! - 1)).toBeLessThan(1e-3);
      expect(Math.abs(made.overshoot! - expected.overshoot)).toBeLessThan(1e-3 * Math.max(1, expected.overshoot));
    },
  );
});
