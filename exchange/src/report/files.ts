import { InvalidInput } from '@veldtwind/core/numerics';
import type { ComposedReport } from '@veldtwind/core/report';
import type { Guests } from './html';

/** What a report is written as. */
export const REPORT_FORMATS = ['pdf', 'html', 'docx', 'zip'] as const;
export type ReportFormat = (typeof REPORT_FORMATS)[number];
export const REPORT_TYPES: Record<ReportFormat, string> = {
  pdf: 'application/pdf',
  html: 'text/html; charset=utf-8',
  docx: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
  zip: 'application/zip',
};

export interface ReportFileOptions {
  paper: 'a4' | 'letter';
  /** That the file bears: of the issue, or of the last edit. */ date: Date;
  /** Beside the name: number and date of an issue. */ note?: string;
  /** Of a page: what readers of a link say. */ guests?: Guests;
}

/** A report as a file. Writers are loaded when they are wanted. @throws InvalidInput `report-format`. */
export async function reportFile(
  report: ComposedReport,
  format: string,
  options: ReportFileOptions,
): Promise<Uint8Array> {
  switch (format) {
    case 'pdf':
      return (await import('./pdf')).reportPdf(report, options);
    case 'docx':
      return (await import('./docx')).reportDocx(report, options);
    case 'html':
      return new TextEncoder().encode((await import('./html')).reportHtml(report, options.note, options.guests));
    case 'zip':
      return (await import('./figures-zip')).reportZip(report, options.note);
    default:
      throw new InvalidInput(
        'report-format',
        `There is no report as "${format}".`,
        `Give ${REPORT_FORMATS.join(', ')}.`,
        'format',
      );
  }
}
