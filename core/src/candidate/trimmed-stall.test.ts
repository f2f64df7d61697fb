import { flowState, GRAVITY } from '../atmosphere';
import { stallFindings, findingWords } from '../findings';
import { keptMeanLine, type SectionPolars } from '../lift';
import { madePolar, madeWing } from '../lift/viscous/testing/made-polar';
import { trimLevel } from '../motion';
import { freshBrief, freshCandidate, type CandidatePart } from '../project';
import { loadedMass, motionSource, sectionLookup, trimmedStall } from '.';

const lookup = sectionLookup({ s: { kind: 'designation', designation: '1410', trailingEdge: 'published' } });
const lineOf = (key: string) => keptMeanLine(lookup(key));
const polars: SectionPolars[] = [
  { section: 's', flap: null, curves: [madePolar(6e5, { slope: 5.6, zero: -1.5, crest: 13 })] },
];
const tailed = (centre: number, limitsDeg = [-30, 30]) =>
  ({
    ...freshCandidate('t', 'T', 'Tailed', 0),
    surfaces: [
      madeWing(5, 0.5, 0.4),
      {
        ...madeWing(1.4, 0.32, 0.28),
        id: 'tail',
        name: 'Tail',
        role: 'tailplane',
        position: { x: 2.2, y: 0, z: 0.2 },
        incidenceDeg: -2,
        controls: [
          { id: 'e', name: 'Elevator', kind: 'symmetric', from: 0, to: 1, hinge: 0.7, deflectionDeg: 0, limitsDeg },
        ],
      },
    ],
    massItems: [
      {
        id: 'm',
        name: 'All',
        mass: 20,
        position: { x: centre, y: 0, z: 0 },
        inertia: { Ixx: 9, Iyy: 8, Izz: 16, Ixz: 0.3 },
      },
    ],
  }) as unknown as CandidatePart;
const flight = { speed: 22, altitude: 500, polars };
const stallOf = (c: CandidatePart) => trimmedStall(c, lookup, lineOf, flight);

describe('the stall in trim', () => {
  it('is the slowest speed that level flight can be trimmed at', () => {
    const c = tailed(0.25);
    const stall = stallOf(c);
    expect(stall.by).toBe('lift');
    const mass = loadedMass(c);
    const source = motionSource(c, lookup, lineOf, mass, stall.speed, flight.altitude, polars);
    const trim = (speed: number) => trimLevel(source, flowState(speed, flight.altitude), mass.mass * GRAVITY);
    const above = trim(1.02 * stall.speed);
    expect(above.alpha).toBeLessThan(stall.alpha + 0.02);
    expect(() => trim(0.97 * stall.speed)).toThrow(/no angle within/);
    // Its lift is what carries the weight there.
    const { density } = flowState(1, flight.altitude);
    const q = 0.5 * density * stall.speed ** 2 * source.reference.area;
    expect(Math.abs((mass.mass * GRAVITY) / (q * stall.CL) - 1)).toBeLessThan(3e-3);
  });
  it('comes the earlier the farther forward the centre lies: the tail pushes down', () => {
    const [forward, aft] = [stallOf(tailed(0.1)), stallOf(tailed(0.32))];
    expect(forward.speed).toBeGreaterThan(1.01 * aft.speed);
    expect(forward.controls.e).toBeLessThan(aft.controls.e);
  });
  it('is where the travel ends, if that comes first', () => {
    const free = stallOf(tailed(0.05));
    const short = stallOf(tailed(0.05, [-6, 6]));
    expect(short.by).toBe('travel');
    expect(short.speed).toBeGreaterThan(free.speed);
    expect(short.controls.e).toBeGreaterThanOrEqual((-6 * Math.PI) / 180 - 1e-9);
  });
  it('is told as none where the lift still grows, or nothing trims', () => {
    const steep: SectionPolars[] = [{ section: 's', flap: null, curves: [madePolar(6e5, { bends: 23, crest: 24 })] }];
    expect(() => trimmedStall(tailed(0.25), lookup, lineOf, { ...flight, polars: steep })).toThrow(/still grows/);
    expect(() => stallOf(tailed(-4, [-1, 1]))).toThrow(/No angle can be trimmed/);
  });
  it('is held against the brief', () => {
    const brief = { ...freshBrief(), stallSpeed: 15 };
    const [inside] = stallFindings(brief, { speed: 14.2, by: 'lift' });
    const [outside] = stallFindings(brief, { speed: 16, by: 'travel' });
    const [fact] = stallFindings(freshBrief(), { speed: 16, by: 'lift' });
    expect([inside.state, outside.state, fact.state]).toEqual(['inside', 'outside', 'fact']);
    const { headline, detail } = findingWords(outside, 'metric');
    expect(headline + detail).toBe(
      'Stall speed in trim 16.0 m/s, outside below 15 m/s; the control that trims ends its travel there',
    );
  });
});
