import { readPage, type HelpPage } from './help-text';

// The pages are the Markdown files of `docs`, in the program itself: help needs no network.
const texts = import.meta.glob<string>('../../../docs/**/*.md', {
  query: '?raw',
  import: 'default',
  eager: true,
});
const drawn = import.meta.glob<string>('../../../docs/**/*.svg', {
  query: '?raw',
  import: 'default',
  eager: true,
});

/** Every page. */
export const HELP_PAGES: readonly HelpPage[] = Object.entries(texts).map(([path, text]) => readPage(path, text));
/** Drawings of the pages by file name. */
export const HELP_DRAWINGS: Readonly<Record<string, string>> = Object.fromEntries(
  Object.entries(drawn).map(([path, svg]) => [path.replace(/^.*\//, ''), svg]),
);
