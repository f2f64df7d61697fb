import {
  Math as MathZone,
  MathFraction,
  MathRadical,
  MathRun,
  MathSubScript,
  MathSubSuperScript,
  MathSuperScript,
  type MathComponent,
} from 'docx';
import { formulaTree, type FormulaNode } from './formula-tree';

const list = (nodes: readonly FormulaNode[]): MathComponent[] => nodes.flatMap(parts);

function parts(node: FormulaNode): MathComponent[] {
  const [a, b, c] = node.children;
  const of = (n: FormulaNode | undefined) => (n ? parts(n) : []);
  switch (node.name) {
    case 'mfrac':
      return [new MathFraction({ numerator: of(a), denominator: of(b) })];
    case 'msqrt':
      return [new MathRadical({ children: list(node.children) })];
    case 'mroot':
      return [new MathRadical({ children: of(a), degree: of(b) })];
    case 'msup':
    case 'mover':
      return [new MathSuperScript({ children: of(a), superScript: of(b) })];
    case 'msub':
    case 'munder':
      return [new MathSubScript({ children: of(a), subScript: of(b) })];
    case 'msubsup':
    case 'munderover':
      return [new MathSubSuperScript({ children: of(a), subScript: of(b), superScript: of(c) })];
    case 'mspace':
      return [new MathRun(' ')];
    default: {
      // Signs that join without being seen.
      const text = node.text.replace(/[\u2061-\u2064]/g, '');
      return node.children.length > 0 ? list(node.children) : text.trim() ? [new MathRun(text)] : [];
    }
  }
}

/** A formula as the word processor's own. @returns null for one that does not parse. */
export function formulaMath(tex: string): MathZone | null {
  const tree = formulaTree(tex);
  const children = tree && list(tree);
  return children && children.length > 0 ? new MathZone({ children }) : null;
}
