import { XMLParser } from 'fast-xml-parser';
import katex from 'katex';

/** A node of a formula in MathML: its name, its children, and the text of a leaf. */
export interface FormulaNode {
  name: string;
  text: string;
  children: FormulaNode[];
}

type Raw = Record<string, unknown>;
const parser = new XMLParser({
  preserveOrder: true,
  ignoreAttributes: true,
  trimValues: false,
  processEntities: true,
  htmlEntities: true,
});
const nameOf = (raw: Raw): string => Object.keys(raw).find((k) => k !== ':@')!;

function read(raw: Raw): FormulaNode {
  const name = nameOf(raw);
  const own = raw[name];
  const children = Array.isArray(own) ? (own as Raw[]) : [];
  const text = children.filter((c) => nameOf(c) === '#text').map((c) => String(c['#text']));
  return {
    name,
    text: text.join(''),
    // What the source says beside the formula is no part of it.
    children: children.filter((c) => !['#text', 'annotation'].includes(nameOf(c))).map(read),
  };
}

/** A formula as a tree. @returns null for one that does not parse. */
export function formulaTree(tex: string): FormulaNode[] | null {
  try {
    const markup = katex.renderToString(tex, { output: 'mathml', throwOnError: true, strict: 'ignore', trust: false });
    let nodes = (parser.parse(markup) as Raw[]).map(read);
    // Down to the row of the formula itself.
    while (nodes.length === 1 && ['span', 'math', 'semantics', 'mrow'].includes(nodes[0].name))
      nodes = nodes[0].children;
    return nodes;
  } catch {
    return null;
  }
}
