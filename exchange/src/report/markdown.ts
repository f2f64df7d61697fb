import katexPlugin from '@vscode/markdown-it-katex';
import MarkdownIt from 'markdown-it';

type Token = ReturnType<InstanceType<typeof MarkdownIt>['parse']>[number];
export type { Token };

/**
 * Markdown of a report: headings, lists, tables, links and formulas between dollar signs. Markup inside of it is text, pictures are not fetched, and links
 * that a browser would run are none.
 */
const markdown = new MarkdownIt({ html: false, linkify: false, typographer: false }).disable('image');
markdown.use((katexPlugin as unknown as { default?: typeof katexPlugin }).default ?? katexPlugin, {
  output: 'mathml',
  throwOnError: false,
  strict: 'ignore',
  trust: false,
});
// Links leave the page, and tell nobody where they come from.
markdown.renderer.rules.link_open = (tokens, at, options, _env, self) => {
  tokens[at].attrSet('rel', 'noreferrer noopener');
  tokens[at].attrSet('target', '_blank');
  return self.renderToken(tokens, at, options);
};

// Headings of a text stand below those of the report.
const lowered = (tag: string) => `h${Math.min(6, Number(tag.slice(1)) + 2)}`;
for (const rule of ['heading_open', 'heading_close'] as const)
  markdown.renderer.rules[rule] = (tokens, at, options, _env, self) => {
    tokens[at].tag = lowered(tokens[at].tag);
    return self.renderToken(tokens, at, options);
  };
// Pages allow no styles of their own: columns of numbers have a class.
for (const rule of ['th_open', 'td_open'] as const)
  markdown.renderer.rules[rule] = (tokens, at, options, _env, self) => {
    const t = tokens[at];
    if (/right/.test(String(t.attrGet('style') ?? ''))) t.attrSet('class', 'number');
    t.attrs = (t.attrs ?? []).filter(([name]) => name !== 'style');
    return self.renderToken(tokens, at, options);
  };

export const tokensOf = (text: string): Token[] => markdown.parse(text, {});
/** What a formula that does not parse is given beside its text. */
const ERROR_STYLE = / style="color:#[0-9a-f]+"/g;
export const markdownHtml = (text: string): string => markdown.render(text).replace(ERROR_STYLE, '');
