import { runAnalysis } from '../analysis';
import { thinHingeSlopes } from '../lift';
import { RAD } from '../numerics';
import { flappedOutline } from '../polar';
import { isSolved, ViscousSection } from '../section-flow';
import type { SectionSource } from '../shaping';
import { HingeMoments, pressureMoment, torqueDeflections, withServo, type TorqueInput } from './control-torque';
import { madeTailed } from './testing/made-tailed';

const source: SectionSource = { kind: 'designation', designation: '0009', trailingEdge: 'sharp' };
const tailed = () => madeTailed({ limitsDeg: [-20, 20] });
const moments = (overhangs?: Record<string, number>) =>
  new HingeMoments(tailed(), () => source, { altitude: 0, ...(overhangs && { overhangs }) });
const servo = { name: '', torque: 6, travelDeg: 60, arm: 0.02, horn: 0.02 };

describe('torque of controls', () => {
  it('resists the deflection, less than thin sections say, and turns about with the sign of the deflection', async () => {
    const { controls, alpha } = await moments().at(25, [-4, 0, 4]);
    const [{ points, size, name }] = controls;
    expect(name).toBe('Elevator');
    // 0.7 m of span and 0.3 m of mean chord, three tenths of it behind the hinge; the chord tapers.
    expect(size).toBeCloseTo(0.7 * 0.09 * ((0.32 ** 2 + 0.32 * 0.28 + 0.28 ** 2) / 3), 5);
    const [down, rest, up] = points.map((p) => p.hingeCoefficient);
    expect(down).toBeGreaterThan(rest);
    expect(up).toBeLessThan(rest);
    const slope = (up - down) / (8 * RAD);
    const { perDeflection } = thinHingeSlopes(0.7);
    // Downwash of its own and the layers take a part of the thin section's.
    expect(slope / perDeflection).toBeGreaterThan(0.5);
    expect(slope / perDeflection).toBeLessThan(1);
    expect(alpha).toBeGreaterThan(0);
    const q = 0.5 * 1.225 * 25 ** 2;
    expect(points[2].torque).toBeCloseTo(points[2].hingeCoefficient * q * size, 6);
  });
  it('tells what a servo has left, at both limits, and one without arm as such', async () => {
    const [air] = (await moments().at(25)).controls;
    const { points, worst, panels } = withServo(air, servo);
    expect(points.map((p) => p.deflectionDeg)).toEqual(torqueDeflections({ limitsDeg: [-20, 20] }));
    expect([points.length, points[0].deflectionDeg]).toEqual([7, -20]);
    expect(panels).toBe(1);
    for (const p of points) expect(p.reserve).toBeCloseTo(1 - Math.abs(p.torque) / p.servo!, 12);
    expect(points[worst].reserve).toBe(Math.min(...points.map((p) => p.reserve!)));
    const both = withServo(air, { ...servo, both: true });
    expect(both.panels).toBe(2);
    both.points.forEach((p) => expect(p.reserve).toBeCloseTo(1 - (2 * Math.abs(p.torque)) / p.servo!, 12));
    const { arm: _arm, ...armless } = servo;
    expect(withServo(air, armless).points[1]).toMatchObject({
      servo: null,
      reserve: null,
      servoReason: expect.stringContaining('no arm') as string,
    });
    // Without a servo the greatest torque is the worst; a travel that is not reached is worse than any load.
    const none = withServo(air, undefined);
    expect(Math.abs(none.points[none.worst].torque)).toBe(Math.max(...air.points.map((p) => Math.abs(p.torque))));
    const short = withServo(air, { ...servo, travelDeg: 15 });
    expect(Math.abs(short.points[short.worst].deflectionDeg)).toBe(20);
  });
  it('is less with a balance ahead of the hinge', async () => {
    const [plain, balanced] = await Promise.all(
      [undefined, { e: 0.35 }].map(async (a) => (await moments(a).at(25, [6])).controls[0].points[0]),
    );
    expect(Math.abs(balanced.hingeCoefficient)).toBeLessThan(0.9 * Math.abs(plain.hingeCoefficient));
    expect(Math.sign(balanced.hingeCoefficient)).toBe(Math.sign(plain.hingeCoefficient));
  });
  it('pressures along the flap give the moment that the section tells, but for its friction', () => {
    const { outline, hinge } = flappedOutline(source, { x: 0.7, y: 0.5, angleDeg: 6 });
    const section = new ViscousSection(outline);
    const point = section.at(2 * RAD, { reynolds: 1e6 }, undefined, { hinge });
    if (!isSolved(point)) throw new Error(point.reason);
    const moment = pressureMoment(section.distributions()!, hinge!, hinge!.x, 1.1);
    expect(moment / point.hinge!.moment).toBeCloseTo(1, 1);
  });
  it('goes over speeds, one at which it does not fly saying so and the rest staying', async () => {
    const of: TorqueInput['of'] = {
      candidate: tailed(),
      sections: { s: source },
      speed: 25,
      altitude: 0,
      polars: null,
    };
    const told: number[] = [];
    const list = await runAnalysis(
      'control-torque',
      { of, speeds: [4, 20, 40] },
      { report: ({ done }) => void told.push(done) },
    );
    expect(list.map((t) => t.controls.length)).toEqual([0, 1, 1]);
    expect(list[0].failure).toMatch(/lift coefficient/);
    expect(told).toEqual([1, 2]);
    const [slow, fast] = list.slice(1).map((t) => Math.abs(t.controls[0].points[0].torque));
    expect(fast / slow).toBeGreaterThan(3);
    expect(fast / slow).toBeLessThan(5.5);
    await expect(
      runAnalysis('control-torque', { of: { ...of, candidate: { ...of.candidate, massItems: [] } }, speeds: [20] }),
    ).rejects.toThrow(/no mass/);
    const bare = of.candidate.surfaces.map(({ controls: _controls, ...s }) => s);
    await expect(
      runAnalysis('control-torque', { of: { ...of, candidate: { ...of.candidate, surfaces: bare } }, speeds: [20] }),
    ).rejects.toThrow(/no control/);
  });
});
