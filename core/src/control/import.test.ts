import { zipSync } from 'fflate';
import { sampleCase } from '../motion/testing/sample-case';
import {
  flightModel,
  frequencyResponse,
  inBodyAxes,
  polesOf,
  withOutputs,
  modelArrays,
  modelCsv,
  modelJson,
  modelText,
  readArrayFile,
  readModel,
} from '.';

// Zeros without a sign, as files have them.
const model = JSON.parse(
  JSON.stringify(flightModel(sampleCase({ controls: { 'Elevator, left': { CL: 0.4, Cm: -1.1 } } }), 'longitudinal')),
) as ReturnType<typeof flightModel>;
const bytes = (text: string) => new TextEncoder().encode(text);

describe('models along the body', () => {
  it('have the same poles and answers, with states that are turned', () => {
    const alpha = 0.15;
    const body = inBodyAxes(model, alpha);
    const poles = (m: typeof model) => polesOf(m.A).flat();
    poles(body).forEach((v, k) => expect(v).toBeCloseTo(poles(model)[k], 8));
    const at = (m: typeof model) => frequencyResponse(m, 2, 0)(3);
    at(body).forEach((v, k) => expect(v).toBeCloseTo(at(model)[k], 9));
    // Thrust along the path pushes along both of the body's axes: the stream comes from below.
    expect(body.B[0][1]).toBeCloseTo(Math.cos(alpha) / 24, 12);
    expect(body.B[1][1]).toBeCloseTo(Math.sin(alpha) / 24, 12);
    expect(inBodyAxes(body, -alpha).A[0][1]).toBeCloseTo(model.A[0][1], 12);
    const two = withOutputs(model, ['theta', 'q']);
    expect(two.C).toEqual([model.C[3], model.C[2]]);
    expect(() => withOutputs(model, ['phi'])).toThrow(/no output "phi"/);
  });
});

describe('models that come back', () => {
  it.each([
    ['json', bytes(modelJson(model))],
    ['csv', bytes(modelCsv(model))],
  ])('as %s, to the last digit and with their names', (end, data) => {
    const { loops, ...back } = readModel(data, `m.${end}`);
    expect(back).toEqual(model);
    expect(loops).toEqual([]);
  });
  it('as text and as arrays; names as far as they are there', () => {
    const plain = { ...model, inputs: ['Elevator', 'thrust'] };
    expect(readModel(bytes(modelText(plain)), 'M.TXT')).toMatchObject({ ...plain });
    const arrays = readModel(zipSync(modelArrays(model)), 'm.npz');
    expect(arrays).toMatchObject({
      A: model.A,
      B: model.B,
      C: model.C,
      D: model.D,
      states: ['x1', 'x2', 'x3', 'x4', 'x5'],
    });
  });
  it('reads arrays by columns and of single precision', () => {
    // Two rows and three columns, by columns, big end first.
    const text = "{'descr': '>f4', 'fortran_order': True, 'shape': (2, 3), }";
    const length = 118;
    const file = new Uint8Array(10 + length + 24);
    file.set([0x93, 0x4e, 0x55, 0x4d, 0x50, 0x59, 1, 0]);
    const view = new DataView(file.buffer);
    view.setUint16(8, length, true);
    file.set(bytes(`${text.padEnd(length - 1)}\n`), 10);
    [1, 4, 2, 5, 3, 6].forEach((v, i) => view.setFloat32(10 + length + 4 * i, v));
    expect(readArrayFile(file, 'A.npy')).toEqual([
      [1, 2, 3],
      [4, 5, 6],
    ]);
  });
  const csv = modelCsv(model);
  it.each([
    ['m.exe', bytes('x'), /not known how to read m.exe/],
    ['m.json', bytes('{'), /no JSON/],
    ['m.json', bytes('{"A": [[1]]}'), /no matrix B/],
    ['m.json', bytes('{"A": [[1, 2]], "B": [[1]]}'), /A.*1 rows of 1/],
    ['m.json', bytes('{"A": [[null]], "B": [[1]]}'), /A\.0\.0/],
    ['m.csv', bytes(''), /no matrix A/],
    ['m.csv', bytes('1,2,3'), /does not begin/],
    ['m.csv', bytes(csv.replace(/^u,/m, 'u,x')), /no number/],
    ['m.csv', bytes(csv.replace(/^u,/m, 'u,1,')), /has 6 numbers, not 5/],
    ['m.m', bytes('A = [1 2; 3]; B = [1];'), /differ in length/],
    ['m.m', bytes('A = [1 NaN; 3 4]; B = [1; 2];'), /no number/],
    ['m.npz', bytes('PK nothing'), /no archive/],
    ['m.npz', zipSync({ 'A.npy': bytes('rubbish of no kind') }), /no array file/],
    ['m.npz', zipSync({ 'A.npy': modelArrays(model)['A.npy'].slice(0, 150) }), /cut off/],
    ['m.txt', new Uint8Array([0xff, 0xfe, 0xff, 0x00]), /no text/],
  ])('says what is wrong with %s %#', (name, data, why) => {
    expect(() => readModel(data, name)).toThrow(why);
  });
});
