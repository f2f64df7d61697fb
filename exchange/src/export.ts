import { strToU8, zipSync } from 'fflate';
import { partMeshes, standing, type Body, type LiftingSurface, type SectionLookup } from '@veldtwind/core/airframe';
import { EXPORT_FORMAT_IDS, EXPORT_FORMATS, subjectsOf, type ExportFormat } from '@veldtwind/core/formats';
import { InvalidInput } from '@veldtwind/core/numerics';
import { writeDxf, writeSvg } from './drawing-files';
import { writeGlb, writeObj, writeStl } from './mesh-files';
import { LENGTH_UNITS, RIB_DEFAULTS, type LengthUnit, type RibOptions } from './options';
import { checkRibOptions, framesOf, nested, ribsOf } from './ribs';
import { makeParts } from './parts';
import { ZIP_EPOCH } from './report/zip-time';
import { writeStep } from './step';
import { sectionTable, stationTable } from './tables';
import { outlineDrawing, threeView } from '@veldtwind/core/figures';

/** What is written of an airframe. */
export interface ExportRequest {
  name: string;
  surfaces: readonly LiftingSurface[];
  bodies: readonly Body[];
  lookup: SectionLookup;
  format: ExportFormat;
  /** Of a drawing or a table. */ what?: string;
  /** Of STL and OBJ; metres without. */ unit?: string;
  ribs?: Partial<RibOptions>;
  /** Of parts. */ printer?: { width: number; depth: number; height: number };
  kerf?: number;
}

/** A file that was made, and what the engineer should know of it. */
export interface ExportedFile {
  content: Uint8Array | string;
  type: string;
  extension: ExportFormat;
  notes: string[];
}

/** What a writer has: the parts where they stand, and what was asked. */
interface Written extends ExportRequest {
  surfaces: readonly LiftingSurface[];
  what?: string;
  unit: LengthUnit;
}
type Content = Pick<ExportedFile, 'content'> & { notes?: string[] };

const drawing =
  (write: typeof writeDxf) =>
  (w: Written): Content => {
    if (w.what === 'ribs') return ribSheets(w, write);
    const draw = w.what === 'outline' ? outlineDrawing : threeView;
    return { content: write(draw(w.name, w.surfaces, w.bodies, w.lookup)) };
  };
const meshes = (w: Written) => partMeshes(w.surfaces, w.bodies, w.lookup);

/** What writes each format. */
const WRITERS: Record<ExportFormat, (w: Written) => Content | Promise<Content>> = {
  step: async ({ surfaces, bodies, lookup }) => ({ content: await writeStep(surfaces, bodies, lookup) }),
  stl: (w) => ({ content: writeStl(meshes(w), w.unit) }),
  obj: (w) => ({ content: writeObj(meshes(w), w.unit) }),
  glb: async (w) => ({ content: await writeGlb(meshes(w)) }),
  dxf: drawing(writeDxf),
  svg: drawing(writeSvg),
  zip: partsFile,
  csv: ({ what, surfaces, bodies, lookup }) => ({
    content: what === 'sections' ? sectionTable(surfaces, lookup) : stationTable(surfaces, bodies),
  }),
};

/**
 * An airframe as a file.
 * @throws InvalidInput `export` for a format or a subject that is none, `no-parts` for an airframe without parts; from parts that are no shape;
 *   FailedComputation where a mesh is open or a solid cannot be made.
 */
export async function exportAirframe(request: ExportRequest): Promise<ExportedFile> {
  const { bodies, format } = request;
  const refuse = (what: string, hint: string): never => {
    throw new InvalidInput('export', what, hint, 'as');
  };
  if (!EXPORT_FORMAT_IDS.includes(format))
    refuse(`There is no format "${format}".`, `Give ${EXPORT_FORMAT_IDS.join(', ')}.`);
  const subjects = subjectsOf(format);
  const what = request.what ?? subjects[0];
  if (what !== undefined && !subjects.includes(what))
    refuse(
      subjects.length > 0
        ? `${format} is written of ${subjects.join(', ')}; "${what}" is none of them.`
        : `${format} is always of the whole airframe; "${what}" cannot be asked for.`,
      'Change it, or leave it out.',
    );
  const unit = (request.unit ?? 'm') as LengthUnit;
  if (!Object.hasOwn(LENGTH_UNITS, unit))
    refuse(`There is no unit "${unit}".`, `Give ${Object.keys(LENGTH_UNITS).join(', ')}.`);
  if (request.unit !== undefined && !EXPORT_FORMATS[format].subjects.some((s) => s.asks === 'unit'))
    refuse(`${format} says its unit itself; it cannot be chosen.`, 'Leave the unit out.');
  if (request.surfaces.length + bodies.length === 0)
    throw new InvalidInput('no-parts', 'The airframe has no parts.', 'Draw a wing or a body first.');
  const surfaces = format === 'zip' ? request.surfaces : standing(request.surfaces, bodies);
  const { content, notes = [] } = await WRITERS[format]({ ...request, surfaces, what, unit });
  return { content, type: EXPORT_FORMATS[format].type, extension: format, notes };
}

/** Ribs and frames nested on sheets. */
function ribSheets({ name, surfaces, bodies, lookup, ribs }: Written, write: typeof writeDxf): Content {
  const options: RibOptions = { ...RIB_DEFAULTS, ...ribs };
  checkRibOptions(options);
  const parts = [
    ...surfaces.flatMap((s) => ribsOf(s, lookup, options)),
    ...bodies.flatMap((b) => framesOf(b, options)),
  ];
  const sheet = nested(`${name}: ribs and frames`, parts, options);
  const count = parts.filter((p) => p.items.length > 0).length;
  return {
    content: write(sheet),
    notes: [
      `${count} parts on ${sheet.sheets === 1 ? 'one sheet' : `${sheet.sheets} sheets`}; of mirrored parts one side is drawn`,
      ...sheet.notes,
    ],
  };
}

/** The parts of a structure as one file. */
function partsFile({ name, surfaces, bodies, lookup, ribs, printer, kerf }: Written): Content {
  const { files, notes } = makeParts({
    name,
    surfaces,
    bodies,
    lookup,
    sheet: ribs?.sheet ?? RIB_DEFAULTS.sheet,
    ...(kerf !== undefined && { cut: { kerf } }),
    ...(printer && { printer }),
  });
  const packed = Object.fromEntries(
    [...files].map(([path, content]) => [path, typeof content === 'string' ? strToU8(content) : content]),
  );
  return { content: zipSync(packed, { mtime: ZIP_EPOCH }), notes };
}
