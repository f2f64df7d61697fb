import { InvalidInput } from '@veldtwind/core/numerics';

/** Metres in a unit of the file. */
export const LENGTH_UNITS = { m: 1, mm: 0.001, in: 0.0254 } as const;
export type LengthUnit = keyof typeof LENGTH_UNITS;

/** A hole through every rib, centred on its camber line. */
export interface SparHole {
  /** Chord fraction. */ at: number;
  /** mm */ width: number;
  /** mm; a rod where it is left out. */ height?: number;
}

/** How ribs and frames are made; mm. */
export interface RibOptions {
  /** Thickness of the skin that lies over them. */ skin: number;
  /** Greatest distance between ribs along the span; ribs stand at all stations. */ spacing: number;
  holes: SparHole[];
  /** Width of the material of a body's frame; 0 for a full one. */ ring: number;
  sheet: { width: number; height: number };
  /** Room between parts. */ gap: number;
}

export const RIB_DEFAULTS: RibOptions = {
  skin: 1,
  spacing: 150,
  holes: [],
  ring: 12,
  sheet: { width: 900, height: 600 },
  gap: 6,
};

/** Reads a hole as it is typed: `0.28:8x20` for a spar, `0.6:6` for a rod; chord fraction and mm. @throws InvalidInput `ribs`. */
export function readHole(text: string, kind?: 'spar' | 'rod'): SparHole {
  const found = /^([\d.]+):([\d.]+)(?:[x×]([\d.]+))?$/i.exec(text.trim());
  if (!found || (kind === 'rod' && found[3]) || (kind === 'spar' && !found[3]))
    throw new InvalidInput(
      'ribs',
      `"${text.trim()}" is no ${kind ?? 'hole'}.`,
      'Write chord fraction, width and height in mm for a spar, as 0.28:8x20; chord fraction and diameter for a rod, as 0.6:6.',
    );
  return { at: Number(found[1]), width: Number(found[2]), ...(found[3] ? { height: Number(found[3]) } : {}) };
}

/** Reads the size of a sheet, as 900x600; mm. @throws InvalidInput `ribs`. */
export function readSheet(text: string): { width: number; height: number } {
  const found = /^([\d.]+)[x×]([\d.]+)$/i.exec(text.trim());
  if (!found)
    throw new InvalidInput(
      'ribs',
      `"${text.trim()}" is no size of a sheet.`,
      'Write width and height in mm, as 900x600.',
    );
  return { width: Number(found[1]), height: Number(found[2]) };
}

/** Reads what a printer holds, as 200x200x180; mm. @throws InvalidInput `printer`. */
export function readPrinter(text: string): { width: number; depth: number; height: number } {
  const found = /^([\d.]+)[x×]([\d.]+)[x×]([\d.]+)$/i.exec(text.trim());
  if (!found)
    throw new InvalidInput(
      'printer',
      `"${text.trim()}" is no size of a printer.`,
      'Write width, depth and height in mm, as 200x200x180.',
      'printer',
    );
  return { width: Number(found[1]), depth: Number(found[2]), height: Number(found[3]) };
}
