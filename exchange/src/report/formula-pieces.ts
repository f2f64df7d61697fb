import { formulaTree, type FormulaNode } from './formula-tree';

/** A stretch of a formula on one line. */
export interface FormulaPiece {
  text: string;
  place: 'base' | 'sub' | 'sup';
  /** Variables are set in italics, numbers and signs are not. */ italics: boolean;
}

/** One letter, one number, or one of them with its index. */
const SIMPLE = /^(\d+(\.\d+)?|\p{L})$/u;
const RELATION = /^[=<>≤≥≈+−±·→×]$/u;
const textOf = (pieces: readonly FormulaPiece[]) => pieces.map((p) => p.text).join('');

function set(nodes: readonly FormulaNode[], place: FormulaPiece['place']): FormulaPiece[] {
  const out: FormulaPiece[] = [];
  const sign = (text: string) => out.push({ text, place, italics: false });
  const grouped = (inner: FormulaPiece[]) => {
    const base = inner.filter((p) => p.place === place);
    if (SIMPLE.test(textOf(base).trim())) out.push(...inner);
    else {
      sign('(');
      out.push(...inner);
      sign(')');
    }
  };
  const of = (node: FormulaNode | undefined, at = place) => (node ? set([node], at) : []);
  nodes.forEach((node, i) => {
    const [a, b, c] = node.children;
    switch (node.name) {
      case 'mi':
        out.push({ text: node.text, place, italics: [...node.text].length === 1 });
        break;
      case 'mn':
      case 'mtext':
        sign(node.text);
        break;
      case 'mo': {
        const text = node.text.trim();
        // A sign before its number stands close.
        const between = RELATION.test(text) && place === 'base' && i > 0 && nodes[i - 1].name !== 'mo';
        sign(between ? ` ${text} ` : text.replace(/[\u2061-\u2064]/g, ''));
        break;
      }
      case 'mspace':
        sign(' ');
        break;
      case 'mfrac':
        grouped(of(a));
        sign('/');
        grouped(of(b));
        break;
      case 'msqrt':
        sign('√');
        grouped(set(node.children, place));
        break;
      case 'mroot':
        out.push(...of(b, 'sup'));
        sign('√');
        grouped(of(a));
        break;
      case 'msup':
        out.push(...of(a), ...of(b, 'sup'));
        break;
      case 'msub':
        out.push(...of(a), ...of(b, 'sub'));
        break;
      case 'msubsup':
      case 'munderover':
        out.push(...of(a), ...of(b, 'sub'), ...of(c, 'sup'));
        break;
      case 'munder':
        out.push(...of(a), ...of(b, 'sub'));
        break;
      case 'mtr':
        if (i > 0) sign('; ');
        out.push(...set(node.children, place));
        break;
      default:
        out.push(
          ...(node.children.length
            ? set(node.children, place)
            : node.text.trim()
              ? [{ text: node.text, place, italics: false }]
              : []),
        );
    }
  });
  return out;
}

/** A formula on one line, with its indices and powers: within a sentence. One that does not parse stays as it was typed. */
export function formulaPieces(tex: string): FormulaPiece[] {
  const tree = formulaTree(tex);
  const pieces = tree ? set(tree, 'base').filter((p) => p.text) : [];
  return pieces.length > 0 ? pieces : [{ text: tex, place: 'base', italics: false }];
}

const MARKS = { base: ['', ''], sub: ['_', ''], sup: ['^', ''] } as const;
/** The same as plain text, for those who hear it. */
export const formulaText = (tex: string): string =>
  formulaPieces(tex)
    .map((p, i, all) => (p.place !== 'base' && p.place !== all[i - 1]?.place ? MARKS[p.place][0] : '') + p.text)
    .join('')
    .replace(/\s+/g, ' ')
    .trim();
