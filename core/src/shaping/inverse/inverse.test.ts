import { RAD } from '../../numerics';
import { designationOutline, SurfaceSpline, type Outline } from '../../section';
import { sourceOutline, surfaceSpeeds, type Found, type SectionSource, type ShapingStep } from '..';

/** Furthest that a point of one outline lies from the other, chords. */
function apart(a: Outline, b: Outline): number {
  const spline = new SurfaceSpline(b);
  let most = 0;
  for (let i = 0; i < a.x.length; i += 3) {
    let best = Infinity;
    let at = 0;
    for (let k = 0; k <= 1500; k++) {
      const s = (spline.length * k) / 1500;
      const d = Math.hypot(spline.x(s) - a.x[i], spline.y(s) - a.y[i]);
      if (d < best) [best, at] = [d, s];
    }
    const [tx, ty] = spline.tangent(at);
    const inside = at > 1e-9 && at < spline.length - 1e-9;
    most = Math.max(most, inside ? Math.abs((a.x[i] - spline.x(at)) * ty - (a.y[i] - spline.y(at)) * tx) : best);
  }
  return most;
}
const base: SectionSource = { kind: 'designation', designation: '4412', trailingEdge: 'published' };

it('mixed design gives a section back from its own speed over a stretch', () => {
  const known = designationOutline('4412', 'published', 241);
  const bump: ShapingStep = { kind: 'bump', surface: 'upper', at: 0.4, height: 0.006, width: 0.5 };
  const { upper } = surfaceSpeeds(known, 2 * RAD);
  const target = upper.filter(([x]) => x > 0.04 && x < 0.92);
  const speed: ShapingStep = { kind: 'target-speed', surface: 'upper', from: 0.05, to: 0.9, angleDeg: 2, target };
  const spoilt = sourceOutline({ kind: 'recipe', source: base, steps: [bump] }, 241);
  expect(apart(spoilt, known)).toBeGreaterThan(0.005);
  let found: Found | undefined;
  const made = sourceOutline({ kind: 'recipe', source: base, steps: [bump, speed] }, 241, {
    report: (index, f) => index === 1 && (found = f),
  });
  expect(apart(made, known)).toBeLessThan(5e-4);
  expect(found!.report!.after).toBeLessThan(0.05 * found!.report!.before);
  expect(found!.report!.displacement).toBeGreaterThan(0.005);
  // Everything outside the stretch stays as it was, to the last digit.
  spoilt.x.forEach((x, i) => {
    if (spoilt.y[i] < 0 || x < 0.045 || x > 0.905) expect(made.y[i]).toBe(spoilt.y[i]);
  });
  // What was found is used as long as nothing before it changed, whatever the number of points.
  const again = sourceOutline(
    { kind: 'recipe', source: base, steps: [bump, { ...speed, found: found!.displacement }] },
    201,
  );
  expect(apart(again, made)).toBeLessThan(2e-5);
});

it('whole design gives a section back from its own speed, and says how it closes', () => {
  const known = designationOutline('4412', 'published', 241);
  const { upper, lower } = surfaceSpeeds(known, 2 * RAD);
  let found: Found | undefined;
  const made = sourceOutline(
    {
      kind: 'recipe',
      source: { kind: 'designation', designation: '0012', trailingEdge: 'published' },
      steps: [{ kind: 'whole-speed', angleDeg: 2, upper, lower }],
    },
    241,
    { report: (_, f) => (found = f) },
  );
  expect(apart(made, known)).toBeLessThan(5e-4);
  const { closure } = found!.report!;
  expect(closure!.gap).toBeCloseTo(0.00252, 5);
  for (const left of [closure!.level, closure!.foreAft, closure!.aboveBelow]) expect(Math.abs(left)).toBeLessThan(2e-3);
});

it('smoothing the speed takes a wiggle away and hardly moves the outline', () => {
  // A section whose own speed has no kink.
  const even: SectionSource = { kind: 'designation', designation: '0012', trailingEdge: 'published' };
  const wavy: ShapingStep[] = [0.3, 0.42, 0.54].map((at, k) => ({
    kind: 'bump',
    surface: 'upper',
    at,
    height: k % 2 ? -0.0006 : 0.0006,
    width: 0.12,
  }));
  const smooth: ShapingStep = {
    kind: 'smooth-speed',
    surface: 'upper',
    from: 0.12,
    to: 0.75,
    angleDeg: 2,
    strength: 3,
    times: 2,
  };
  const rough = sourceOutline({ kind: 'recipe', source: even, steps: wavy }, 241);
  const made = sourceOutline({ kind: 'recipe', source: even, steps: [...wavy, smooth] }, 241);
  const wiggles = (o: Outline) => {
    const q = surfaceSpeeds(o, 2 * RAD).upper.filter(([x]) => x > 0.2 && x < 0.65);
    let sum = 0;
    for (let i = 1; i + 1 < q.length; i++)
      sum += Math.abs(
        (q[i + 1][1] - q[i][1]) / (q[i + 1][0] - q[i][0]) - (q[i][1] - q[i - 1][1]) / (q[i][0] - q[i - 1][0]),
      );
    return sum;
  };
  const own = wiggles(sourceOutline(even, 241));
  expect(wiggles(made) - own).toBeLessThan(0.55 * (wiggles(rough) - own));
  expect(apart(made, rough)).toBeLessThan(0.003);
});
