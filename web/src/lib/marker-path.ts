import type { SeriesStyle } from './series-style';

/** The outline of a marker about the origin. @param r half its size, px. */
export const markerPath = (m: SeriesStyle['marker'], r: number): string =>
  ({
    disc: `m${-r},0a${r},${r} 0 1 0 ${2 * r},0a${r},${r} 0 1 0 ${-2 * r},0`,
    square: `m${-r},${-r}h${2 * r}v${2 * r}h${-2 * r}z`,
    diamond: `m0,${-1.35 * r}l${1.35 * r},${1.35 * r}l${-1.35 * r},${1.35 * r}l${-1.35 * r},${-1.35 * r}z`,
    triangle: `m0,${-1.25 * r}l${1.2 * r},${2.25 * r}h${-2.4 * r}z`,
    cross: `m${-r},${-r}l${2 * r},${2 * r}m${-2 * r},0l${2 * r},${-2 * r}`,
    bar: `m0,${-1.4 * r}v${2.8 * r}`,
  })[m];

/** Markers that are lines and not filled with their colour. */
export const isOpenMarker = (m: SeriesStyle['marker']): boolean => m === 'cross' || m === 'bar';
