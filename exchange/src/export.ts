import { strToU8, zipSync } from 'fflate';
import { partMeshes, standing, type Body, type LiftingSurface, type SectionLookup } from '@veldtwind/core/airframe';
import { InvalidInput } from '@veldtwind/core/numerics';
import { writeDxf, writeSvg } from './drawing-files';
import { writeGlb, writeObj, writeStl } from './mesh-files';
import {
  EXPORT_FORMATS,
  EXPORT_SUBJECTS,
  LENGTH_UNITS,
  RIB_DEFAULTS,
  type ExportFormat,
  type LengthUnit,
  type RibOptions,
} from './options';
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

const TYPES: Record<ExportFormat, string> = {
  stl: 'model/stl',
  obj: 'model/obj',
  glb: 'model/gltf-binary',
  step: 'model/step',
  dxf: 'image/vnd.dxf',
  svg: 'image/svg+xml',
  csv: 'text/csv',
  zip: 'application/zip',
};

/**
 * An airframe as a file.
 * @throws InvalidInput `export` for a format or a subject that is none, `no-parts` for an airframe without parts; from parts that are no shape;
 *   FailedComputation where a mesh is open or a solid cannot be made.
 */
export async function exportAirframe(request: ExportRequest): Promise<ExportedFile> {
  const { name, bodies, lookup, format } = request;
  const refuse = (what: string, hint: string): never => {
    throw new InvalidInput('export', what, hint, 'as');
  };
  if (!EXPORT_FORMATS.includes(format)) refuse(`There is no format "${format}".`, `Give ${EXPORT_FORMATS.join(', ')}.`);
  const subjects: readonly string[] = EXPORT_SUBJECTS[format as keyof typeof EXPORT_SUBJECTS] ?? [];
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
  if (request.unit !== undefined && format !== 'stl' && format !== 'obj')
    refuse(`${format} says its unit itself; it cannot be chosen.`, 'Leave the unit out.');
  if (request.surfaces.length + bodies.length === 0)
    throw new InvalidInput('no-parts', 'The airframe has no parts.', 'Draw a wing or a body first.');
  if (format === 'zip') return partsFile(request);
  const surfaces = standing(request.surfaces, bodies);
  const file = (content: Uint8Array | string, notes: string[] = []): ExportedFile => ({
    content,
    type: TYPES[format],
    extension: format,
    notes,
  });
  if (format === 'step') return file(await writeStep(surfaces, bodies, lookup));
  if (format === 'csv')
    return file(what === 'sections' ? sectionTable(surfaces, lookup) : stationTable(surfaces, bodies));
  if (format === 'dxf' || format === 'svg') {
    const write = format === 'dxf' ? writeDxf : writeSvg;
    if (what === 'ribs') {
      const options: RibOptions = { ...RIB_DEFAULTS, ...request.ribs };
      checkRibOptions(options);
      const parts = [
        ...surfaces.flatMap((s) => ribsOf(s, lookup, options)),
        ...bodies.flatMap((b) => framesOf(b, options)),
      ];
      const sheet = nested(`${name}: ribs and frames`, parts, options);
      const count = parts.filter((p) => p.items.length > 0).length;
      return file(write(sheet), [
        `${count} parts on ${sheet.sheets === 1 ? 'one sheet' : `${sheet.sheets} sheets`}; of mirrored parts one side is drawn`,
        ...sheet.notes,
      ]);
    }
    return file(write((what === 'outline' ? outlineDrawing : threeView)(name, surfaces, bodies, lookup)));
  }
  const meshes = partMeshes(surfaces, bodies, lookup);
  if (format === 'glb') return file(await writeGlb(meshes));
  return file(format === 'stl' ? writeStl(meshes, unit) : writeObj(meshes, unit));
}

/** The parts of a structure as one file. */
function partsFile({ name, surfaces, bodies, lookup, ribs, printer, kerf }: ExportRequest): ExportedFile {
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
  return { content: zipSync(packed, { mtime: ZIP_EPOCH }), type: TYPES.zip, extension: 'zip', notes };
}
