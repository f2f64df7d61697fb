import type { ReportFigure, ReportTable } from '../project';

/** What figures and tables of a report are called where they are chosen, and where they cannot be made. */
export const FIGURE_NAMES: Readonly<Record<ReportFigure, string>> = {
  'lift-curve': 'Lift curve',
  'moment-curve': 'Pitching moment',
  'drag-polar': 'Drag polar in trim',
  'span-load': 'Span load',
  'power-required': 'Power required',
  'climb-rate': 'Rate of climb',
  'sink-rate': 'Sink rate',
  'trim-deflection': 'Deflection in trim',
  'load-envelope': 'Manoeuvre and gust envelope',
  'range-mass': 'Range over mass',
  'margin-centre': 'Static margin over the centre of gravity',
  'margin-loading': 'Static margin over the loadings',
  modes: 'Modes of motion, root locations',
  'section-shapes': 'Section shapes',
  'section-drag': 'Section drag polars',
  'section-lift': 'Section lift curves',
  'section-moment': 'Section moments',
  'flight-path': 'Kept flights',
};
export const TABLE_NAMES: Readonly<Record<ReportTable, string>> = {
  brief: 'Design point',
  requirements: 'Requirements and candidates',
  geometry: 'Surfaces',
  sections: 'Sections',
  masses: 'Masses',
  drag: 'Drag build-up',
  performance: 'Performance',
  modes: 'Modes of motion',
  controls: 'Controls',
  flights: 'Flights',
  findings: 'Findings',
  assumptions: 'Assumptions',
  validity: 'Validity',
  methods: 'Methods and sources',
};
