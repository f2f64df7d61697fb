import { cosineSpaced, InvalidInput } from '../numerics';
import type { Outline } from './outline';
import { evenLoadMeanLine, modifiedThickness, readModification } from './thickness-forms';

/** How a section made by formula ends: `published` keeps the thickness the formula gives at x = 1, `sharp` closes it. */
export type FormulaTrailingEdge = 'published' | 'sharp';

/** A mean line: ordinate and slope at x, in chords. */
export interface MeanLine {
  ordinate(x: number): number;
  slope(x: number): number;
}

/** Thickness form of the four- and five-digit families: half thickness at x for a thickness ratio. */
export interface ThicknessForm {
  half(x: number): number;
  halfSlope(x: number): number;
  /** Nose radius, chords. */
  noseRadius: number;
}

/**
 * The thickness form of the four-digit family.
 * @param thickness greatest thickness, chords. @param edge the published last coefficient, or the one that closes the edge.
 * @source NACA TR-460, 1933.
 */
export function fourDigitThickness(thickness: number, edge: FormulaTrailingEdge): ThicknessForm {
  const last = edge === 'sharp' ? -0.1036 : -0.1015;
  const scale = thickness / 0.2;
  return {
    half: (x) => scale * (0.2969 * Math.sqrt(x) + x * (-0.126 + x * (-0.3516 + x * (0.2843 + x * last)))),
    halfSlope: (x) => scale * (0.14845 / Math.sqrt(x) - 0.126 + x * (-0.7032 + x * (0.8529 + x * 4 * last))),
    noseRadius: 0.5 * (scale * 0.2969) ** 2,
  };
}

/** Mean line of two parabolas. @param camber greatest camber, chords. @param crest its place, 0 < crest < 1. @source NACA TR-460, 1933. */
export function fourDigitMeanLine(camber: number, crest: number): MeanLine {
  if (camber === 0) return { ordinate: () => 0, slope: () => 0 };
  const fore = camber / (crest * crest);
  const aft = camber / ((1 - crest) * (1 - crest));
  return {
    ordinate: (x) => (x < crest ? fore * x * (2 * crest - x) : aft * (1 - 2 * crest + x * (2 * crest - x))),
    slope: (x) => 2 * (x < crest ? fore : aft) * (crest - x),
  };
}

/** Rows of the five-digit mean lines for a design lift coefficient of 0.3: m, k1, k2/k1. @source NACA TR-537, 1935; NACA TR-610, 1937. */
const FIVE_DIGIT: Record<string, readonly [number, number, number]> = {
  '10': [0.058, 361.4, 0],
  '20': [0.126, 51.64, 0],
  '30': [0.2025, 15.957, 0],
  '40': [0.29, 6.643, 0],
  '50': [0.391, 3.23, 0],
  '21': [0.13, 51.99, 0.000764],
  '31': [0.217, 15.793, 0.00677],
  '41': [0.318, 6.52, 0.0303],
  '51': [0.441, 3.191, 0.1355],
};

/**
 * Mean line of the five-digit family, simple or reflexed.
 * @param lift first digit (design lift coefficient = 0.15 × digit). @param row second and third digit, such as `30` or `31`.
 * @source NACA TR-537, 1935 (simple); NACA TR-610, 1937 (reflexed).
 */
export function fiveDigitMeanLine(lift: number, row: string): MeanLine {
  const [m, k1For3, ratio] = FIVE_DIGIT[row];
  const k = (k1For3 * lift) / 2 / 6;
  if (ratio === 0) {
    return {
      ordinate: (x) => (x < m ? k * x * (x * (x - 3 * m) + m * m * (3 - m)) : k * m ** 3 * (1 - x)),
      slope: (x) => (x < m ? k * (3 * x * (x - 2 * m) + m * m * (3 - m)) : -k * m ** 3),
    };
  }
  const linear = -ratio * (1 - m) ** 3 - m ** 3;
  return {
    ordinate: (x) => k * ((x < m ? 1 : ratio) * (x - m) ** 3 + linear * x + m ** 3),
    slope: (x) => k * ((x < m ? 1 : ratio) * 3 * (x - m) ** 2 + linear),
  };
}

/** What a designation says. */
export interface FormulaSection {
  designation: string;
  family: 'four-digit' | 'five-digit' | 'modified four-digit' | 'modified five-digit' | '16-series';
  thickness: number;
  /** Greatest camber and its place for four digits; undefined for five, where the mean line is defined by its design lift. */
  camber?: { max: number; at: number };
  meanLine: MeanLine;
  form: ThicknessForm;
}

/**
 * Reads a designation: four or five digits, either with the two digits of a modified thickness behind a dash, or the 16-series.
 * @param designation such as `4415`, `23012`, `23111` (reflexed), `0012-34` (nose index 3, crest at 0.4) or `16-309`
 * (design lift 0.3, 9 % thick).
 * @throws InvalidInput `designation` with what is wrong and what would work.
 */
export function readDesignation(designation: string, edge: FormulaTrailingEdge = 'published'): FormulaSection {
  const text = designation.trim();
  const refuse = (why: string, hint: string): never => {
    throw new InvalidInput('designation', `There is no section ${text || '(empty)'}: ${why}`, hint, 'designation');
  };
  const series = /^16-(\d)(\d\d)$/.exec(text);
  const match = /^(\d{4,5})(?:-(\d\d))?$/.exec(text);
  if (!series && !match)
    refuse(
      'a designation has four or five digits, perhaps a dash and two more, or starts with 16-.',
      'Try 4415, 0009, 23012, 0012-34 or 16-309.',
    );
  const digits = match?.[1] ?? '';
  const thickness = Number(series ? series[2] : digits.slice(-2)) / 100;
  if (thickness < 0.01 || thickness > 0.5) {
    refuse(
      `its last two digits ask for a thickness of ${Math.round(100 * thickness)} %.`,
      'The thickness must be from 01 to 50 %.',
    );
  }
  if (series) {
    return {
      designation: text,
      family: '16-series',
      thickness,
      meanLine: evenLoadMeanLine(Number(series[1]) / 10),
      form: modifiedThickness(thickness, 4, 5, edge),
    };
  }
  const modification = match?.[2] ? readModification(match[2], text) : undefined;
  const form = modification
    ? modifiedThickness(thickness, modification.noseIndex, modification.crestTenths, edge)
    : fourDigitThickness(thickness, edge);
  if (digits.length === 4) {
    const max = Number(digits[0]) / 100;
    const at = Number(digits[1]) / 10;
    if (max > 0 && at === 0) {
      refuse(
        'a cambered section needs the place of its greatest camber in the second digit.',
        `Try ${digits[0]}4${text.slice(2)}.`,
      );
    }
    return {
      designation: text,
      family: modification ? 'modified four-digit' : 'four-digit',
      thickness,
      camber: { max, at: max > 0 ? at : 0 },
      meanLine: fourDigitMeanLine(max, at),
      form,
    };
  }
  const lift = Number(digits[0]);
  const row = digits.slice(1, 3);
  if (lift === 0)
    refuse(
      'the first of five digits gives the design lift and cannot be 0.',
      'Use four digits for a symmetric section, such as 0012.',
    );
  if (!FIVE_DIGIT[row]) {
    refuse(
      `its second and third digit (${row}) name no mean line.`,
      'The mean lines are 10, 20, 30, 40, 50 and, reflexed, 21, 31, 41, 51.',
    );
  }
  return {
    designation: text,
    family: modification ? 'modified five-digit' : 'five-digit',
    thickness,
    meanLine: fiveDigitMeanLine(lift, row),
    form,
  };
}

/**
 * Points of a section from its mean line and thickness form, thickness laid off at right angles to the mean line.
 * @param count points in all; made odd, so that the nose is one of them. Cosine spacing along each surface.
 * @source NACA TR-460, 1933.
 */
export function formulaOutline(meanLine: MeanLine, form: ThicknessForm, count: number): Outline {
  const half = Math.max(8, Math.floor(count / 2));
  const stations = cosineSpaced(0, 1, half + 1);
  const x = new Float64Array(2 * half + 1);
  const y = new Float64Array(2 * half + 1);
  for (let i = 0; i <= half; i++) {
    const at = stations[i];
    const t = form.half(at);
    const yc = meanLine.ordinate(at);
    const angle = Math.atan(meanLine.slope(at));
    const sin = Math.sin(angle);
    const cos = Math.cos(angle);
    x[half - i] = at - t * sin;
    y[half - i] = yc + t * cos;
    x[half + i] = at + t * sin;
    y[half + i] = yc - t * cos;
  }
  return { x, y };
}

/** The outline of a designation. @see readDesignation, formulaOutline */
export function designationOutline(designation: string, edge: FormulaTrailingEdge = 'published', count = 161): Outline {
  const { meanLine, form } = readDesignation(designation, edge);
  return formulaOutline(meanLine, form, count);
}
