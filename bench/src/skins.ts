import type { Body, LiftingSurface, Point3 } from '@veldtwind/core/airframe';
import { madeSurface } from '@veldtwind/core/airframe/testing';
import { sectionLookup } from '@veldtwind/core/candidate';
import { analyseThick } from '@veldtwind/core/lift';
import { RAD, VeldtwindError } from '@veldtwind/core/numerics';

/** One made-up aircraft by surface panels, beside the lattice with slender bodies. */
export interface SkinLine {
  number: number;
  /** Tail: flat, on top of the fin, leaning, with two fins, or none. */ kind: string;
  /** Difference of static margins, panels less lattice, chords. */ margin: number;
  /** Slope of lift over the lattice's. */ slope: number;
  doubt: string | null;
}

/** Numbers that are the same every time. */
function numbers(seed: number): () => number {
  let s = seed >>> 0;
  return () => {
    s = (Math.imul(s, 1664525) + 1013904223) >>> 0;
    return s / 2 ** 32;
  };
}

const TAILS = ['flat', 'on top', 'leaning', 'two fins', 'cruciform'] as const;

/** An aircraft by its number: wing, tail of five kinds, and in half of them a hull or booms. */
export function madeAircraft(number: number): { kind: string; surfaces: LiftingSurface[]; bodies: Body[] } {
  const next = numbers(number * 7919 + 17);
  const from = (a: number, b: number) => a + (b - a) * next();
  const kind = TAILS[number % TAILS.length];
  const root = from(0.4, 0.7);
  const arm = from(1.5, 2.4);
  const height = from(-0.05, 0.25);
  const wing = madeSurface(
    'wing',
    'horizontal',
    true,
    { x: 0, y: 0, z: 0 },
    [root, root * from(0.5, 1)],
    from(1.6, 3),
    {
      sweep: from(-3, 15),
      dihedral: from(0, 6),
      section: ['1410', '0012', '2411', '4415'][number % 4],
      incidenceDeg: from(0, 3),
    },
  );
  const chord = from(0.25, 0.4);
  const half = from(0.4, 0.8);
  const fin = (z: number, y = 0) =>
    madeSurface('fin', 'vertical', y !== 0, { x: arm, y, z }, [chord * 1.15, chord * 0.8], from(0.3, 0.55), {
      sweep: from(0, 20),
    });
  const tail = (z: number, dihedral = 0) =>
    madeSurface('tail', 'horizontal', true, { x: arm + 0.02, y: 0, z }, [chord, chord * from(0.7, 1)], half, {
      dihedral,
      sweep: from(0, 10),
      incidenceDeg: from(-2, 0),
    });
  const tails: Record<(typeof TAILS)[number], () => LiftingSurface[]> = {
    flat: () => [tail(height), fin(height)],
    'on top': () => {
      const f = fin(height);
      return [{ ...tail(height + f.bays[0].span) }, f];
    },
    leaning: () => [tail(height, from(25, 45))],
    'two fins': () => [tail(height), fin(height, half)],
    cruciform: () => [tail(height), fin(height - from(0.08, 0.2))],
  };
  const bodies: Body[] = [];
  const body = (mirrored: boolean, position: Point3, length: number, width: number): Body =>
    ({
      id: 'body',
      name: 'Body',
      mirrored,
      loft: 'smooth',
      position,
      stations: [
        [0, 0],
        [0.1, 0.7],
        [0.35, 1],
        [0.7, 0.8],
        [1, 0],
      ].map(([x, share]) => ({
        x: x * length,
        width: width * share,
        height: width * share,
        z: 0,
        shape: 'ellipse',
        corner: 0,
      })),
    }) as unknown as Body;
  if (number % 4 === 1) bodies.push(body(false, { x: -from(0.4, 0.8), y: 0, z: 0 }, arm + 1.2, from(0.12, 0.3)));
  if (number % 4 === 3) bodies.push(body(true, { x: -0.1, y: from(0.25, 0.4), z: 0 }, arm + 0.5, from(0.03, 0.05)));
  return {
    kind: bodies.length ? `${kind}, ${bodies[0].mirrored ? 'booms' : 'hull'}` : kind,
    surfaces: [wing, ...tails[kind]()],
    bodies,
  };
}

/** Surface panels of an aircraft at 1° and 4° beside the lattice. */
export function skinLine(number: number): SkinLine {
  const { kind, surfaces, bodies } = madeAircraft(number);
  const about = { x: 0.2, y: 0, z: 0 };
  try {
    const { points, compared } = analyseThick(
      { surfaces, bodies, alphas: [1 * RAD, 4 * RAD], about },
      sectionLookup({}),
    );
    return {
      number,
      kind,
      margin: compared!.panels.margin - compared!.lattice.margin,
      slope: compared!.panels.liftSlope / compared!.lattice.liftSlope,
      doubt: points.find((p) => p.doubt)?.doubt ?? null,
    };
  } catch (error) {
    if (!(error instanceof VeldtwindError)) throw error;
    return { number, kind, margin: NaN, slope: NaN, doubt: error.message };
  }
}

/** Prints aircraft one by one, and what they come to. */
export function printSkins(count: number): void {
  const lines: SkinLine[] = [];
  for (let n = 0; n < count; n++) {
    const line = skinLine(n);
    lines.push(line);
    console.log(
      `${String(n).padStart(3)} ${line.kind.padEnd(20)} margin ${line.margin.toFixed(4).padStart(8)}, slope ${line.slope.toFixed(3)}${line.doubt ? `  doubtful: ${line.doubt.slice(0, 90)}` : ''}`,
    );
  }
  const sound = lines.filter((l) => l.doubt === null);
  const most = (of: (l: SkinLine) => number) => Math.max(...sound.map(of));
  console.log(
    `${sound.length} of ${count} without a doubt: margins within ${most((l) => Math.abs(l.margin)).toFixed(4)}, slopes ${Math.min(...sound.map((l) => l.slope)).toFixed(3)} to ${most((l) => l.slope).toFixed(3)}`,
  );
}
