const HUNDREDTHS = Array.from({ length: 100 }, (_, k) => (k === 0 ? '' : `.${String(k).padStart(2, '0')}`));
/** Beyond, hundredths are no whole numbers any more. */
const LARGEST = 1e12;

/**
 * A place on the page to a hundredth of a pixel, as paths write it. Put together of small whole numbers, whose texts the browser keeps: the text of a
 * fraction is found anew each time, and takes most of the time that many curves need.
 */
export function pixelText(v: number): string {
  const size = Math.abs(v);
  if (!(size < LARGEST)) return String(v);
  const all = Math.round(100 * size);
  const whole = Math.trunc(all / 100);
  return `${v < 0 && all > 0 ? '-' : ''}${whole}${HUNDREDTHS[all - 100 * whole]}`;
}
