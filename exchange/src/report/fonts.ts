import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { openSync, type Font } from 'fontkit';

const own = createRequire(import.meta.url);
const folder = (name: string) => dirname(own.resolve(`${name}/package.json`));
const sans = (style: string) => join(folder('source-sans'), 'TTF', `SourceSans3-${style}.ttf`);
const serif = (style: string) => join(folder('source-serif'), 'TTF', `SourceSerif4-${style}.ttf`);
const other = (style: string) => join(folder('dejavu-fonts-ttf'), 'ttf', `DejaVuSans${style}.ttf`);

/** Families of printed reports: text, titles, and what has the letters that these lack. */
export const FONT_FILES = {
  'Source Sans 3': {
    normal: sans('Regular'),
    bold: sans('Semibold'),
    italics: sans('It'),
    bolditalics: sans('SemiboldIt'),
  },
  'Source Serif 4': {
    normal: serif('Regular'),
    bold: serif('Semibold'),
    italics: serif('It'),
    bolditalics: serif('SemiboldIt'),
  },
  'DejaVu Sans': {
    normal: other(''),
    bold: other('-Bold'),
    italics: other('-Oblique'),
    bolditalics: other('-BoldOblique'),
  },
} as const;
export type Family = keyof typeof FONT_FILES;

const opened = new Map<Family, Font>();
function has(family: Family, code: number): boolean {
  let font = opened.get(family);
  if (!font) opened.set(family, (font = openSync(FONT_FILES[family].normal) as Font));
  return font.hasGlyphForCodePoint(code);
}

/** What stands for a letter that no font has. */
const UNKNOWN = '\u25a1';
/** Marks that join or vary letters, and have no shape of their own. */
const SILENT = /\p{Default_Ignorable_Code_Point}|\p{Cc}/u;
const RIGHT_TO_LEFT = /[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufefc]/;

/** A stretch of text in one font. */
export interface Run {
  text: string;
  /** That of the paragraph without. */ font?: Family;
  /** Runs from right to left: it may not be broken, or its words change places. */ together?: true;
}

/** Text in stretches that one font has the letters of. */
export function runsOf(text: string, family: Family): Run[] {
  const runs: Run[] = [];
  for (const letter of text.replace(/[\t\r\n]+/g, ' ')) {
    if (SILENT.test(letter)) continue;
    const code = letter.codePointAt(0)!;
    const last = runs.at(-1);
    if (letter === ' ' && last) {
      last.text += letter;
      continue;
    }
    const together = RIGHT_TO_LEFT.test(letter);
    const font = has(family, code) ? undefined : 'DejaVu Sans';
    const shown = font && !has(font, code) ? UNKNOWN : letter;
    if (last && last.font === font && Boolean(last.together) === together) last.text += shown;
    else runs.push({ text: shown, ...(font && { font }), ...(together && { together: true as const }) });
  }
  return runs;
}
