import { rectangleTorsion, shearFlows, tube, type Corner, type Wall } from '.';

const E = 70e9;
const G = 26e9;
const wall = (a: number, b: number, thickness: number): Wall => ({ a, b, thickness, E, G });
const corner = (x: number, z: number, EA = 0): Corner => ({ x, z, EA });

/** A rectangle of four walls, each cut into pieces. */
function box(width: number, height: number, caps: number, webs: number, pieces = 6): [Corner[], Wall[]] {
  const ends = [
    [0, 0],
    [width, 0],
    [width, height],
    [0, height],
  ];
  const corners: Corner[] = [];
  const walls: Wall[] = [];
  ends.forEach(([x, z], side) => {
    const [u, v] = ends[(side + 1) % 4];
    for (let k = 0; k < pieces; k++) {
      corners.push(corner(x + ((u - x) * k) / pieces, z + ((v - z) * k) / pieces));
      walls.push(wall(corners.length - 1, corners.length, side % 2 === 0 ? caps : webs));
    }
  });
  walls[walls.length - 1].b = 0;
  return [corners, walls];
}

describe('shear flows of thin walls', () => {
  it('give a rectangular cell its torsion exactly', () => {
    const [w, h, tc, tw] = [0.08, 0.03, 1.2e-3, 0.8e-3];
    const { GJ, torque } = shearFlows(...box(w, h, tc, tw));
    const closed = (4 * (w * h) ** 2) / (2 * (w / tc + h / tw));
    const open = (2 * (w * tc ** 3 + h * tw ** 3)) / 3;
    expect(GJ / (G * (closed + open))).toBeCloseTo(1, 12);
    // T = 2 A q, less what the walls carry by themselves.
    for (const q of torque) expect(Math.abs(q) * 2 * w * h).toBeCloseTo(closed / (closed + open), 9);
  });
  it('give a round tube of many walls the torsion of the ring', () => {
    const [R, t, n] = [0.02, 4e-4, 180];
    const corners = Array.from({ length: n }, (_, i) =>
      corner(R * Math.cos((2 * Math.PI * i) / n), R * Math.sin((2 * Math.PI * i) / n)),
    );
    const { GJ, centre } = shearFlows(
      corners,
      corners.map((_, i) => wall(i, (i + 1) % n, t)),
    );
    expect(GJ / (G * 2 * tube(2 * R + t, t).I)).toBeCloseTo(1, 3);
    expect(centre).toBeCloseTo(0, 9);
  });
  it('find the shear centre of a channel, 3 b²/(6 b + h) before its web', () => {
    const [b, h, t, n] = [0.05, 0.1, 1e-3, 40];
    const corners: Corner[] = [];
    const walls: Wall[] = [];
    const to = (x: number, z: number) => {
      corners.push(corner(x, z));
      if (corners.length > 1) walls.push(wall(corners.length - 2, corners.length - 1, t));
    };
    for (let k = 0; k <= n; k++) to(b * (1 - k / n), 0);
    for (let k = 1; k <= n; k++) to(0, (h * k) / n);
    for (let k = 1; k <= n; k++) to((b * k) / n, h);
    const { centre, shear } = shearFlows(corners, walls);
    expect(-centre / ((3 * b * b) / (6 * b + h))).toBeCloseTo(1, 2);
    // Greatest in the middle of the web: V S / I.
    const I = (t * h ** 3) / 12 + 2 * b * t * (h / 2) ** 2;
    const S = b * t * (h / 2) + (t * h * h) / 8;
    expect((Math.max(...shear.map(Math.abs)) * I) / S).toBeCloseTo(1, 2);
  });
  it('let two cells twist alike: a wall between equal cells carries nothing', () => {
    const [corners, walls] = box(0.1, 0.04, 1e-3, 1e-3, 2);
    // The middles of both long sides.
    walls.push(wall(1, 5, 2e-3));
    const two = shearFlows(corners, walls);
    const one = shearFlows(...box(0.1, 0.04, 1e-3, 1e-3, 2));
    expect(two.torque[walls.length - 1]).toBeCloseTo(0, 9);
    expect(two.GJ - (G * 0.04 * 2e-3 ** 3) / 3).toBeCloseTo(one.GJ, 6);
  });
  it('carry one newton up, in an unlike pair of cells too', () => {
    const [corners, walls] = box(0.1, 0.04, 1e-3, 0.5e-3, 4);
    corners[3].EA += 2e5;
    walls.push(wall(3, 13, 2e-3));
    const { shear } = shearFlows(corners, walls);
    expect(walls.reduce((sum, w, i) => sum + shear[i] * (corners[w.b].z - corners[w.a].z), 0)).toBeCloseTo(1, 12);
    // Around both cells the walls shear without twist.
    const around = (list: number[]) =>
      list.reduce(
        (sum, i) =>
          sum +
          (shear[i] *
            Math.hypot(corners[walls[i].b].x - corners[walls[i].a].x, corners[walls[i].b].z - corners[walls[i].a].z)) /
            walls[i].thickness,
        0,
      );
    expect(around(walls.slice(0, 16).map((_, i) => i))).toBeCloseTo(0, 6);
  });
  it('refuse walls that do not hang together', () => {
    expect(() =>
      shearFlows([corner(0, 0), corner(0, 1), corner(1, 0), corner(1, 1)], [wall(0, 1, 1e-3), wall(2, 3, 1e-3)]),
    ).toThrow(expect.objectContaining({ code: 'walls' }));
  });
});

describe('solid bars', () => {
  it('have the torsion of the published table', () => {
    // Width over height 1, 2, 10: β of J = β a b³, and α of τ = T/(α a b²).
    for (const [ratio, beta, alpha] of [
      [1, 0.1406, 0.2082],
      [2, 0.2287, 0.2459],
      [10, 0.3123, 0.3123],
    ]) {
      const { J, stress } = rectangleTorsion(ratio, 1);
      expect(J / ratio).toBeCloseTo(beta, 4);
      expect(1 / (stress * ratio)).toBeCloseTo(alpha, 3);
    }
    expect(rectangleTorsion(1, 2)).toEqual(rectangleTorsion(2, 1));
  });
  it('shear as 2 V/A in a thin tube, and 4/3 V/A in a full one', () => {
    const thin = tube(0.05, 1e-5);
    expect(thin.stress * thin.area).toBeCloseTo(2, 3);
    const full = tube(0.05, 0.025);
    expect(full.stress * full.area).toBeCloseTo(4 / 3, 9);
  });
});
