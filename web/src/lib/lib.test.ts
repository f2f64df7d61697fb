import { newSurface, placeStations, planformOf, type LiftingSurface } from '@veldtwind/core/airframe';
import { evaluateCandidate, sectionLookup } from '@veldtwind/core/candidate';
import { DEG } from '@veldtwind/core/numerics';
import { freshBrief, freshCandidate, type CandidatePart } from '@veldtwind/core/project';
import { drawnLoop, surfaceRings } from './airframe-mesh';
import { freeId, nextLetter } from './ids';
import { liftQuantity, liftSeries, stripsAt } from './lift-series';
import { latestOnly } from './live';
import { COLOURS, DASHES, LOWER, placeOfStyle, seriesStyle, styleParts, UPPER } from './series-style';

describe('names and letters', () => {
  it('make keys that are free and harmless', () => {
    expect(freeId('Karoo 14', () => false)).toBe('karoo-14');
    expect(freeId('Karoo 14', (id) => id === 'karoo-14' || id === 'karoo-14-2')).toBe('karoo-14-3');
    expect(freeId('…', () => false)).toBe('item');
    expect(freeId('x'.repeat(200), () => false).length).toBeLessThanOrEqual(40);
  });
  it('run from A to Z and on', () => {
    expect(nextLetter([])).toBe('A');
    expect(nextLetter(['A', 'C'])).toBe('B');
    expect(nextLetter(Array.from({ length: 26 }, (_, i) => String.fromCharCode(65 + i)))).toBe('AA');
  });
});

describe('styles', () => {
  it('differ in colour and dash for the first forty, never in colour alone between neighbours', () => {
    const seen = new Set<string>();
    for (let k = 0; k < 40; k++) {
      const s = seriesStyle(k);
      seen.add(`${s.colour}|${s.dash}`);
      const next = seriesStyle(k + 1);
      expect(s.dash === next.dash && s.marker === next.marker).toBe(false);
    }
    expect(seen.size).toBe(40);
  });
  it('of a chosen colour and dash have one place each, and the place has them', () => {
    const places = new Set<number>();
    COLOURS.forEach((name, colour) =>
      DASHES.forEach((line, dash) => {
        const place = placeOfStyle(colour, dash);
        expect(styleParts(place)).toEqual({ colour, dash });
        expect(seriesStyle(place)).toMatchObject({ colour: `var(--${name})`, dash: line });
        places.add(place);
      }),
    );
    expect([Math.min(...places), Math.max(...places), places.size]).toEqual([0, 63, 64]);
  });
  it('tell upper from lower by dash and marker too', () => {
    expect(UPPER.dash).not.toBe(LOWER.dash);
    expect(UPPER.marker).not.toBe(LOWER.marker);
  });
});

describe('the newest request only', () => {
  it('runs the first and the last of a burst, and goes on after a failure', async () => {
    const ran: number[] = [];
    const done: number[] = [];
    const failed: number[] = [];
    const ask = latestOnly(
      async (n: number) => {
        ran.push(n);
        await new Promise((r) => setTimeout(r, 5));
        if (n === 9) throw new Error('nine');
        return n * 10;
      },
      (result) => done.push(result),
      (_e, n) => failed.push(n),
    );
    for (const n of [1, 2, 3, 4]) ask(n);
    await new Promise((r) => setTimeout(r, 30));
    ask(9);
    await new Promise((r) => setTimeout(r, 20));
    ask(5);
    await new Promise((r) => setTimeout(r, 20));
    expect(ran).toEqual([1, 4, 9, 5]);
    expect(done).toEqual([10, 40, 50]);
    expect(failed).toEqual([9]);
  });
});

const first = (role: LiftingSurface['role'], c: CandidatePart, section: string) =>
  newSurface({ role, section, span: 3 }, c.surfaces);

describe('first surfaces', () => {
  const c: CandidatePart = freshCandidate('a', 'A', 'First', 0);
  const wing = first('wing', c, 'naca:2411');
  const withWing = { ...c, surfaces: [wing] };
  it('are shapes that stand, with tails of a usual volume behind the wing', () => {
    expect(planformOf(wing).span).toBeCloseTo(3, 2);
    const tail = first('tailplane', withWing, 'naca:0009');
    const plan = planformOf(wing);
    const t = planformOf(tail);
    const volume = (t.area * (t.quarterChord - plan.quarterChord)) / (plan.area * plan.mac.chord);
    expect(volume).toBeGreaterThan(0.4);
    expect(volume).toBeLessThan(0.7);
    const fin = first('fin', withWing, 'naca:0009');
    expect(fin).toMatchObject({ plane: 'vertical', mirrored: false });
    expect(placeStations(fin)[1].quarterChord.z).toBeGreaterThan(placeStations(fin)[0].quarterChord.z);
  });
  it('are set off from one that is there already', () => {
    const second = first('wing', withWing, 'naca:2411');
    expect(second.id).not.toBe(wing.id);
    expect(second.position.x).not.toBe(wing.position.x);
  });
  it('fly: stable about a sensible centre of gravity', () => {
    const tail = first('tailplane', withWing, 'naca:0009');
    const centre = planformOf(wing).quarterChord;
    const whole = {
      ...withWing,
      surfaces: [wing, tail],
      massItems: [{ id: 'm', name: 'All', mass: 10, position: { x: centre, y: 0, z: 0 } }],
    };
    const e = evaluateCandidate(freshBrief(), whole, sectionLookup({}));
    expect(e.problems).toEqual([]);
    expect(e.balance!.staticMargin).toBeGreaterThan(0.1);
    expect(e.balance!.trims).toHaveLength(1);
  });
});

describe('what is drawn', () => {
  const lookup = sectionLookup({});
  const c = freshCandidate('a', 'A', 'First', 0);
  const wing = first('wing', c, 'naca:4415');
  it('joins sections at the same shares, nose in the middle', () => {
    const a = drawnLoop(lookup('naca:4415'));
    const b = drawnLoop(lookup('naca:0009'));
    expect(a.length).toBe(b.length);
    const nose = (a.length / 2 - 1) / 2;
    expect(a[2 * nose]).toBeLessThan(0.005);
    expect(a[0]).toBeCloseTo(1, 1);
    expect(a[1]).toBeGreaterThan(a[a.length - 1]);
  });
  it('places rings where the stations are', () => {
    const { rings, stations } = surfaceRings(wing, lookup);
    expect([...stations]).toEqual([0, 1]);
    const placed = placeStations(wing);
    expect(rings).toHaveLength(2);
    rings.forEach((ring, i) => {
      expect(ring[1]).toBeCloseTo(placed[i].leadingEdge.y, 9);
      const xs = Array.from({ length: ring.length / 3 }, (_, k) => ring[3 * k]);
      expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(placed[i].chord, 1);
    });
  });
  it('puts any quantity over any other, linked by the angle', () => {
    const e = evaluateCandidate(freshBrief(), { ...c, surfaces: [wing] }, lookup);
    const shown = [{ candidate: { ...c, surfaces: [wing] }, lift: e.lift!, dynamicPressure: 100 }];
    const [s] = liftSeries(shown, 'CL', 'CDi', 'metric');
    expect(s.points).toHaveLength(e.lift!.points.length);
    expect(s.points[0].tag).toBeCloseTo(-4, 9);
    expect(s.points[3].x).toBeCloseTo(e.lift!.points[3].CL, 12);
    expect(liftQuantity('nonsense').id).toBe('alpha');
    // Forces follow the units chosen.
    const [newtons] = liftSeries(shown, 'alpha', 'lift', 'metric');
    const [pounds] = liftSeries(shown, 'alpha', 'lift', 'us');
    expect(newtons.points[5].y / pounds.points[5].y).toBeCloseTo(4.4482216, 6);
    for (const p of liftSeries(shown, 'alpha', 'ratio', 'metric')[0].points) expect(Number.isFinite(p.y)).toBe(true);
    const { point, strips } = stripsAt(e.lift!, 3.2, 'wing');
    expect(point.alpha * DEG).toBeCloseTo(3, 9);
    expect(strips.every((t) => t.id === 'wing' && t.station >= 0)).toBe(true);
  });
});
