/** Room on a landscape sheet of A4 or Letter within margins of 10 mm, px: the smaller of the two each way. */
const SHEET = { width: 970, height: 700 };

/**
 * How a page of a size is put on a sheet: laid out as on the screen, so that no figure is drawn anew or cut, and made as small as it takes.
 * @param width of the window, px. @param height of the window, px.
 */
export const printScale = (width: number, height: number): number =>
  Math.min(1, SHEET.width / Math.max(1, width), SHEET.height / Math.max(1, height));

/** Has every page printed as it stands on the screen, on light paper. */
export function preparePrinting(of: Window = window): void {
  const root = of.document.documentElement;
  let theme: string | undefined;
  of.addEventListener('beforeprint', () => {
    theme = root.dataset.theme;
    root.dataset.theme = 'paper';
    root.style.setProperty('--print-width', `${of.innerWidth}px`);
    root.style.setProperty('--print-height', `${of.innerHeight}px`);
    root.style.setProperty('--print-scale', String(printScale(of.innerWidth, of.innerHeight)));
  });
  of.addEventListener('afterprint', () => {
    if (theme !== undefined) root.dataset.theme = theme;
  });
}
