import { XMLBuilder } from 'fast-xml-parser';
import type { AeroTables } from './aero-tables';

/*
 * Tables of an aircraft's coefficients in the markup of AIAA S-119-2011: variables, breakpoints, gridded tables, functions, the sums as MathML, and checks.
 * Inputs are rad, m/s and rad/s; coefficients are of lift, drag and side force, and of the moments in body axes about the point that the file states.
 */

export const COEFFICIENTS = ['CL', 'CD', 'CY', 'Cl', 'Cm', 'Cn'] as const;
export type Coefficient = (typeof COEFFICIENTS)[number];
export const NAMES: Record<Coefficient, string> = {
  CL: 'lift coefficient',
  CD: 'drag coefficient',
  CY: 'side force coefficient',
  Cl: 'rolling moment coefficient',
  Cm: 'pitching moment coefficient',
  Cn: 'yawing moment coefficient',
};
export const RATE_NAMES = { p: 'roll rate', q: 'pitch rate', r: 'yaw rate' } as const;
/** Constants that the file states beside its tables, by id. */
export const CONSTANTS = ['S', 'b', 'c', 'x_about', 'y_about', 'z_about', 'lag_CL', 'lag_Cm'] as const;

type Node = Record<string, unknown>;
const attributes = (of: Record<string, string | number | undefined>): Node =>
  Object.fromEntries(Object.entries(of).flatMap(([k, v]) => (v === undefined ? [] : [[`@${k}`, v]])));
const numbers = (values: readonly number[]) => values.map((v) => String(Number(v.toPrecision(17)))).join(', ');
const ci = (name: string): Node => ({ ci: name });
/** A sum or a product of names in MathML. */
const apply = (operation: 'plus' | 'times' | 'divide', parts: Node[]): Node => {
  const merged: Record<string, unknown[]> = {};
  for (const p of parts) for (const [k, v] of Object.entries(p)) (merged[k] ??= []).push(v);
  return { apply: { [operation]: '', ...merged } };
};

/** What a table adds to a coefficient: its id, and what it is multiplied with. */
interface Term {
  id: string;
  by?: string;
}

/**
 * Writes tables as an S-119 file. @param name of the aircraft. @param date of the making, such as 2026-11-27.
 * @source AIAA S-119-2011, with the document type that it names; between grid points the interpolation is linear there, where flights here go on smoothly.
 */
export function writeStandardTables(t: AeroTables, name: string, date: string): string {
  const variable = (id: string, text: string, units: string, more: Node = {}): Node => ({
    ...attributes({ name: text, varID: id, units }),
    ...more,
  });
  const constants: Record<(typeof CONSTANTS)[number], [string, string, number]> = {
    S: ['reference area', 'm2', t.reference.area],
    b: ['reference span', 'm', t.reference.span],
    c: ['reference chord', 'm', t.reference.chord],
    x_about: ['moment reference, aft', 'm', t.about.x],
    y_about: ['moment reference, right', 'm', t.about.y],
    z_about: ['moment reference, up', 'm', t.about.z],
    lag_CL: ['lift by the rate of the angle of attack times c/2V', 'nd', t.lag.CL],
    lag_Cm: ['pitching moment by the rate of the angle of attack times c/2V', 'nd', t.lag.Cm],
  };
  const controls = t.controls.map((c, i) => ({ ...c, varID: `d_${i + 1}` }));
  const variables: Node[] = [
    variable('alpha', 'angleOfAttack', 'rad'),
    variable('beta', 'angleOfSideslip', 'rad'),
    variable('speed', 'trueAirspeed', 'm_s'),
    ...(['p', 'q', 'r'] as const).map((k) => variable(k, RATE_NAMES[k], 'rad_s')),
    ...controls.map((c) =>
      variable(c.varID, c.name, 'rad', attributes({ minValue: c.least, maxValue: c.greatest, symbol: c.id })),
    ),
    ...Object.entries(constants).map(([id, [text, units, value]]) =>
      variable(id, text, units, attributes({ initialValue: value })),
    ),
    ...plateNumbers(t).map(([id, text, value]) => variable(id, text, 'nd', attributes({ initialValue: value }))),
    variable('half_b', 'half the reference span', 'm', attributes({ initialValue: t.reference.span / 2 })),
    variable('half_c', 'half the reference chord', 'm', attributes({ initialValue: t.reference.chord / 2 })),
    variable('inverse_speed', 'one over the speed', 's_m', {
      calculation: {
        math: {
          ...attributes({ xmlns: 'http://www.w3.org/1998/Math/MathML' }),
          apply: { divide: '', cn: 1, ci: 'speed' },
        },
      },
    }),
    // Rates without dimension: b/2V with roll and yaw, c/2V with pitch.
    ...(['p', 'q', 'r'] as const).map((k) =>
      variable(`${k}_n`, `${RATE_NAMES[k]} without dimension`, 'nd', {
        calculation: {
          math: {
            ...attributes({ xmlns: 'http://www.w3.org/1998/Math/MathML' }),
            ...apply('times', [ci(k), ci(k === 'q' ? 'half_c' : 'half_b'), ci('inverse_speed')]),
          },
        },
      }),
    ),
  ];
  const tables: Node[] = [];
  const functions: Node[] = [];
  const terms = new Map<Coefficient, Term[]>(COEFFICIENTS.map((k) => [k, []]));
  const grid = (id: string, text: string, over: [string, string][], values: number[]) => {
    tables.push({
      ...attributes({ name: text, gtID: `${id}_table`, units: 'nd' }),
      breakpointRefs: { bpRef: over.map(([bp]) => attributes({ bpID: bp })) },
      dataTable: numbers(values),
    });
    functions.push({
      ...attributes({ name: text }),
      independentVarRef: over.map(([, v]) => attributes({ varID: v, extrapolate: 'neither', interpolate: 'linear' })),
      dependentVarRef: attributes({ varID: id }),
      functionDefn: { griddedTableRef: attributes({ gtID: `${id}_table` }) },
    });
    variables.push(variable(id, text, 'nd'));
  };
  for (const k of COEFFICIENTS) {
    const list = terms.get(k)!;
    grid(
      `${k}_base`,
      `${NAMES[k]} in straight flight`,
      [
        ['SPEED', 'speed'],
        ['ALPHA', 'alpha'],
      ],
      t.base.flatMap((six) => six[k]),
    );
    list.push({ id: `${k}_base` });
    grid(
      `${k}_side`,
      `${NAMES[k]} by sideslip`,
      [
        ['BETA', 'beta'],
        ['ALPHA_SLOPES', 'alpha'],
      ],
      t.side.flatMap((six) => six[k]),
    );
    list.push({ id: `${k}_side` });
    for (const rate of ['p', 'q', 'r'] as const) {
      grid(`${k}_${rate}`, `${NAMES[k]} by ${RATE_NAMES[rate]}`, [['ALPHA_SLOPES', 'alpha']], t.rates[rate][k]);
      list.push({ id: `${k}_${rate}`, by: `${rate}_n` });
    }
    for (const c of controls) {
      grid(`${k}_${c.varID}`, `${NAMES[k]} by ${c.name}`, [['ALPHA_SLOPES', 'alpha']], c.slopes[k]);
      list.push({ id: `${k}_${c.varID}`, by: c.varID });
    }
  }
  for (const k of COEFFICIENTS) {
    const list = terms.get(k)!;
    variables.push(
      variable(k, NAMES[k], 'nd', {
        calculation: {
          math: {
            ...attributes({ xmlns: 'http://www.w3.org/1998/Math/MathML' }),
            ...apply(
              'plus',
              list.map(({ id, by }) => (by ? apply('times', [ci(id), ci(by)]) : ci(id))),
            ),
          },
        },
        isOutput: '',
      }),
    );
  }
  const breakpoint = (id: string, text: string, units: string, values: readonly number[]): Node => ({
    ...attributes({ name: text, bpID: id, units }),
    bpVals: numbers(values),
  });
  const document = {
    '?xml': attributes({ version: '1.0', encoding: 'UTF-8' }),
    DAVEfunc: {
      ...attributes({ xmlns: 'http://daveml.org/2010/DAVEML' }),
      fileHeader: {
        ...attributes({ name }),
        author: attributes({ name: 'Veldtwind', org: 'Veldtwind' }),
        creationDate: attributes({ date }),
        description: `Coefficients of ${name}: tables over speed, angle of attack and sideslip, slopes with rates and controls. Forces along and across the stream and along the body's right; moments about body axes.`,
      },
      variableDef: variables,
      breakpointDef: [
        breakpoint('SPEED', 'speeds', 'm_s', t.speeds),
        breakpoint('ALPHA', 'angles of attack', 'rad', t.alphas),
        breakpoint('ALPHA_SLOPES', 'angles of attack of the slopes', 'rad', t.slopeAlphas),
        breakpoint('BETA', 'sideslips', 'rad', t.betas),
      ],
      griddedTableDef: tables,
      function: functions,
      checkData: { staticShot: shots(t, controls) },
    },
  };
  return new XMLBuilder({
    ignoreAttributes: false,
    attributeNamePrefix: '@',
    format: true,
    suppressEmptyNode: true,
  }).build(document) as string;
}

/** Areas and arms of the plates that stand in beyond the tables, as constants. */
export function plateNumbers({ plate }: Pick<AeroTables, 'plate'>): [id: string, text: string, value: number][] {
  return [
    ['plate_aspect_ratio', 'aspect ratio of the plates', plate.aspectRatio],
    ['plate_drag', 'drag of the plates along the stream', plate.drag],
    ...plate.up.flatMap((p, i): [string, string, number][] => [
      [`plate_up_${i + 1}_area`, 'flat plate, area over S', p.area],
      [`plate_up_${i + 1}_aft`, 'flat plate, place behind the moment reference over c', p.aft],
      [`plate_up_${i + 1}_chord`, 'flat plate, chord over c', p.chord],
    ]),
    ...plate.side.flatMap((p, i): [string, string, number][] => [
      [`plate_side_${i + 1}_area`, 'upright plate, area over S', p.area],
      [`plate_side_${i + 1}_aft`, 'upright plate, place behind the moment reference over b', p.aft],
      [`plate_side_${i + 1}_above`, 'upright plate, place above the moment reference over b', p.above],
    ]),
  ];
}

/** Inputs and outputs at grid points, where every way of interpolating has the same values. */
function shots(t: AeroTables, controls: readonly { varID: string; slopes: AeroTables['rates']['p'] }[]): Node[] {
  const near = (list: readonly number[], v: number) =>
    list.reduce((best, a, i) => (Math.abs(a - v) < Math.abs(list[best] - v) ? i : best), 0);
  const signal = (name: string, value: number, units: string, tolerance?: number): Node => ({
    signalName: name,
    signalUnits: units,
    signalValue: value,
    ...(tolerance === undefined ? {} : { tol: tolerance }),
  });
  return [0, 1, 2].map((n) => {
    const slope = Math.min(t.slopeAlphas.length - 1, 1 + 2 * n);
    const alpha = near(t.alphas, t.slopeAlphas[slope]);
    const speed = Math.min(t.speeds.length - 1, n);
    const beta = n === 0 ? near(t.betas, 0) : n === 1 ? 0 : t.betas.length - 1;
    const V = t.speeds[speed];
    const rates = { p: 0.3 * n, q: -0.2 * n, r: 0.1 * n };
    const deflection = 0.05 * n;
    const { span, chord } = t.reference;
    const without = { p: (rates.p * span) / (2 * V), q: (rates.q * chord) / (2 * V), r: (rates.r * span) / (2 * V) };
    const value = (k: Coefficient) =>
      t.base[speed][k][alpha] +
      t.side[beta][k][slope] +
      (['p', 'q', 'r'] as const).reduce((s, r) => s + without[r] * t.rates[r][k][slope], 0) +
      controls.reduce((s, c) => s + deflection * c.slopes[k][slope], 0);
    return {
      ...attributes({ name: `check ${n + 1}` }),
      checkInputs: {
        signal: [
          signal('angleOfAttack', t.slopeAlphas[slope], 'rad'),
          signal('angleOfSideslip', t.betas[beta], 'rad'),
          signal('trueAirspeed', V, 'm_s'),
          ...(['p', 'q', 'r'] as const).map((r) => signal(RATE_NAMES[r], rates[r], 'rad_s')),
          ...controls.map((c) => signal(c.varID, deflection, 'rad')),
        ],
      },
      checkOutputs: { signal: COEFFICIENTS.map((k) => signal(NAMES[k], value(k), 'nd', 1e-9)) },
    };
  });
}
