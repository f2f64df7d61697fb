import { PAGE_LOOK } from '@veldtwind/core/figures';
import type { ComposedBlock, ReportBlock } from '@veldtwind/core/report';
import { FIGURE_NAMES, TABLE_NAMES } from '@veldtwind/core/report';
import { blockHtml } from '@veldtwind/exchange/report/block-html';

/** A block as the page shows it: the markup of the files, in the colours of the theme. */
export const pageHtml = (b: ComposedBlock): string => blockHtml(b, PAGE_LOOK, false);

/** What a block is called in the outline. */
export function blockName(b: ReportBlock, title: (subject: string) => string | undefined): string {
  switch (b.kind) {
    case 'heading':
      return b.text || 'Heading';
    case 'text':
      return (
        b.markdown
          .replace(/[#*_>`|-]+/g, ' ')
          .trim()
          .slice(0, 60) || 'Text'
      );
    case 'figure':
      return b.title || FIGURE_NAMES[b.of];
    case 'table':
      return b.title || TABLE_NAMES[b.of];
    case 'three-view':
      return b.title || `Three-view of ${title(b.subject) ?? 'a removed candidate'}`;
    case 'space-view':
      return b.title || `Space view of ${title(b.subject) ?? 'a removed candidate'}`;
    case 'kept-figure':
    case 'kept-table':
      return b.title || 'Snapshot';
    case 'picture':
      return b.title || 'Picture';
    case 'file':
      return b.caption || 'File';
    case 'decision':
      return 'Decision';
  }
}
