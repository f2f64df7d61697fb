import { XMLParser } from 'fast-xml-parser';
import katex from 'katex';

type Node = Record<string, unknown>;
const parser = new XMLParser({
  preserveOrder: true,
  ignoreAttributes: true,
  trimValues: false,
  processEntities: true,
  htmlEntities: true,
});
const SUPER: Record<string, string> = {
  '0': '⁰',
  '1': '¹',
  '2': '²',
  '3': '³',
  '4': '⁴',
  '5': '⁵',
  '6': '⁶',
  '7': '⁷',
  '8': '⁸',
  '9': '⁹',
  '−': '⁻',
  '+': '⁺',
  n: 'ⁿ',
};

const nameOf = (node: Node): string => Object.keys(node).find((k) => k !== ':@')!;
const childrenOf = (node: Node): Node[] => {
  const own = node[nameOf(node)];
  return Array.isArray(own) ? (own as Node[]) : [];
};
/** One letter with or without an index, or a number. */
const simple = (text: string) => /^(\d+(\.\d+)?|\p{L}?(_\p{L}[\p{L}\p{N}]*|_\p{N}+)?)$/u.test(text);
/** Letters, or one number: an index. */
const plain = (text: string) => /^[\p{L}\p{N},]*$/u.test(text);
const indexed = (text: string) => (plain(text) ? text : `(${text})`);
const grouped = (text: string) => (simple(text) ? text : `(${text})`);

function written(node: Node): string {
  const name = nameOf(node);
  if (name === '#text') return String(node['#text']);
  const parts = childrenOf(node).filter(
    (n) => nameOf(n) !== '#text' || String(n['#text']).trim() !== '' || name.length <= 2,
  );
  const of = (i: number) => (parts[i] ? written(parts[i]) : '');
  const letters = (n: Node | undefined) => n !== undefined && /^m(i|sub|sup|subsup|frac|n)$/.test(nameOf(n));
  // Factors stand apart.
  const all = () => parts.map((n, i) => (letters(n) && letters(parts[i - 1]) ? ' ' : '') + written(n)).join('');
  switch (name) {
    case 'annotation':
      return '';
    case 'mfrac':
      return `${grouped(of(0))}/${grouped(of(1))}`;
    case 'msqrt':
      return `√${grouped(all())}`;
    case 'mroot':
      return `${of(1)}√${grouped(of(0))}`;
    case 'msup': {
      const up = of(1);
      return of(0) + ([...up].every((c) => SUPER[c]) ? [...up].map((c) => SUPER[c]).join('') : `^${grouped(up)}`);
    }
    case 'msub':
      return `${of(0)}_${indexed(of(1))}`;
    case 'msubsup':
      return `${of(0)}_${indexed(of(1))}^${indexed(of(2))}`;
    case 'mo': {
      const sign = all();
      return /^[=<>≤≥≈+−±·→]$/u.test(sign) ? ` ${sign} ` : sign;
    }
    case 'mspace':
      return ' ';
    default:
      return all();
  }
}

/** A formula on one line, as one types it: for files that set no formulas. One that does not parse stays as it was typed. */
export function formulaText(tex: string): string {
  try {
    const markup = katex.renderToString(tex, { output: 'mathml', throwOnError: true, strict: 'ignore', trust: false });
    const text = (parser.parse(markup) as Node[]).map(written).join('');
    return text.replace(/\s+/g, ' ').trim() || tex;
  } catch {
    return tex;
  }
}
