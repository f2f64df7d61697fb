import { InputRule, mergeAttributes, Node, type AnyExtension } from '@tiptap/core';
import { TableKit } from '@tiptap/extension-table';
import { Markdown, MarkdownManager } from '@tiptap/markdown';
import StarterKit from '@tiptap/starter-kit';
import { Marked, type marked as Instance } from 'marked';
import { responseOf } from '@veldtwind/core/quantities';
import { markdownHtml } from '@veldtwind/exchange/report/markdown';
import { formulaView } from './formula-view';

/** What a live number is called while it is written: its candidate and its quantity. */
export function liveName(of: string): string {
  const [, letter, id] = /^(?:([A-Z]{1,4})\s+)?([\w.-]+)$/.exec(of.trim()) ?? [];
  const name = id === undefined ? undefined : responseOf(id)?.name;
  return name ? (letter ? `${letter}: ${name}` : name) : `?${of}`;
}

/** A number that follows the project: `@{A static-margin}`. */
const LiveNumber = Node.create({
  name: 'liveNumber',
  group: 'inline',
  inline: true,
  atom: true,
  addAttributes: () => ({ of: { default: '' } }),
  parseHTML: () => [{ tag: 'span[data-live]', getAttrs: (el) => ({ of: (el as HTMLElement).dataset.live ?? '' }) }],
  renderHTML: ({ node, HTMLAttributes }) => [
    'span',
    mergeAttributes(HTMLAttributes, { 'data-live': String(node.attrs.of), class: 'live-number' }),
    liveName(String(node.attrs.of)),
  ],
  renderText: ({ node }) => `@{${String(node.attrs.of)}}`,
  markdownTokenName: 'liveNumber',
  markdownTokenizer: {
    name: 'liveNumber',
    level: 'inline',
    start: (src) => src.indexOf('@{'),
    tokenize: (src) => {
      const found = /^@\{([^{}\n]{1,120})\}/.exec(src);
      return found ? { type: 'liveNumber', raw: found[0], of: found[1].trim() } : undefined;
    },
  },
  parseMarkdown: (token, helpers) => helpers.createNode('liveNumber', { of: String((token as { of?: string }).of) }),
  renderMarkdown: (node: { attrs?: { of?: string } }) => `@{${node.attrs?.of ?? ''}}`,
});

const formula = (name: string, block: boolean) =>
  Node.create({
    name,
    group: block ? 'block' : 'inline',
    inline: !block,
    atom: true,
    selectable: true,
    addAttributes: () => ({ tex: { default: '' } }),
    parseHTML: () => [
      {
        tag: `${block ? 'div' : 'span'}[data-tex]`,
        getAttrs: (el) => ({ tex: (el as HTMLElement).dataset.tex ?? '' }),
      },
    ],
    renderHTML: ({ node }) => [block ? 'div' : 'span', { 'data-tex': String(node.attrs.tex) }, String(node.attrs.tex)],
    renderText: ({ node }) => (block ? `$$${String(node.attrs.tex)}$$` : `$${String(node.attrs.tex)}$`),
    addNodeView: () => formulaView(block),
    // What is typed between dollar signs becomes one.
    addInputRules: () =>
      block
        ? []
        : [
            new InputRule({
              find: /(?<![$\\])\$([^$\s](?:[^$\n]*[^$\s])?)\$$/,
              handler: ({ range, match, chain }) => {
                chain()
                  .insertContentAt(range, { type: name, attrs: { tex: match[1] } })
                  .run();
              },
            }),
          ],
    markdownTokenName: name,
    markdownTokenizer: {
      name,
      level: block ? 'block' : 'inline',
      start: (src) => src.indexOf(block ? '$$' : '$'),
      tokenize: (src) => {
        const found = (block ? /^\$\$\s*([^$]+?)\s*\$\$[ \t]*(?:\n+|$)/ : /^\$(?!\s)([^$\n]+?)(?<!\s)\$(?!\d)/).exec(
          src,
        );
        return found ? { type: name, raw: found[0], tex: found[1] } : undefined;
      },
    },
    parseMarkdown: (token, helpers) => helpers.createNode(name, { tex: String((token as { tex?: string }).tex) }),
    renderMarkdown: (node: { attrs?: { tex?: string } }) =>
      block ? `$$\n${node.attrs?.tex ?? ''}\n$$` : `$${node.attrs?.tex ?? ''}$`,
  });

/** Markup is text in a report: it is shown as it was typed, and nothing of it runs. */
function reader(): typeof Instance {
  const own = new Marked();
  own.use({ tokenizer: { html: () => undefined, tag: () => undefined, url: () => undefined } });
  return own as unknown as typeof Instance;
}

/** What the editor knows: what the Markdown of a report has. */
export const richText = (): AnyExtension[] => [
  StarterKit.configure({
    heading: { levels: [1, 2, 3] },
    underline: false,
    link: { openOnClick: false, autolink: false, protocols: ['http', 'https', 'mailto'] },
  }),
  TableKit.configure({ table: { resizable: false } }),
  LiveNumber,
  formula('formula', false),
  formula('formulaBlock', true),
  Markdown.configure({ marked: reader() }),
];

let manager: MarkdownManager | undefined;
/** Markdown as the editor would write it. */
function written(text: string): string {
  manager ??= new MarkdownManager({ extensions: richText(), marked: reader() });
  return manager.serialize(manager.parse(text));
}

/** Whether the editor gives back what a text says: one with marks that it does not know is edited as Markdown, so that nothing is lost. */
export function isRich(text: string): boolean {
  try {
    const plain = (html: string) => html.replace(/\s+/g, ' ').trim();
    return plain(markdownHtml(written(text))) === plain(markdownHtml(text));
  } catch {
    return false;
  }
}
