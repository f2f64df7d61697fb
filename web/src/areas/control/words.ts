/** A gain in a few figures. */
export const gainText = (v: number): string => (v === 0 ? '0' : String(Number(v.toPrecision(3))));
