import type { Body } from '../airframe';
import { keptMeanLine } from '../lift';
import { madeWing } from '../lift/viscous/testing/made-polar';
import { freshBrief, freshCandidate, type CandidatePart } from '../project';
import { airframeMotion, evaluateCandidate, sectionLookup } from '.';
import { centreRange } from '../balance';

const lookup = sectionLookup({ s: { kind: 'designation', designation: '1410', trailingEdge: 'published' } });
const lineOf = (key: string) => keptMeanLine(lookup(key));
const brief = { ...freshBrief(), speed: 45, altitude: 500, mass: 560 };
const open = { min: null, max: null };

/** A tailed aircraft of 10 m² with a body of 7 m that begins far ahead of the wing. @param bodyLength 0 for none. */
function tailed(bodyLength: number, massAt: number, elevator = true): CandidatePart {
  const body: Body = {
    id: 'hull',
    name: 'Hull',
    mirrored: false,
    loft: 'smooth',
    position: { x: -2.6, y: 0, z: -0.1 },
    stations: [
      [0, 0, 0],
      [0.15, 0.7, 0.8],
      [0.5, 1, 1.15],
      [0.85, 0.5, 0.6],
      [1, 0, 0],
    ].map(([x, width, height]) => ({ x: x * bodyLength, width, height, z: 0, shape: 'ellipse', corner: 0 })),
  } as unknown as Body;
  return {
    ...freshCandidate('t', 'T', 'Tailed', 0),
    surfaces: [
      { ...madeWing(8.4, 1.4, 0.98), id: 'wing', name: 'Wing' },
      {
        ...madeWing(2.8, 0.8, 0.6),
        id: 'tail',
        name: 'Tail',
        role: 'tailplane' as const,
        position: { x: 4, y: 0, z: 0.3 },
        incidenceDeg: -2,
        ...(elevator && {
          controls: [
            {
              id: 'elevator',
              name: 'Elevator',
              kind: 'symmetric',
              from: 0,
              to: 1,
              hinge: 0.7,
              deflectionDeg: 0,
              limitsDeg: [-25, 25],
            },
          ],
        }),
      },
    ] as unknown as CandidatePart['surfaces'],
    bodies: bodyLength > 0 ? [body] : [],
    massItems: [
      {
        id: 'm',
        name: 'All',
        mass: 560,
        position: { x: massAt, y: 0, z: 0 },
        shape: 'box',
        size: { x: 4, y: 5, z: 1 },
      },
    ],
  };
}
const evaluate = (c: CandidatePart) => evaluateCandidate(brief, c, lookup, lineOf).balance!;
const motionOf = (c: CandidatePart) =>
  airframeMotion(c, lookup, lineOf, { speed: brief.speed, altitude: brief.altitude, polars: null });

describe('balance of the whole aircraft', () => {
  it.each([
    ['with a body', 7, 0.45],
    ['without one', 0, 0.45],
    ['far forward', 7, 0.1],
  ])('%s: margin, neutral point and slope are those of motion, digit by digit', (_, length, x) => {
    const [b, m] = [evaluate(tailed(length, x)), motionOf(tailed(length, x))];
    expect(b.state).toMatchObject({ at: 'level', speed: 45 });
    expect(b.staticMargin).toBeCloseTo(m.staticMargin, 10);
    expect(b.neutralPoint).toBeCloseTo(m.neutralPoint, 10);
    expect(b.pitchSlope).toBeCloseTo(m.derivatives.Cm_alpha, 10);
    expect(b.liftSlope).toBeCloseTo(m.derivatives.CL_alpha, 10);
    expect(b.state.alpha).toBeCloseTo(m.trim.alpha, 10);
  });
  it('counts the body, which moves the neutral point forward by its slender moment', () => {
    const [bare, whole] = [0, 7].map((l) => evaluate(tailed(l, 0.45)));
    expect(bare.staticMargin - whole.staticMargin).toBeGreaterThan(0.03);
  });
  it.each([true, false])('has an aft limit at which motion has just that margin, elevator %s', (elevator) => {
    const aircraft = tailed(7, 0.3, elevator);
    const e = evaluateCandidate(brief, aircraft, lookup, lineOf);
    for (const min of [0.05, 0.12]) {
      const bands = { staticMargin: { min, max: 0.4 }, trimAngleDeg: open, pitchSlopePerDeg: open };
      const { aft, forward } = centreRange(e.lift!, e.balance!.centres, bands);
      const at = motionOf(tailed(7, aft!.x, elevator));
      expect(Math.abs(at.staticMargin - min)).toBeLessThan(1e-3);
      // The short period is stable there.
      expect(at.modes.filter((m) => /short/.test(m.name)).every((m) => m.re < 0)).toBe(true);
      expect(Math.abs(motionOf(tailed(7, forward!.x, elevator)).staticMargin - 0.4)).toBeLessThan(1e-3);
    }
  });
  it('tells α = 0 and the reason where level flight is not carried', () => {
    const slow = { ...brief, speed: 6 };
    const b = evaluateCandidate(slow, tailed(7, 0.45), lookup, lineOf).balance!;
    expect(b.state).toMatchObject({ at: 'zero', alpha: 0, reason: expect.stringMatching(/Level flight at 6.00 m\/s/) });
    expect(Number.isFinite(b.staticMargin)).toBe(true);
  });
});
