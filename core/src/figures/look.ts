/** How a figure is drawn: grounds and inks. */
export interface FigureLook {
  ink: string;
  soft: string;
  rule: string;
  ruleLight: string;
  ground: string;
  band: string;
  /** In the order of the styles. */ inks: readonly string[];
  sans: string;
  /** Whether names stand on a ground of their own. */ halo: boolean;
}

/** On white paper. */
export const PRINT_LOOK: FigureLook = {
  ink: '#2b2620',
  soft: '#5b5347',
  rule: '#b9ae9b',
  ruleLight: '#e6dfd0',
  ground: '#ffffff',
  band: '#e3ecdc',
  inks: ['#b06e1e', '#2f6a8a', '#76507f', '#4b7a3e', '#a8452e', '#4d5a6b', '#a2486b', '#7c7420'],
  sans: 'Source Sans 3',
  halo: false,
};

/** In the page's own colours, which follow its theme. */
export const PAGE_LOOK: FigureLook = {
  ink: 'var(--ink)',
  soft: 'var(--soft)',
  rule: 'var(--rule)',
  ruleLight: 'var(--rule-light)',
  ground: 'var(--leaf)',
  band: 'color-mix(in srgb, var(--grass) 16%, transparent)',
  inks: ['ochre', 'sky', 'plum', 'grass', 'clay', 'slate', 'rose', 'reed'].map((c) => `var(--${c})`),
  sans: "'Source Sans 3 Variable', 'Source Sans 3', sans-serif",
  halo: true,
};

/** Strokes that print tells apart without colours; colours, strokes and markers go in the order of the interface. */
export const DASHES = ['', '7 4', '2 3', '10 3 2 3', '12 4', '4 2 1 2', '1 2', '14 3 3 3 3 3'] as const;

/** Outlines of markers about the origin, of radius about 3. */
export const MARKERS = [
  'M-3,0a3,3 0 1,0 6,0a3,3 0 1,0 -6,0Z',
  'M-2.7,-2.7H2.7V2.7H-2.7Z',
  'M0,-3.7L3.7,0L0,3.7L-3.7,0Z',
  'M0,-3.5L3.3,2.6H-3.3Z',
  'M-3.2,-1H-1V-3.2H1V-1H3.2V1H1V3.2H-1V1H-3.2Z',
  'M-1.4,-3.6H1.4V3.6H-1.4Z',
] as const;

const of = <T>(list: readonly T[], style: number): T => list[style % list.length];
export const inkOf = (look: FigureLook, style: number): string => of(look.inks, style);
export const dashOf = (style: number): string => of(DASHES, style + Math.floor(style / DASHES.length));
export const markerOf = (style: number): string => of(MARKERS, style);
