import { flowState, GRAVITY } from '../atmosphere';
import { stallFindings, findingWords } from '../findings';
import { keptMeanLine, type SectionPolars } from '../lift';
import { madePolar } from '../lift/viscous/testing/made-polar';
import { trimLevel } from '../motion';
import { RAD } from '../numerics';
import { freshBrief, type CandidatePart } from '../project';
import { madeTailed } from './testing/made-tailed';
import { loadedMass, motionSource, sectionLookup, trimmedStall } from '.';

const lookup = sectionLookup({ s: { kind: 'designation', designation: '1410', trailingEdge: 'published' } });
const lineOf = (key: string) => keptMeanLine(lookup(key));
const polars: SectionPolars[] = [
  { section: 's', flap: null, curves: [madePolar(6e5, { slope: 5.6, zero: -1.5, crest: 13 })] },
];
const tailed = (centre: number, limitsDeg: [number, number] = [-30, 30]) => madeTailed({ centre, limitsDeg });
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
    expect(short.controls.e).toBeGreaterThanOrEqual(-6 * RAD - 1e-9);
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
      'Stall speed 16.0 m/s, outside below 15 m/s; the control that trims ends its travel there',
    );
  });
});
