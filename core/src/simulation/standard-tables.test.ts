import { RAD } from '../numerics';
import { readStandardTables, tabledAerodynamics, writeStandardTables, type AeroTables } from '.';

const six = (n: number, seed: number) =>
  Object.fromEntries(
    ['CL', 'CD', 'CY', 'Cl', 'Cm', 'Cn'].map((k, j) => [
      k,
      Array.from({ length: n }, (_, i) => Math.sin(seed + 1.7 * j + 0.31 * i) / (1 + j)),
    ]),
  ) as AeroTables['side'][number];
const tables: AeroTables = {
  reference: { area: 1.56, span: 4.8, chord: 0.33 },
  about: { x: 0.41, y: 0, z: -0.02 },
  alphas: Array.from({ length: 33 }, (_, i) => (i - 12) * RAD),
  speeds: [18.2, 26, 39],
  base: [six(33, 1), six(33, 2), six(33, 3)],
  slopeAlphas: Array.from({ length: 9 }, (_, i) => (4 * i - 12) * RAD),
  betas: [-12, -4, 0, 4, 12].map((b) => b * RAD),
  side: [4, 5, 6, 7, 8].map((s) => six(9, s)),
  rates: { p: six(9, 9), q: six(9, 10), r: six(9, 11) },
  lag: { CL: 1.7, Cm: -4.2 },
  controls: [
    { id: 'e', name: 'Elevator <tail> & "all"', least: -0.4, greatest: 0.35, slopes: six(9, 12) },
    { id: 'a', name: 'Aileron', least: -0.3, greatest: 0.3, slopes: six(9, 13) },
  ],
  plate: {
    up: [{ area: 0.9, aft: 0.1, chord: 1.1 }],
    side: [{ area: 0.1, aft: 0.4, above: 0.05 }],
    aspectRatio: 14.8,
    drag: 0.02,
  },
  gaps: 0,
};
const written = writeStandardTables(tables, 'Straight', '2026-11-27');

describe('tables in the open standard', () => {
  it('come back to the last digit, with their checks', () => {
    const back = readStandardTables(written);
    expect(back.tables).toEqual(tables);
    expect(back.name).toBe('Straight');
    expect(back.checked).toBe(3);
  });
  it('fly the same after it', () => {
    const out = () => ({ CX: 0, CY: 0, CZ: 0, Cl: 0, Cm: 0, Cn: 0, beyond: false });
    const state = { speed: 24, alpha: 0.07, beta: 0.03, p: 0.01, q: 0.002, r: -0.01, controls: [0.1, -0.05] };
    const [a, b] = [out(), out()];
    tabledAerodynamics(tables).at(state, a);
    tabledAerodynamics(readStandardTables(written).tables).at(state, b);
    expect(b).toEqual(a);
  });
  it('names every variable before it is used in a sum, and every table that a function refers to', () => {
    const ids = [...written.matchAll(/varID="([^"]+)"/g)].map((m) => m[1]);
    const defined = new Set([...written.matchAll(/<variableDef[^>]*varID="([^"]+)"/g)].map((m) => m[1]));
    expect(ids.every((id) => defined.has(id))).toBe(true);
    for (const [, body, id] of written.matchAll(
      /<variableDef[^>]*varID="([^"]+)"[^>]*>\s*<calculation>([\s\S]*?)<\/calculation>/g,
    ))
      for (const [, used] of id.matchAll(/<ci>([^<]+)<\/ci>/g)) {
        expect(defined.has(used)).toBe(true);
        expect(written.indexOf(`varID="${used}"`)).toBeLessThan(written.indexOf(`varID="${body}" `));
      }
    const grids = new Set([...written.matchAll(/<griddedTableDef[^>]*gtID="([^"]+)"/g)].map((m) => m[1]));
    for (const [, id] of written.matchAll(/<griddedTableRef gtID="([^"]+)"/g)) expect(grids.has(id)).toBe(true);
  });
  it('reads degrees', () => {
    const deg = written.replace(
      /<breakpointDef name="sideslips" bpID="BETA" units="rad">[\s\S]*?<\/bpVals>/,
      '<breakpointDef name="sideslips" bpID="BETA" units="deg"><bpVals>-12, -4, 0, 4, 12</bpVals>',
    );
    readStandardTables(deg).tables.betas.forEach((b, i) => expect(b).toBeCloseTo(tables.betas[i], 12));
  });
  it.each([
    ['', /no XML|no DAVEfunc/],
    ['<a><b></a>', /no XML/],
    ['<a/>', /no DAVEfunc/],
    [`<!DOCTYPE a [<!ENTITY x "y">]>${written}`, /entities/],
    [written.slice(0, written.length / 2), /no XML/],
    [written.replace('gtID="Cm_q_table"', 'gtID="other"'), /no table for Cm_q/],
    [
      written.replace(/(bpID="ALPHA" units="rad">\s*<bpVals>)[^,]+/, '$1NaN'),
      /ALPHA holds something that is no number/,
    ],
    [written.replace(/(bpID="SPEED" units="m_s">\s*<bpVals>)18.2, 26/, '$126, 18.2'), /SPEED do not rise/],
    [written.replace(/(bpID="ALPHA" units="rad">\s*<bpVals>)[^,]+,/, '$1-0.5,'), /not evenly spaced/],
    [written.replace(/(gtID="CL_base_table"[\s\S]*?<dataTable>)[^,]+,/, '$1'), /CL_base has 98 numbers .* 99/],
    [
      written.replace(/(gtID="CL_base_table"[\s\S]*?<dataTable>)[^<]+/, `$1${new Array(99).fill(0.1).join(',')}`),
      /check "check 1" comes to/,
    ],
    [
      written.replace(/varID="S" units="m2" initialValue="[^"]*"/, 'varID="S" units="m2" initialValue="0"'),
      /greater than 0/,
    ],
    [written.replace('units="m2"', 'units="acre"'), /acre/],
  ])('says what is wrong with a file that cannot be %#', (text, why) => {
    expect(() => readStandardTables(text)).toThrow(why);
  });
});

describe('hostile files of tables', () => {
  const refusal = (source: string): { message: string; name: string } => {
    try {
      readStandardTables(source);
    } catch (error) {
      return error as Error;
    }
    throw new Error('it was read');
  };
  it.each([
    ['tags within each other without end', '<a>'.repeat(200_000)],
    ['deep and closed', `${'<a>'.repeat(5000)}${'</a>'.repeat(5000)}`],
    ['a tag that is the prototype of all', '<DAVEfunc><__proto__><x>1</x></__proto__></DAVEfunc>'],
    ['a million open tags', '<DAVEfunc>'.repeat(500_000)],
    ['tags that are never closed', `<DAVEfunc ${'x'.repeat(1_000_000)}`],
    ['nothing', ''],
    ['binary', '\u0000\u0001\u0002<'],
  ])('%s: refused in few words, without a stack', (_, source) => {
    const { message, name } = refusal(source);
    expect(name).toBe('InvalidInput');
    expect(message.length).toBeLessThan(2000);
    expect(message).not.toMatch(/at .*\.ts:\d/);
  });
});
