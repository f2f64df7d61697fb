/** How candidates and curves are told apart: colour, dash and marker at once, the same in every area. */
export interface SeriesStyle {
  /** A CSS colour. */ colour: string;
  /** SVG dash array, empty for a full line. */ dash: string;
  marker: 'disc' | 'square' | 'diamond' | 'triangle' | 'cross' | 'bar';
  /** Width of its line, px. */
  width?: number;
}

export const COLOURS = ['ochre', 'sky', 'plum', 'grass', 'clay', 'slate', 'rose', 'reed'];
export const DASHES = ['', '7 4', '2 3', '10 3 2 3', '12 4', '4 2 1 2', '1 2', '14 3 3 3 3 3'];
export const MARKERS: SeriesStyle['marker'][] = ['disc', 'square', 'diamond', 'triangle', 'cross', 'bar'];

/** The style at a place in the order; colours and dashes run with different lengths, so 60 places stay different. */
export function seriesStyle(place: number): SeriesStyle {
  const { colour, dash } = styleParts(place);
  return {
    colour: `var(--${COLOURS[colour]})`,
    dash: DASHES[dash],
    marker: MARKERS[place % MARKERS.length],
  };
}

/** Colour and dash of a place in the order, as their places in the lists. */
export function styleParts(place: number): { colour: number; dash: number } {
  const turn = Math.floor(place / COLOURS.length);
  return { colour: place % COLOURS.length, dash: (place + turn) % DASHES.length };
}
/** The place in the order that has a colour and a dash: each pair has one. */
export function placeOfStyle(colour: number, dash: number): number {
  const turn = (((dash - colour) % DASHES.length) + DASHES.length) % DASHES.length;
  return COLOURS.length * turn + colour;
}

/** Upper and lower surface of a section, everywhere. */
export const UPPER: SeriesStyle = { colour: 'var(--clay)', dash: '', marker: 'disc' };
export const LOWER: SeriesStyle = { colour: 'var(--grass)', dash: '9 2', marker: 'square' };

/** Laminar and turbulent layers, everywhere; and results without viscosity beside those with it. */
export const LAMINAR = { colour: 'var(--sky)', dash: '1.5 2.5' };
export const TURBULENT = { colour: 'var(--sky)', dash: '' };
