import { preparePrinting, printScale } from './printing';

describe('a printed page', () => {
  it('is as large as a landscape sheet takes, and never larger than on the screen', () => {
    expect(1280 * printScale(1280, 800)).toBeCloseTo(970);
    expect(2560 * printScale(2560, 1440)).toBeLessThanOrEqual(970);
    // A tall window is bounded by the sheet's height.
    expect(1400 * printScale(1000, 1400)).toBeCloseTo(700);
    expect(printScale(640, 480)).toBe(1);
    expect(printScale(0, 0)).toBe(1);
  });
  it('is laid out as on the screen, on light paper; the theme comes back', () => {
    const listeners: Record<string, () => void> = {};
    const style: Record<string, string> = {};
    const root = {
      dataset: { theme: 'dusk' } as Record<string, string>,
      style: { setProperty: (name: string, value: string) => void (style[name] = value) },
    };
    preparePrinting({
      document: { documentElement: root },
      innerWidth: 1280,
      innerHeight: 800,
      addEventListener: (name: string, run: () => void) => void (listeners[name] = run),
    } as never);
    listeners.beforeprint();
    expect(root.dataset.theme).toBe('paper');
    expect(style).toMatchObject({ '--print-width': '1280px', '--print-height': '800px' });
    expect(Number(style['--print-scale'])).toBeCloseTo(970 / 1280);
    listeners.afterprint();
    expect(root.dataset.theme).toBe('dusk');
  });
});
