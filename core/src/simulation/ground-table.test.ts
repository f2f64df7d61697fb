import { describe, expect, it } from '@jest/globals';
import { makeLattice } from '../lift';
import { madeWing } from '../lift/viscous/testing/made-polar';
import type { AirframeSource } from '../motion';
import { RAD } from '../numerics';
import { aeroTables, groundReader, groundTable, tabledAerodynamics, aeroTablesSchema } from '.';

const flat = () => ({ ordinate: () => 0, slope: () => 0 });
const surfaces = [
  { ...madeWing(5, 0.5, 0.4), position: { x: 0, y: 0, z: 0.1 } },
  { ...madeWing(1.4, 0.3, 0.3), id: 'tail', name: 'Tail', position: { x: 2.2, y: 0, z: 0.3 } },
];
const about = { x: 0.15, y: 0, z: 0 };
const lattice = makeLattice({ surfaces, about }, flat);
const source: AirframeSource = {
  lattice,
  surfaces,
  reference: lattice.reference,
  centre: about,
  lineOf: flat,
  at: (state) => ({ ...lattice.coefficients(state), CD: lattice.coefficients(state).CDi + 0.02 }),
};
const table = groundTable(source);

describe('the ground in a flight', () => {
  it('adds what the lattice itself has near it, with its usual panels', () => {
    const read = groundReader(table);
    for (const [k, height] of [
      [1, table.heights[1]],
      [3, table.heights[3]],
      [2, 0.5 * (table.heights[2] + table.heights[3])],
    ]) {
      const alpha = 4 * RAD;
      const free = makeLattice({ surfaces, about }, flat, alpha).coefficients({ alpha });
      const near = makeLattice({ surfaces, about, ground: height }, flat, alpha).coefficients({ alpha });
      const told = read(height, alpha)!;
      const share = k === 2 ? 0.12 : 0.04;
      expect(Math.abs(told.CL / (near.CL - free.CL) - 1)).toBeLessThan(share);
      expect(Math.abs(told.CD / (near.CDi - free.CDi) - 1)).toBeLessThan(share);
      expect(Math.abs(told.Cm / (near.Cm - free.Cm) - 1)).toBeLessThan(share + 0.04);
    }
  });

  it('takes off drag at lift, and dies out with the height without a step', () => {
    const read = groundReader(table);
    const alpha = 0.1;
    let before = read(table.heights[0], alpha)!;
    expect(before.CD).toBeLessThan(0);
    expect(before.CL).toBeGreaterThan(0);
    for (let h = table.heights[0]; h < table.gone; h *= 1.03) {
      const now = read(h, alpha)!;
      expect(Math.abs(now.CL)).toBeLessThanOrEqual(Math.abs(before.CL) + 1e-12);
      expect(Math.abs(now.CL - before.CL)).toBeLessThan(0.01);
      before = now;
    }
    expect(Math.abs(before.CL)).toBeLessThan(1e-3);
    expect(read(table.gone, alpha)).toBeNull();
    expect(read(0, alpha)).toEqual(read(table.heights[0], alpha));
  });

  it('is in the forces of a flight at its height, and is checked as it is stored', () => {
    const tables = { ...aeroTables(source, 20), ground: table };
    expect(aeroTablesSchema.safeParse(tables).success).toBe(true);
    expect(
      aeroTablesSchema.safeParse({ ...tables, ground: { ...table, heights: [...table.heights].reverse() } }).success,
    ).toBe(false);
    const aero = tabledAerodynamics(tables);
    const at = (height?: number) => {
      const out = { CX: 0, CY: 0, CZ: 0, Cl: 0, Cm: 0, Cn: 0, beyond: false };
      aero.at({ speed: 20, alpha: 0.07, beta: 0, p: 0, q: 0, r: 0, controls: [], height }, out);
      return out;
    };
    expect(-at(table.heights[0]).CZ).toBeGreaterThan(-1.04 * at().CZ);
    expect(at(3 * table.gone)).toEqual(at());
  });
});
