import { RAD } from '../numerics';
import { actuationSchema, servoGives, SERVOS, type Servo } from '.';

const servo = (more: Partial<Servo> = {}): Servo => ({
  name: '',
  torque: 0.8,
  travelDeg: 50,
  arm: 0.02,
  horn: 0.03,
  ...more,
});

describe('a servo and its linkage', () => {
  it('does at the hinge the work that it does at its arm', () => {
    for (const deg of [-25, -10, 0, 15, 28]) {
      const given = servoGives(servo(), deg * RAD);
      if (given.torque === null) throw new Error(given.reason);
      const h = 1e-5;
      const turn = (d: number) => Math.asin((0.03 / 0.02) * Math.sin(d));
      const ratio = (turn(deg * RAD + h) - turn(deg * RAD - h)) / (2 * h);
      expect(given.torque).toBeCloseTo(0.8 * ratio, 6);
      expect(given.servo).toBeCloseTo(turn(deg * RAD), 12);
    }
    expect(servoGives(servo(), 0)).toMatchObject({ torque: expect.closeTo(1.2, 12) as number });
  });
  it('says why it gives nothing: no arm, a horn too long, not enough travel', () => {
    expect(servoGives(servo({ arm: undefined }), 0)).toMatchObject({
      torque: null,
      reason: expect.stringContaining('no arm') as string,
    });
    expect(servoGives(servo({ arm: undefined, horn: undefined }), 0)).toMatchObject({
      reason: expect.stringContaining('no arm and no horn') as string,
    });
    expect(servoGives(servo({ horn: 0.06 }), 25 * RAD)).toMatchObject({
      torque: null,
      reason: expect.stringContaining('too long') as string,
    });
    expect(servoGives(servo(), 32 * RAD)).toMatchObject({
      torque: null,
      reason: expect.stringContaining('of 50°') as string,
    });
  });
  it('takes what the catalogue has, and refuses what no servo is', () => {
    for (const { name, torque, travelDeg } of SERVOS)
      expect(actuationSchema.safeParse({ e: { servo: { name, torque, travelDeg } } }).success).toBe(true);
    for (const wrong of [{ torque: 0 }, { torque: NaN }, { arm: 0 }, { travelDeg: 400 }])
      expect(actuationSchema.safeParse({ e: { servo: servo(wrong) } }).success).toBe(false);
    expect(actuationSchema.safeParse({ e: { overhang: 0.9 } }).success).toBe(false);
  });
});
