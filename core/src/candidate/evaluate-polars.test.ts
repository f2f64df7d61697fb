import { flowState, GRAVITY } from '../atmosphere';
import { keptMeanLine, type SectionPolars } from '../lift';
import { madePolar } from '../lift/viscous/testing/made-polar';
import { staticStability } from '../motion';
import { DEG } from '../numerics';
import { freshBrief } from '../project';
import { CANDIDATE_QUANTITIES, quantityIn } from '../quantities';
import { solveTailIncidence } from '../solve';
import { madeTailed } from './testing/made-tailed';
import {
  airframeMotion,
  evaluateCandidate,
  evaluateWithPolars,
  loadedMass,
  modelOf,
  motionSource,
  sectionLookup,
} from '.';

const sections = { s: { kind: 'designation', designation: '1410', trailingEdge: 'published' } } as const;
const lookup = sectionLookup(sections);
const lineOf = (key: string) => keptMeanLine(lookup(key));
const brief = { ...freshBrief(), speed: 24, altitude: 300, mass: 20 };
// Steeper than the lattice's thin sections have it: the two methods cannot agree by chance.
const polars: SectionPolars[] = [{ section: 's', flap: null, curves: [madePolar(6e5, { slope: 5.2, zero: -1.5 })] }];
const candidate = madeTailed({ loadings: { light: { m: 0.7 } } });
const alone = evaluateCandidate(brief, candidate, lookup, lineOf);
const full = evaluateWithPolars(alone, brief, candidate, lookup, lineOf, polars);
const of = (id: string, e = full) => quantityIn(CANDIDATE_QUANTITIES, id).of(e)!;

describe('an evaluation with section polars', () => {
  it('says which method made it, and leaves the lattice beside it', () => {
    expect(alone.method).toBe('lattice');
    expect(full.method).toBe('polars');
    expect(full.problems).toEqual([]);
    expect(full.lift).toBe(alone.lift);
    expect(of('lift-slope')).not.toBeCloseTo(of('lift-slope', alone), 2);
    expect(of('lift-slope', alone)).toBe(alone.lift!.liftSlope);
    expect(full.curve!.points.every((p) => p.CD! > 0)).toBe(true);
    // The sweep ends before the crest.
    expect(full.curve!.greatestLift).toBeNull();
  });
  it('has the numbers of the motion and of the model, to the last digit', () => {
    const flight = { speed: brief.speed, altitude: brief.altitude, polars };
    const motion = airframeMotion(candidate, lookup, lineOf, flight);
    const model = modelOf(candidate, lookup, lineOf, { ...flight, method: 'polars' });
    expect(of('static-margin')).toBe(motion.staticMargin);
    expect(of('neutral-point')).toBe(motion.neutralPoint);
    expect(of('pitch-slope-rad')).toBe(motion.derivatives.Cm_alpha);
    expect(full.balance!.state.alpha).toBe(motion.trim.alpha);
    expect(model.staticMargin).toEqual({ value: motion.staticMargin });
    expect(model.liftSlope).toEqual({ value: of('lift-slope') });
    expect((model.trimAngle as { value: number }).value * DEG).toBe(of('trim-angle'));
  });
  it('trims where its own curve crosses zero', () => {
    const { points } = full.curve!;
    const [trim] = full.balance!.trims;
    const k = points.findIndex((p) => p.alpha > trim.alpha);
    expect(points[k - 1].Cm).toBeGreaterThan(0);
    expect(points[k].Cm).toBeLessThan(0);
  });
  it('tells the same over places of the centre as an aircraft whose centre is there', () => {
    const { centres, staticMargin } = full.balance!;
    expect(centres.staticMargin[2]).toBeCloseTo(staticMargin, 10);
    const mass = loadedMass(candidate);
    const flow = flowState(brief.speed, brief.altitude);
    for (const i of [1, 3]) {
      const moved = { ...mass, centre: { ...mass.centre, x: centres.x[i] } };
      const source = motionSource(candidate, lookup, lineOf, moved, brief.speed, brief.altitude, polars);
      const there = staticStability(source, flow, mass.mass * GRAVITY);
      expect(Math.abs(centres.staticMargin[i] - there.staticMargin)).toBeLessThan(2e-3);
    }
  });
  it('is of the loading that is asked for', () => {
    const light = modelOf(candidate, lookup, lineOf, {
      speed: brief.speed,
      altitude: brief.altitude,
      polars,
      method: 'polars',
      loading: 'light',
    });
    const motion = airframeMotion(candidate, lookup, lineOf, {
      speed: brief.speed,
      altitude: brief.altitude,
      polars,
      loading: 'light',
    });
    expect(light.levelAngle).toEqual({ value: motion.trim.alpha });
    expect(motion.trim.alpha).toBeLessThan(full.balance!.state.alpha);
  });
  it('keeps the lattice and says why where the polars do not answer', () => {
    const none = evaluateWithPolars(alone, brief, candidate, lookup, lineOf, []);
    expect(none.method).toBe('lattice');
    expect(none.balance).toBe(alone.balance);
    expect(none.problems.map((p) => p.code)).toContain('polar-missing');
  });
  it('is what the tail incidence is solved with', () => {
    const input = { brief, candidate, sections, polars, surfaceId: 'tail', targetDeg: 3 };
    const solved = solveTailIncidence(input);
    const turned = {
      ...candidate,
      surfaces: candidate.surfaces.map((s) => (s.id === 'tail' ? { ...s, incidenceDeg: solved.toDeg } : s)),
    };
    const bare = evaluateCandidate(brief, turned, lookup, lineOf);
    const again = evaluateWithPolars(bare, brief, turned, lookup, lineOf, polars);
    expect(of('trim-angle', again)).toBeCloseTo(3, 3);
    expect(Math.abs(of('trim-angle', bare) - 3)).toBeGreaterThan(0.1);
  });
});
