import { createRequire } from 'node:module';

/** A structure element of a tagged document (ISO 32000-2, 14.8.4) that a piece of content belongs to. */
export interface Tag {
  type: string;
  parent?: Tag;
  /** What a figure shows, in words. */ alt?: string;
  /** A heading that the table of contents lists. */ listed?: true;
}

interface StructureElement {
  add(child: unknown): void;
}
export interface PdfDocument {
  page: object;
  save(): this;
  restore(): this;
  translate(x: number, y: number): this;
  scale(factor: number): this;
  lineWidth(width: number): this;
  moveTo(x: number, y: number): this;
  lineTo(x: number, y: number): this;
  closePath(): this;
  fillAndStroke(fill: string, stroke: string): this;
  struct(type: string, options?: { alt?: string }): StructureElement;
  addStructure(element: StructureElement): void;
  markStructureContent(tag: string): unknown;
  markContent(tag: string, options?: { type?: string }): void;
  endMarkedContent(): void;
}
/** A drawing where it stands on the page; one that paints itself needs no markup to be read. */
export interface Drawn {
  tag?: Tag;
  paint?: (document: PdfDocument, at: { x: number; y: number; _width: number; _height: number }) => void;
  x: number;
  y: number;
  _width: number;
  _height: number;
}
interface Line {
  inlines: { tag?: Tag }[];
  _node?: unknown;
  _pageNodeRef?: unknown;
}
interface Renderer {
  pdfDocument: PdfDocument;
  renderLine(line: Line, x: number, y: number): void;
  renderSVG(item: Drawn): void;
  renderImage(item: { tag?: Tag }): void;
  renderVector(item: object): void;
}

/** The elements of one document, made as their first content is drawn. */
class Structure {
  private readonly made = new Map<Tag, StructureElement>();
  private readonly root: Tag = { type: 'Document' };
  private readonly contents: Tag = { type: 'TOC' };
  private readonly entries = new Map<Tag, Tag>();
  private readonly heads = new Map<Tag, object>();
  private entry: Tag | null = null;
  constructor(private readonly document: PdfDocument) {}

  private element(tag: Tag): StructureElement {
    const known = this.made.get(tag);
    if (known) return known;
    const own = this.document.struct(tag.type, tag.alt === undefined ? {} : { alt: tag.alt });
    this.made.set(tag, own);
    if (tag === this.root) this.document.addStructure(own);
    else this.element(tag.parent ?? this.root).add(own);
    return own;
  }

  /** Heads of a table are drawn again on each of its pages: what repeats is an artifact. */
  private repeats(tag: Tag): boolean {
    const { page } = this.document;
    const first = this.heads.get(tag);
    if (tag.type === 'TH' && !first) this.heads.set(tag, page);
    return first !== undefined && first !== page;
  }

  /** Draws content of an element; what belongs to none is an artifact. */
  draw(of: Tag | undefined, work: () => void): void {
    const tag = of && this.repeats(of) ? undefined : of;
    if (!tag) this.document.markContent('Artifact', { type: 'Layout' });
    const content = tag && this.document.markStructureContent(tag.type);
    work();
    this.document.endMarkedContent();
    if (tag) this.element(tag).add(content);
  }

  /** The element of a line. A heading's words stand in the table of contents first. */
  of(line: Line): Tag | undefined {
    const tag = line.inlines.find((i) => i.tag)?.tag;
    if (!tag) return line._pageNodeRef && this.entry ? this.entry : undefined;
    const inContents = tag.listed && !line._node && !this.made.has(tag);
    if (!inContents) return tag;
    let entry = this.entries.get(tag);
    if (!entry) this.entries.set(tag, (entry = { type: 'TOCI', parent: this.contents }));
    this.entry = entry;
    return entry;
  }
}

/** Makes the drawer of pages mark what it draws: structure of content with a {@link Tag}, artifacts otherwise. Of what is set, only the drawing changes. */
export function tagPages(): void {
  const own = createRequire(import.meta.url);
  const { default: drawer } = own('pdfmake/js/Renderer.js') as { default: { prototype: Renderer } };
  const structures = new WeakMap<PdfDocument, Structure>();
  const of = (r: Renderer): Structure => {
    let s = structures.get(r.pdfDocument);
    if (!s) structures.set(r.pdfDocument, (s = new Structure(r.pdfDocument)));
    return s;
  };
  const { renderLine, renderSVG, renderImage, renderVector } = drawer.prototype;
  Object.assign(drawer.prototype, {
    renderLine(this: Renderer, line: Line, x: number, y: number) {
      of(this).draw(of(this).of(line), () => renderLine.call(this, line, x, y));
    },
    renderSVG(this: Renderer, item: Drawn) {
      of(this).draw(item.tag, () => (item.paint ? item.paint(this.pdfDocument, item) : renderSVG.call(this, item)));
    },
    renderImage(this: Renderer, item: { tag?: Tag }) {
      of(this).draw(item.tag, () => renderImage.call(this, item));
    },
    renderVector(this: Renderer, item: object) {
      of(this).draw(undefined, () => renderVector.call(this, item));
    },
  } satisfies Partial<Renderer>);
}

type Node = Record<string, unknown> & { style?: string; headlineLevel?: number };
/** Below the name of the report, as in the page. */
const HEADS: Record<string, string> = { title: 'H1', h1: 'H2', h2: 'H3', h3: 'H4', h4: 'H5', caption: 'Caption' };

function textTagged(node: Node, tag: Tag): Node {
  const items = Array.isArray(node.text) ? (node.text as (object | string)[]) : [node.text as string];
  const text = items.map((item) => ({ ...(typeof item === 'object' ? item : { text: item }), tag }));
  return { ...node, text };
}

/**
 * Content with the elements that its words, tables and lists are.
 * @param parent of all that stands in it.
 */
export function tagged(content: unknown, parent?: Tag): unknown {
  const within = (type: string, more: Partial<Tag> = {}): Tag => ({ type, ...(parent && { parent }), ...more });
  if (Array.isArray(content)) return content.map((c) => tagged(c, parent));
  if (content === null || typeof content !== 'object') return content;
  const node = content as Node;
  if ('text' in node)
    return textTagged(node, within(HEADS[node.style ?? ''] ?? 'P', node.tocItem ? { listed: true } : {}));
  if ('svg' in node || 'image' in node) return { ...node, tag: within('Figure', { alt: String(node.alt ?? '') }) };
  if ('stack' in node) return { ...node, stack: tagged(node.stack, parent) };
  if ('table' in node) {
    const table = node.table as { headerRows?: number; body: unknown[][] };
    const own = within('Table');
    const body = table.body.map((row, i) => {
      const line: Tag = { type: 'TR', parent: own };
      return row.map((cell) => {
        const at: Tag = { type: i < (table.headerRows ?? 0) ? 'TH' : 'TD', parent: line };
        return textTagged(typeof cell === 'object' ? (cell as Node) : { text: cell }, at);
      });
    });
    return { ...node, table: { ...table, body } };
  }
  for (const key of ['ul', 'ol'] as const)
    if (key in node) {
      const own = within('L');
      const items = (node[key] as unknown[]).map((item) =>
        tagged(item, { type: 'LBody', parent: { type: 'LI', parent: own } }),
      );
      return { ...node, [key]: items };
    }
  return node;
}
