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

export const tokensOf = (text: string): Token[] => markdown.parse(text, {});
export const markdownHtml = (text: string): string => markdown.render(text);
