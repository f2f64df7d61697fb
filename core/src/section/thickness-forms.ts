import { InvalidInput } from '../numerics';
import type { FormulaTrailingEdge, MeanLine, ThicknessForm } from './four-digit';

/** Slope of the rear part at the trailing edge for a fifth of the chord of thickness, by tenths of the crest. @source NACA TR-492, 1934. */
const REAR_SLOPE: Record<number, number> = { 2: 0.2, 3: 0.234, 4: 0.315, 5: 0.465, 6: 0.7 };

/**
 * The modified four-digit thickness form: nose radius and crest of choice, two polynomials that meet at the crest with one curvature.
 * @param thickness greatest thickness, chords. @param noseIndex 0 (sharp) to 9; 6 is the radius of the plain form, 9 three times that.
 * @param crestTenths place of the greatest thickness in tenths of the chord, 2 to 6. @param edge sharp closes the edge.
 * @source NACA TR-492, 1934; NASA TM X-3284, 1975.
 */
export function modifiedThickness(
  thickness: number,
  noseIndex: number,
  crestTenths: number,
  edge: FormulaTrailingEdge,
): ThicknessForm {
  const scale = thickness / 0.2;
  const m = crestTenths / 10;
  const q = 1 - m;
  const d0 = edge === 'sharp' ? 0 : 0.002;
  const d1 = REAR_SLOPE[crestTenths];
  const d2 = (3 * (0.1 - d0) - 2 * q * d1) / (q * q);
  const d3 = (q * d1 - 2 * (0.1 - d0)) / q ** 3;
  const bend = 2 * d2 + 6 * d3 * q;
  const a0 = 0.2969 * (noseIndex === 9 ? Math.sqrt(3) : noseIndex / 6);
  // y(m) = 0.1, y′(m) = 0, y″(m) = bend for y = a0 √x + a1 x + a2 x² + a3 x³.
  const f = 0.1 - a0 * Math.sqrt(m);
  const g = -a0 / (2 * Math.sqrt(m));
  const h = bend + a0 / (4 * m ** 1.5);
  const a3 = (0.5 * h * m * m - g * m + f) / m ** 3;
  const a2 = 0.5 * h - 3 * a3 * m;
  const a1 = g - 2 * a2 * m - 3 * a3 * m * m;
  return {
    half: (x) =>
      x < m
        ? scale * (a0 * Math.sqrt(x) + x * (a1 + x * (a2 + x * a3)))
        : scale * (d0 + (1 - x) * (d1 + (1 - x) * (d2 + (1 - x) * d3))),
    halfSlope: (x) =>
      x < m
        ? scale * ((0.5 * a0) / Math.sqrt(x) + a1 + x * (2 * a2 + x * 3 * a3))
        : -scale * (d1 + (1 - x) * (2 * d2 + (1 - x) * 3 * d3)),
    noseRadius: 0.5 * (scale * a0) ** 2,
  };
}

/** Where the slope of the even-load mean line, which is infinite at its ends, is taken from. */
const SLOPE_FROM = 0.005;

/**
 * The mean line that carries the same load all along the chord.
 * @param lift design lift coefficient. @source NACA TR-824, 1945 (a = 1).
 */
export function evenLoadMeanLine(lift: number): MeanLine {
  const k = lift / (4 * Math.PI);
  const term = (x: number) => (x <= 0 ? 0 : x * Math.log(x));
  return {
    ordinate: (x) => -k * (term(x) + term(1 - x)),
    slope: (x) => {
      const at = Math.min(1 - SLOPE_FROM, Math.max(SLOPE_FROM, x));
      return k * (Math.log(1 - at) - Math.log(at));
    },
  };
}

/** Reads the two digits behind the dash of a modified four-digit designation. @throws InvalidInput `designation`. */
export function readModification(digits: string, designation: string): { noseIndex: number; crestTenths: number } {
  const noseIndex = Number(digits[0]);
  const crestTenths = Number(digits[1]);
  if (!(crestTenths in REAR_SLOPE))
    throw new InvalidInput(
      'designation',
      `There is no section ${designation}: the last digit asks for a crest at ${crestTenths / 10} of the chord.`,
      'The crest lies at 2 to 6 tenths, such as 0012-34.',
      'designation',
    );
  return { noseIndex, crestTenths };
}
