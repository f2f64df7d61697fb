/** What an airframe can be written of: the whole of it, or a drawing, a table or its parts. */
export interface ExportSubject {
  /** `''` for the whole airframe, which has no name in an order. */ id: string;
  /** As it is offered. */ name: string;
  /** What else is asked for it. */ asks?: 'unit' | 'ribs' | 'parts';
  /** Told before it is written. */ note?: string;
}

/** A format of files that an airframe is written in. */
export interface ExportFormatFacts {
  /** Media type. */ type: string;
  /** The first is usual. */ subjects: readonly ExportSubject[];
}

const formats = <K extends string>(table: Record<K, ExportFormatFacts>): Readonly<Record<K, ExportFormatFacts>> =>
  table;

/**
 * Every format that an airframe is written in: the menu, the contract, the command line and the refusals read it; the compiler asks for what writes it
 * (`WRITERS`, exchange).
 */
export const EXPORT_FORMATS = formats({
  step: {
    type: 'model/step',
    subjects: [{ id: '', name: 'STEP, solids with smooth surfaces', note: 'Millimetres; takes some seconds.' }],
  },
  stl: { type: 'model/stl', subjects: [{ id: '', name: 'STL, closed meshes', asks: 'unit' }] },
  obj: { type: 'model/obj', subjects: [{ id: '', name: 'OBJ, meshes by part', asks: 'unit' }] },
  glb: { type: 'model/gltf-binary', subjects: [{ id: '', name: 'GLB, for viewers' }] },
  dxf: {
    type: 'image/vnd.dxf',
    subjects: [
      { id: 'three-view', name: 'Three-view, DXF' },
      { id: 'outline', name: 'Plan view, DXF' },
      { id: 'ribs', name: 'Ribs and frames, DXF', asks: 'ribs' },
    ],
  },
  svg: {
    type: 'image/svg+xml',
    subjects: [
      { id: 'three-view', name: 'Three-view, SVG' },
      { id: 'outline', name: 'Plan view, SVG' },
      { id: 'ribs', name: 'Ribs and frames, SVG', asks: 'ribs' },
    ],
  },
  zip: { type: 'application/zip', subjects: [{ id: 'parts', name: 'Parts of the structure, ZIP', asks: 'parts' }] },
  csv: {
    type: 'text/csv',
    subjects: [
      { id: 'stations', name: 'Stations, CSV' },
      { id: 'sections', name: 'Section points, CSV' },
    ],
  },
});
export type ExportFormat = keyof typeof EXPORT_FORMATS;
export const EXPORT_FORMAT_IDS = Object.keys(EXPORT_FORMATS) as [ExportFormat, ...ExportFormat[]];

/** Names of the subjects of a format; none where it is always of the whole airframe. */
export const subjectsOf = (format: ExportFormat): string[] =>
  EXPORT_FORMATS[format].subjects.flatMap((s) => (s.id ? [s.id] : []));

/** Subjects by format as a sentence, such as `dxf and svg: three-view, ribs`. */
export function subjectWords(): string {
  const lists = new Map<string, string[]>();
  for (const f of EXPORT_FORMAT_IDS) {
    const list = subjectsOf(f).join(', ');
    if (list) lists.set(list, [...(lists.get(list) ?? []), f]);
  }
  return [...lists].map(([list, of]) => `of ${of.join(' and ')}: ${list}`).join('; ');
}
