export {
  LONGEST_TEXT,
  MOST_BLOCKS,
  MOST_POINTS,
  MOST_ROWS,
  REPORT_FIGURES,
  REPORT_TABLES,
  reportBlock,
  reportPart,
  type ReportBlock,
  type ReportFigure,
  type ReportPart,
  type ReportTable,
} from '../project';
export * from './compare';
export * from './compose';
export * from './composed';
export * from './names';
export * from './results';
export * from './review';
export type { StudyTold } from './table-studies';
export * from './template';
