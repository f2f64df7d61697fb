import katexPlugin from '@vscode/markdown-it-katex';
import MarkdownIt from 'markdown-it';
import { placeOf, slugOf, type HelpPage } from './help-text';

/** What a rendering needs to know beside the text. */
interface Told {
  page: string;
  /** Source of a drawing by its file name. */
  drawings: Readonly<Record<string, string>>;
}

const told = (env: unknown) => env as Told | undefined;

const markdown = new MarkdownIt({ html: false, linkify: false, typographer: false });
markdown.use((katexPlugin as unknown as { default?: typeof katexPlugin }).default ?? katexPlugin, {
  output: 'mathml',
  throwOnError: false,
  strict: 'ignore',
  trust: false,
});
const { rules } = markdown.renderer;
// Headings can be led to; the page's title is the panel's own, so that all stand one lower.
for (const rule of ['heading_open', 'heading_close'] as const)
  rules[rule] = (tokens, at, options, _env, self) => {
    const t = tokens[at];
    if (rule === 'heading_open') t.attrSet('data-section', slugOf(tokens[at + 1].content));
    t.tag = `h${Math.min(6, Number(t.tag.slice(1)) + 1)}`;
    return self.renderToken(tokens, at, options);
  };
rules.link_open = (tokens, at, options, env, self) => {
  const t = tokens[at];
  const href = String(t.attrGet('href') ?? '');
  const place = placeOf(told(env)?.page ?? '', href);
  if (place) {
    t.attrSet('href', '#');
    t.attrSet('data-page', place.page);
    if (place.section) t.attrSet('data-to', place.section);
  }
  return self.renderToken(tokens, at, options);
};
// A drawing stands in the page itself, so that it takes the theme's ink.
rules.image = (tokens, at, _options, env) => {
  const t = tokens[at];
  const name = String(t.attrGet('src') ?? '').replace(/^.*\//, '');
  const caption = markdown.utils.escapeHtml(t.content);
  return `<span class="help-drawing" role="img" aria-label="${caption}">${told(env)?.drawings[name] ?? ''}</span>`;
};
// Pages allow no styles of their own: columns of numbers have a class.
for (const rule of ['th_open', 'td_open'] as const)
  rules[rule] = (tokens, at, options, _env, self) => {
    const t = tokens[at];
    if (/right/.test(String(t.attrGet('style') ?? ''))) t.attrSet('class', 'number');
    t.attrs = (t.attrs ?? []).filter(([name]) => name !== 'style');
    return self.renderToken(tokens, at, options);
  };

/** A page as markup. */
export const helpHtml = (page: HelpPage, drawings: Told['drawings']): string =>
  markdown.render(page.text, { page: page.id, drawings } satisfies Told);
