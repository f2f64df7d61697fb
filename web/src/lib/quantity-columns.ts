import { inUnit, textOf, unitOf, type Quantity } from '@veldtwind/core/quantities';
import type { UnitSet } from '@veldtwind/core/units';
import type { LedgerColumn } from '@/components/table/LedgerTable.vue';

/** Columns of a ledger from quantities, in the units chosen. @param from what a row's quantities are read from; null where there is nothing. */
export function quantityColumns<Row, From>(
  quantities: readonly Quantity<From>[],
  from: (row: Row) => From | null,
  units: UnitSet,
): LedgerColumn<Row>[] {
  return quantities.map((q) => {
    const value = (row: Row) => {
      const f = from(row);
      return f === null ? null : q.of(f);
    };
    return {
      id: q.id,
      title: q.symbol,
      name: q.name,
      ...(q.says && { says: q.says }),
      unit: unitOf(q, units) || undefined,
      value: (row) => {
        const v = value(row);
        return v === null ? null : inUnit(q, v, units);
      },
      text: (row) => textOf(q, value(row), units),
    };
  });
}
