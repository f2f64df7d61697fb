/** Texts of places, by tenths of a pixel, made when first needed. */
const TEXTS: string[] = [];
const READY = 50_000;
const LARGEST = 1e8;

function tenthsText(tenths: number): string {
  if (tenths < 0) return `-${tenthsText(-tenths)}`;
  if (tenths < READY && TEXTS[tenths]) return TEXTS[tenths];
  const last = tenths % 10;
  const text = last === 0 ? String(tenths / 10) : `${(tenths - last) / 10}.${last}`;
  if (tenths < READY) TEXTS[tenths] = text;
  return text;
}

/**
 * The `points` of a polyline, to a tenth of a pixel. Texts come from a table, and a polyline's points are no style property as a path's `d` is:
 * hundreds of curves are drawn anew in milliseconds.
 */
export class PolylineText {
  text = '';

  /** Goes to a place; one that is not on any page is left out. */
  to(px: number, py: number): void {
    const x = Math.round(10 * px);
    const y = Math.round(10 * py);
    if (!(Math.abs(x) < LARGEST && Math.abs(y) < LARGEST)) return;
    this.text += `${this.text === '' ? '' : ' '}${tenthsText(x)},${tenthsText(y)}`;
  }
}
