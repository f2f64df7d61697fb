import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { InvalidInput, RAD } from '../numerics';
import type { AeroTables, PlateShape } from './aero-tables';
import { COEFFICIENTS, CONSTANTS, NAMES, RATE_NAMES, type Coefficient } from './standard-tables';

/** Characters that a file of tables may have. */
const MOST = 8_000_000;
const MANY = ['variableDef', 'breakpointDef', 'griddedTableDef', 'function', 'bpRef', 'staticShot', 'signal'];
const HINT = 'Give a file in the markup of AIAA S-119 with the tables that docs/flight.md lists.';
/** What numbers of a unit are multiplied with. */
const UNITS: Record<string, number> = {
  rad: 1,
  deg: RAD,
  m_s: 1,
  nd: 1,
  m: 1,
  m2: 1,
  f_s: 0.3048,
  ft: 0.3048,
  ft2: 0.3048 ** 2,
};

interface Attributes {
  [name: string]: unknown;
}
const list = (v: unknown): Attributes[] =>
  Array.isArray(v) ? (v as Attributes[]) : v === undefined || v === '' ? [] : [v as Attributes];
const text = (v: unknown): string =>
  typeof v === 'object' && v !== null ? String((v as Attributes)['#text'] ?? '') : String(v ?? '');
const refuse = (message: string, hint = HINT): never => {
  throw new InvalidInput('tables', message, hint);
};

/** Deepest that tags stand within each other; those of tables stand six deep. */
const DEEPEST = 40;

/** Refuses tags that stand deeper than anything that is read, before a parser goes down after them; and names that are those of objects themselves. */
function checkTags(source: string): void {
  let depth = 0;
  for (const [, slash, name, , own] of source.matchAll(/<(\/?)([^\s<>/!?]+)([^<>]*?)(\/?)>/g)) {
    if (/^(__proto__|prototype|constructor)$/.test(name)) refuse(`The file has a tag <${name}>, which no table has.`);
    depth += slash ? -1 : own ? 0 : 1;
    if (depth > DEEPEST) refuse(`Tags stand more than ${DEEPEST} deep in each other.`);
  }
}

/** Tables that were read, and in how many of the file's own checks they give what it says. */
export interface ReadTables {
  name: string;
  tables: AeroTables;
  checked: number;
}

/** The file as its parser has it. @throws InvalidInput `tables` for what is no XML. */
function parsed(source: string): { DAVEfunc?: Attributes } {
  const valid = XMLValidator.validate(source);
  // A parser may quote all that is not closed.
  if (valid !== true) refuse(`The file is no XML: ${valid.err.msg.slice(0, 200)} in line ${valid.err.line}.`);
  try {
    return new XMLParser({
      ignoreAttributes: false,
      attributeNamePrefix: '',
      parseTagValue: false,
      parseAttributeValue: false,
      isArray: (name) => MANY.includes(name),
    }).parse(source) as { DAVEfunc?: Attributes };
  } catch (error) {
    return refuse(`The file cannot be read: ${(error as Error).message.slice(0, 200)}.`);
  }
}

/**
 * Reads tables from an S-119 file with the functions that {@link writeStandardTables} writes; angles may be in degrees, lengths in feet.
 * @throws InvalidInput `tables` for a file that is not XML, lacks a table, has numbers that are not, or does not give its own checks.
 */
export function readStandardTables(source: string): ReadTables {
  if (source.length > MOST) refuse('The file is longer than 8 million characters.');
  if (/<!ENTITY/i.test(source)) refuse('The file declares entities, which are not read.', 'Write it without them.');
  checkTags(source);
  const root = parsed(source).DAVEfunc;
  if (!root) return refuse('The file has no DAVEfunc: it holds no tables.');
  const variables = new Map(list(root.variableDef).map((v) => [String(v.varID), v]));
  const unit = (of: Attributes, what: string): number =>
    UNITS[String(of.units ?? 'nd')] ??
    refuse(`${what} is in "${String(of.units)}", a unit that is not known.`, 'Use rad, deg, m_s, m, m2 or nd.');
  const numbersIn = (raw: unknown, what: string): number[] => {
    const out = text(raw)
      .split(/[\s,;]+/)
      .filter(Boolean)
      .map(Number);
    if (out.length === 0 || !out.every(Number.isFinite)) refuse(`${what} holds something that is no number.`);
    return out;
  };
  const breakpoints = new Map(
    list(root.breakpointDef).map((b) => {
      const what = `The breakpoints ${String(b.bpID)}`;
      const values = numbersIn(b.bpVals, what).map((v) => v * unit(b, what));
      if (values.some((v, i) => i > 0 && v <= values[i - 1])) refuse(`${what} do not rise.`);
      return [String(b.bpID), values] as const;
    }),
  );
  const grids = new Map(list(root.griddedTableDef).map((g) => [String(g.gtID), g]));
  const made = new Map(
    list(root.function).map((f) => {
      const id = String((f.dependentVarRef as Attributes | undefined)?.varID ?? '');
      const ref = ((f.functionDefn as Attributes | undefined)?.griddedTableRef as Attributes | undefined)?.gtID;
      return [id, String(ref ?? '')] as const;
    }),
  );
  /** A table by what depends on it: its values, and over what. */
  const tableOf = (id: string, text: string, over: number): { values: number[]; axes: number[][] } => {
    const grid = grids.get(made.get(id) ?? '') ?? refuse(`There is no table for ${id} (${text}).`);
    const names = list((grid.breakpointRefs as Attributes | undefined)?.bpRef).map((b) => String(b.bpID));
    const axes = names.map(
      (n) => breakpoints.get(n) ?? refuse(`The table for ${id} is over ${n}, which the file does not define.`),
    );
    if (axes.length !== over) refuse(`The table for ${id} is over ${axes.length} quantities, not ${over}.`);
    const values = numbersIn(grid.dataTable, `The table for ${id}`);
    const wanted = axes.reduce((n, a) => n * a.length, 1);
    if (values.length !== wanted)
      refuse(`The table for ${id} has ${values.length} numbers where its breakpoints ask for ${wanted}.`);
    return { values, axes };
  };
  const constant = (id: string, fallback?: number): number => {
    const v = variables.get(id);
    const value = v === undefined || v.initialValue === undefined ? fallback : Number(v.initialValue) * unit(v, id);
    return value !== undefined && Number.isFinite(value) ? value : refuse(`The file does not state ${id}.`);
  };
  const known = Object.fromEntries(
    CONSTANTS.map((id) => [id, constant(id, id.startsWith('lag') ? 0 : undefined)]),
  ) as Record<(typeof CONSTANTS)[number], number>;
  if (!(known.S > 0 && known.b > 0 && known.c > 0)) refuse('Reference area, span and chord must be greater than 0.');
  const controlIds = [...variables.keys()].filter((id) => /^d_\d+$/.test(id));
  const base = COEFFICIENTS.map((k) => tableOf(`${k}_base`, `${NAMES[k]} in straight flight`, 2));
  const side = COEFFICIENTS.map((k) => tableOf(`${k}_side`, `${NAMES[k]} by sideslip`, 2));
  const [speeds, alphas] = base[0].axes;
  const [betas, slopeAlphas] = side[0].axes;
  const same = (a: number[], b: number[]) => a.length === b.length && a.every((v, i) => Math.abs(v - b[i]) < 1e-9);
  const agree = (axes: number[][], own: number[][], what: string) =>
    axes.every((a, i) => same(a, own[i])) || refuse(`The tables of ${what} are over different breakpoints.`);
  COEFFICIENTS.forEach((k, i) => {
    agree(base[i].axes, [speeds, alphas], k);
    agree(side[i].axes, [betas, slopeAlphas], k);
  });
  for (const [axis, what] of [
    [alphas, 'angle of attack'],
    [slopeAlphas, 'angle of attack of the slopes'],
  ] as const) {
    const step = axis[1] - axis[0];
    if (axis.length < 2 || axis.some((a, i) => Math.abs(a - axis[0] - i * step) > 1e-6 * Math.abs(step)))
      refuse(`The breakpoints of the ${what} are not evenly spaced.`, 'Give two or more, evenly spaced.');
  }
  if (!betas.some((b) => Math.abs(b) < 1e-9)) refuse('The sideslips do not have 0 among them.');
  if (speeds.some((v) => !(v > 0))) refuse('The speeds are not greater than 0.');
  type Six = Record<Coefficient, number[]>;
  const rows = (of: { values: number[]; axes: number[][] }[]): Six[] =>
    of[0].axes[0].map(
      (_, r) =>
        Object.fromEntries(
          COEFFICIENTS.map((k, i) => {
            const n = of[i].axes[1].length;
            return [k, of[i].values.slice(r * n, (r + 1) * n)];
          }),
        ) as Six,
    );
  const slopes = (suffix: string, what: string): Six =>
    Object.fromEntries(
      COEFFICIENTS.map((k) => {
        const t = tableOf(`${k}_${suffix}`, `${NAMES[k]} by ${what}`, 1);
        agree(t.axes, [slopeAlphas], k);
        return [k, t.values];
      }),
    ) as Six;
  const tables: AeroTables = {
    reference: { area: known.S, span: known.b, chord: known.c },
    about: { x: known.x_about, y: known.y_about, z: known.z_about },
    alphas,
    speeds,
    base: rows(base),
    slopeAlphas,
    betas,
    side: rows(side),
    rates: { p: slopes('p', RATE_NAMES.p), q: slopes('q', RATE_NAMES.q), r: slopes('r', RATE_NAMES.r) },
    lag: { CL: known.lag_CL, Cm: known.lag_Cm },
    controls: controlIds.map((id) => {
      const v = variables.get(id)!;
      const limit = (key: string, usual: number) => (v[key] === undefined ? usual : Number(v[key]) * unit(v, id));
      const [least, greatest] = [limit('minValue', -30 * RAD), limit('maxValue', 30 * RAD)];
      if (!(least < greatest)) refuse(`The limits of the control ${String(v.name)} are turned around.`);
      return {
        id: String(v.symbol ?? id),
        name: String(v.name ?? id),
        least,
        greatest,
        slopes: slopes(id, String(v.name)),
      };
    }),
    plate: plateOf(variables, known, Math.min(...base[1].values)),
    gaps: 0,
  };
  return {
    name: String((root.fileHeader as Attributes | undefined)?.name ?? ''),
    tables,
    checked: checkAll(root, tables, controlIds),
  };
}

/** Plates from the constants; without them one of the reference area, at the moment reference. */
function plateOf(variables: Map<string, Attributes>, known: { S: number; b: number }, leastDrag: number): PlateShape {
  const value = (id: string) => {
    const v = Number(variables.get(id)?.initialValue);
    return Number.isFinite(v) ? v : null;
  };
  const up: PlateShape['up'] = [];
  const side: PlateShape['side'] = [];
  for (let i = 1; value(`plate_up_${i}_area`) !== null; i++)
    up.push({
      area: value(`plate_up_${i}_area`)!,
      aft: value(`plate_up_${i}_aft`) ?? 0,
      chord: value(`plate_up_${i}_chord`) ?? 1,
    });
  for (let i = 1; value(`plate_side_${i}_area`) !== null; i++)
    side.push({
      area: value(`plate_side_${i}_area`)!,
      aft: value(`plate_side_${i}_aft`) ?? 0,
      above: value(`plate_side_${i}_above`) ?? 0,
    });
  return {
    up: up.length ? up : [{ area: 1, aft: 0, chord: 1 }],
    side,
    aspectRatio: value('plate_aspect_ratio') ?? known.b ** 2 / known.S,
    drag: value('plate_drag') ?? Math.max(0, leastDrag),
  };
}

/** Runs the file's checks on the tables. @returns how many there are. @throws InvalidInput where one is not met. */
function checkAll(root: Attributes, t: AeroTables, controlIds: readonly string[]): number {
  const shots = list((root.checkData as Attributes | undefined)?.staticShot);
  for (const shot of shots) {
    const signals = (key: string) => list((shot[key] as Attributes | undefined)?.signal);
    const given = new Map(
      signals('checkInputs').map((s) => [
        text(s.signalName),
        Number(text(s.signalValue)) * (UNITS[text(s.signalUnits)] ?? 1),
      ]),
    );
    const input = (name: string) => given.get(name) ?? 0;
    const V = input('trueAirspeed');
    const { span, chord } = t.reference;
    const without = { p: span / (2 * V), q: chord / (2 * V), r: span / (2 * V) };
    const [alpha, beta] = [input('angleOfAttack'), input('angleOfSideslip')];
    for (const [name, wanted] of signals('checkOutputs').map((s) => [text(s.signalName), s] as const)) {
      const k = COEFFICIENTS.find((c) => NAMES[c] === name);
      if (!k) continue;
      const value =
        between(t.speeds, V, (i) => between(t.alphas, alpha, (j) => t.base[i][k][j])) +
        between(t.betas, beta, (i) => between(t.slopeAlphas, alpha, (j) => t.side[i][k][j])) +
        (['p', 'q', 'r'] as const).reduce(
          (s, r) => s + input(RATE_NAMES[r]) * without[r] * between(t.slopeAlphas, alpha, (j) => t.rates[r][k][j]),
          0,
        ) +
        t.controls.reduce(
          (s, c, i) => s + input(controlIds[i]) * between(t.slopeAlphas, alpha, (j) => c.slopes[k][j]),
          0,
        );
      const says = Number(text(wanted.signalValue));
      const tolerance = Math.max(1e-9, Number(text(wanted.tol)) || 0);
      if (!(Math.abs(value - says) <= tolerance))
        refuse(
          `The ${name} of the check "${String(shot.name)}" comes to ${value.toPrecision(6)}, the file says ${says.toPrecision(6)}.`,
          'A table was changed or damaged; write the file anew, or remove its checks.',
        );
    }
  }
  return shots.length;
}

/** A value between the points of an axis, linearly, as at the ends beyond them. */
function between(axis: readonly number[], x: number, at: (i: number) => number): number {
  if (axis.length === 1) return at(0);
  let i = 0;
  while (i < axis.length - 2 && x > axis[i + 1]) i++;
  const share = Math.max(0, Math.min(1, (x - axis[i]) / (axis[i + 1] - axis[i])));
  // At a point itself only its own value counts, so that nothing is lost in the last digit.
  return share === 0 ? at(i) : share === 1 ? at(i + 1) : at(i) + share * (at(i + 1) - at(i));
}
