import { mathjax } from 'mathjax-full/js/mathjax.js';
import { liteAdaptor } from 'mathjax-full/js/adaptors/liteAdaptor.js';
import { RegisterHTMLHandler } from 'mathjax-full/js/handlers/html.js';
import { TeX } from 'mathjax-full/js/input/tex.js';
import 'mathjax-full/js/input/tex/ams/AmsConfiguration.js';
import { SVG } from 'mathjax-full/js/output/svg.js';

const adaptor = liteAdaptor();
RegisterHTMLHandler(adaptor);
/** Units of its drawing for one em. */
const EM = 1000;
const setter = mathjax.document('', {
  InputJax: new TeX({
    packages: ['base', 'ams'],
    formatError: (_jax: unknown, error: Error) => {
      throw error;
    },
  }),
  OutputJax: new SVG({ fontCache: 'none' }),
});

/** A formula that is set on lines of its own. */
export interface SetFormula {
  svg: string;
  /** Points. */ width: number;
}

/**
 * Sets a formula as a drawing. @param size of its letters, points. @param ink its colour.
 * @returns null for one that does not parse.
 */
export function formulaSvg(tex: string, size: number, ink: string): SetFormula | null {
  try {
    const made = adaptor.innerHTML(setter.convert(tex, { display: true, em: size, ex: size / 2 }) as never);
    const [, w, h] = /viewBox="\S+ \S+ (\S+) (\S+)"/.exec(made)!;
    const [width, height] = [(Number(w) * size) / EM, (Number(h) * size) / EM];
    const svg = made
      .slice(made.indexOf('<svg'))
      .replace(/ style="[^"]*"/, '')
      .replace(/ width="[^"]*ex" height="[^"]*ex"/, ` width="${width.toFixed(2)}" height="${height.toFixed(2)}"`)
      .replaceAll('currentColor', ink);
    return { svg, width };
  } catch {
    return null;
  }
}
