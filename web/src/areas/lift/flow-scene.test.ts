import type { LiftingSurface } from '@veldtwind/core/airframe';
import type { StripLoad, StripState } from '@veldtwind/core/lift';
import { liftRibbons, spaceLines } from './flow-scene';

const wing = {
  id: 'wing',
  name: 'Wing',
  role: 'wing',
  plane: 'horizontal',
  mirrored: true,
  position: { x: 0, y: 0, z: 0 },
  incidenceDeg: 0,
  stations: [0, 1].map(() => ({ chord: 1, twistDeg: 0, section: 'naca:0009' })),
  bays: [{ span: 4, sweepDeg: 0, dihedralDeg: 0 }],
} as unknown as LiftingSurface;
const strip = (station: number, cl: number) =>
  ({ id: 'wing', station, cl, chord: 1, y: 4 * station, z: 0 }) as unknown as StripLoad;

describe('the flow in space', () => {
  it('puts the right side’s lines on the left as well, and leaves both sides as they are', () => {
    const line = { points: [0, 1, 2, 3, 4, 5], speed: [1, 1] };
    const half = spaceLines({ half: true, wake: [line], stream: [] });
    expect(half.map((l) => l.points)).toEqual([
      [0, 1, 2, 3, 4, 5],
      [0, -1, 2, 3, -4, 5],
    ]);
    expect(spaceLines({ half: false, wake: [line], stream: [line] })).toHaveLength(2);
  });
  it('stands the ribbon off the quarter chord by the load, upward across the stream', () => {
    const strips = [strip(0.1, 0.8), strip(0.5, 0.4), strip(0.9, 0.2)];
    const ribbons = liftRibbons([wing], strips, undefined, 0, 8);
    expect(ribbons).toHaveLength(2);
    const [right, left] = ribbons;
    expect(right.foot.filter((_, i) => i % 3 === 0)).toEqual([0.25, 0.25, 0.25].map((v) => expect.closeTo(v, 9)));
    const heights = right.edge.filter((_, i) => i % 3 === 2);
    expect(heights[0]).toBeCloseTo(0.3 * 4, 9);
    expect(heights[1] / heights[0]).toBeCloseTo(0.5, 9);
    expect(left.edge[1]).toBeCloseTo(-right.edge[1], 12);
    // Tilted back with the stream.
    const tilted = liftRibbons([wing], strips, undefined, 0.2, 8)[0];
    expect(tilted.edge[0]).toBeLessThan(0.25);
  });
  it('cuts it where the sections begin to stall', () => {
    const strips = [strip(0.1, 1), strip(0.4, 1), strip(0.7, 0.9), strip(0.95, 0.4)];
    const states = [1, 1, 0, 0].map((stalled) => ({ stalled })) as unknown as StripState[];
    const own = liftRibbons([wing], strips, states, 0.2, 8);
    expect(own.map((r) => [r.colour, r.foot.length / 3])).toEqual([
      ['var(--clay)', 3],
      ['var(--ochre)', 2],
      ['var(--clay)', 3],
      ['var(--ochre)', 2],
    ]);
  });
});
