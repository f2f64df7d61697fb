import { longitudinalSystem, type MotionCase } from '../motion';
import { sampleCase } from '../motion/testing/sample-case';
import { RAD } from '../numerics';
import { randomNumbers } from '../simulation';
import { frequencyResponses, modelResponse, respond, sweptControls, type ResponseRecord } from '.';

const aircraft: MotionCase = sampleCase({
  CL_alpha: 5.6,
  Cm_alpha: -0.75,
  Cm_q: -14,
  Cm_alphadot: -4,
  controls: { Elevator: { CL: 0.4, Cm: -1.1 }, Flap: { CL: 0.8, Cm: 0 } },
});
/** A sweep whose frequency grows evenly in its logarithm, Hz. */
const sweep = (t: number, seconds: number, from: number, to: number) =>
  2 * RAD * Math.sin((2 * Math.PI * from * seconds * ((to / from) ** (t / seconds) - 1)) / Math.log(to / from));
function flown(noise: number, seconds = 60, rate = 40): ResponseRecord {
  const fine = 8;
  const t = Array.from({ length: seconds * rate * fine + 1 }, (_, i) => i / (rate * fine));
  const e = t.map((v) => sweep(v, seconds, 0.15, 5));
  const system = longitudinalSystem(aircraft);
  const states = respond(
    system,
    [0, 0, 0, 0],
    t,
    system.inputs.map((id) => (id === 'Elevator' ? e : t.map(() => 0))),
  );
  const random = randomNumbers(7);
  const rows = <T>(list: T[]) => list.filter((_, i) => i % fine === 0);
  const seen = (k: number, scale: number, size: number) =>
    rows(states).map((x) => x[k] * scale + noise * size * random.normal());
  return {
    t: rows(t),
    outputs: { alpha: seen(1, 1 / aircraft.speed, RAD), q: seen(2, 1, 3 * RAD) },
    controls: { Elevator: rows(e), Flap: rows(t).map(() => 0) },
    notes: [],
  };
}
const [clean, noisy] = [flown(0), flown(0.15)];
const errors = (record: ResponseRecord) =>
  frequencyResponses(record, 'longitudinal', 'Elevator').flatMap(({ output, points }) => {
    const exact = modelResponse(aircraft, 'longitudinal', 0, 'Elevator', output);
    return points.map((p) => {
      const m = exact(p.omega);
      const turn = p.phase - m.phase;
      return { ...p, output, exact: m, off: p.gain / m.gain - 1, turn: Math.atan2(Math.sin(turn), Math.cos(turn)) };
    });
  });

describe('responses over frequency', () => {
  it('are those of the linear motion, where the sweep reaches', () => {
    const inside = errors(clean).filter((e) => e.omega > 1.4 && e.omega < 27);
    expect(inside.length).toBeGreaterThan(60);
    for (const e of inside) {
      expect(e.coherence).toBeGreaterThan(0.97);
      expect([e.omega, Math.abs(e.off) < 0.04]).toEqual([e.omega, true]);
      expect([e.omega, Math.abs(e.turn) < 0.04]).toEqual([e.omega, true]);
    }
    const size = (list: number[]) => Math.sqrt(list.reduce((a, b) => a + b * b, 0) / list.length);
    expect(size(inside.map((e) => e.off))).toBeLessThan(0.012);
  });
  it('say by coherence where noise covers them, and keep within their deviation', () => {
    const found = errors(noisy).filter((e) => e.omega > 1.4);
    const high = found.filter((e) => e.output === 'alpha' && e.omega > 25);
    for (const e of high) expect(e.coherence).toBeLessThan(0.75);
    const two = found.filter((e) => Math.abs(e.off) < 2 * e.deviation).length / found.length;
    expect(two).toBeGreaterThan(0.9);
    for (const e of found) if (e.coherence > 0.9) expect(Math.abs(e.off)).toBeLessThan(0.1);
  });
  it('belong to a control that is swept, not to one of a doublet', () => {
    expect(sweptControls(clean)).toEqual(['Elevator']);
    const doublet = clean.t.map((t) => (t > 1 && t < 2 ? 0.05 : t > 2 && t < 3 ? -0.05 : 0));
    expect(sweptControls({ ...clean, controls: { Elevator: doublet } })).toEqual([]);
    expect(sweptControls({ t: [0, 1, 2], controls: { Elevator: [0, 1, 0] } })).toEqual([]);
  });
  it('are none of a record that is too short', () => {
    const few = (v: number[]) => v.slice(0, 21);
    const short = {
      t: few(clean.t),
      outputs: { q: few(clean.outputs.q!) },
      controls: { Elevator: few(clean.controls.Elevator) },
    };
    expect(frequencyResponses(short, 'longitudinal', 'Elevator').flatMap((r) => r.points.length)).toEqual([]);
  });
  it('do not mind uneven steps of time', () => {
    const some = clean.t.map((_, i) => i % 7 !== 3);
    const kept = (v: number[]) => v.filter((_, i) => some[i]);
    const uneven = {
      ...clean,
      t: kept(clean.t),
      outputs: { q: kept(clean.outputs.q!) },
      controls: { Elevator: kept(clean.controls.Elevator) },
    };
    for (const e of errors(uneven).filter((k) => k.omega > 1.4 && k.omega < 15))
      expect(Math.abs(e.off)).toBeLessThan(0.05);
  });
});
