import { standing, type Body, type LiftingSurface, type SectionLookup } from '@veldtwind/core/airframe';
import { tableText } from '@veldtwind/core/spreadsheet';
import { InvalidInput } from '@veldtwind/core/numerics';
import { isBuilt, SurfaceShape } from '@veldtwind/core/members';
import { materialOf, type MaterialChoice } from '@veldtwind/core/structure';
import { writeDxf, writeSvg } from '../drawing-files';
import { writeStl } from '../mesh-files';
import { nested } from '../ribs';
import { skinParts, sparParts } from './flat-parts';
import type { MadePart } from './part';
import { printedParts, PRINTING_DEFAULTS, type Printer, type PrintedPart, type Printing } from './printed-parts';
import { CUT_DEFAULTS, ribParts, type CutOptions } from './rib-parts';
import { wirePaths, wireTable } from './wire-paths';

export interface PartsRequest {
  name: string;
  surfaces: readonly LiftingSurface[];
  bodies: readonly Body[];
  lookup: SectionLookup;
  sheet: { width: number; height: number };
  cut?: Partial<CutOptions>;
  /** Also solids that a printer of this size makes. */ printer?: Printer;
  printing?: Partial<Printing>;
}

/** Parts as files by their names, with a list of all. */
export interface MadeParts {
  files: Map<string, string | Uint8Array>;
  parts: Omit<MadePart, 'items'>[];
  notes: string[];
}

/** Room at the edge of a sheet and between two parts on it, mm. */
const GAP = 4;
const slug = (text: string) =>
  text
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '');

/**
 * Parts of all built surfaces: ribs, webs and skins on sheets, one drawing a material and thickness (DXF and SVG, true size, mm); wire paths of cores; solids to
 * be printed; and the list of all with masses and prices.
 * @throws InvalidInput `no-structure`, `sheet`, `slot-edge`, `spar-outside`, `printer`; FailedComputation `contour`, `open-mesh`.
 */
export function makeParts(request: PartsRequest): MadeParts {
  const { name, lookup, sheet, printer } = request;
  const cut = { ...CUT_DEFAULTS, ...request.cut };
  for (const [what, value] of Object.entries({ ...sheet, kerf: cut.kerf, clearance: cut.clearance }))
    if (!(value >= 0 && value <= 20000) || (what in sheet && value < 50))
      throw new InvalidInput('sheet', `The ${what} cannot be ${value} mm.`, 'Sheets are 50 mm and larger.', what);
  const built = standing(request.surfaces, request.bodies).filter(isBuilt);
  if (built.length === 0)
    throw new InvalidInput(
      'no-structure',
      'No surface says what it is made of.',
      'Give one ribs, spars or a skin first.',
      'surfaces',
    );
  const parts: MadePart[] = [];
  const files: MadeParts['files'] = new Map();
  for (const surface of built) {
    const shape = new SurfaceShape(surface, lookup);
    parts.push(
      ...ribParts(surface, shape, cut),
      ...sparParts(surface, shape),
      ...skinParts(
        surface,
        shape,
        Math.max(sheet.width, sheet.height) - 2 * GAP - 1,
        Math.min(sheet.width, sheet.height) - 2 * GAP - 1,
      ),
    );
    for (const path of wirePaths(surface, shape, cut.kerf)) files.set(`${slug(path.label)}-wire.csv`, wireTable(path));
    if (printer) {
      const solids: PrintedPart[] = printedParts(surface, shape, printer, {
        ...PRINTING_DEFAULTS,
        ...request.printing,
      });
      for (const { mesh, ...part } of solids) {
        files.set(`${slug(part.label)}.stl`, writeStl([mesh], 'mm'));
        parts.push(part);
      }
    }
  }
  const notes = parts.flatMap((p) => p.notes);
  const groups = new Map<string, MadePart[]>();
  for (const p of parts) {
    if (p.items.length === 0) continue;
    const key = `${nameOf(p.material)} ${Number(p.thickness.toFixed(2))} mm`;
    groups.set(key, [...(groups.get(key) ?? []), p]);
  }
  for (const [key, list] of groups) {
    // One of each for either side.
    const all = list.flatMap((p) => Array.from({ length: p.count }, () => ({ ...p, notes: [] })));
    const drawing = nested(`${name}: ${key}`, all, { sheet, gap: GAP });
    files.set(`${slug(key)}.dxf`, writeDxf(drawing));
    files.set(`${slug(key)}.svg`, writeSvg(drawing));
    notes.push(`${key}: ${all.length} parts on ${drawing.sheets === 1 ? 'one sheet' : `${drawing.sheets} sheets`}`);
  }
  files.set('parts.csv', partsTable(parts));
  return { files, parts: parts.map(({ items: _, ...p }) => p), notes };
}

const nameOf = (m: MaterialChoice) => materialOf(m).name;
const priceOf = (p: MadePart): number | null => {
  const { price } = materialOf(p.material);
  return price === undefined ? null : price * p.mass * p.count;
};

function partsTable(parts: readonly MadePart[]): string {
  const made = parts.filter((p) => p.count > 0);
  const round = (v: number, digits: number) => Number(v.toFixed(digits));
  const total = made.reduce((sum, p) => sum + p.mass * p.count, 0);
  return tableText([
    ['part', 'kind', 'material', 'thickness, mm', 'count', 'area, cm²', 'length, mm', 'mass, g', 'all, g', 'price'],
    ...made.map((p) => [
      p.label,
      p.kind,
      nameOf(p.material),
      p.thickness === 0 ? '' : round(p.thickness, 2),
      p.count,
      p.area === 0 ? '' : round(p.area / 100, 2),
      round(p.length, 1),
      round(1000 * p.mass, 3),
      round(1000 * p.mass * p.count, 3),
      priceOf(p) === null ? '' : round(priceOf(p)!, 2),
    ]),
    ['all', '', '', '', '', '', '', '', round(1000 * total, 2), ''],
  ]);
}
