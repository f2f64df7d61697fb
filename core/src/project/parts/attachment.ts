import { z } from 'zod';
import { partId, words } from '../../limits';
import { partKind } from './kind';

/** Letters of an attachment as text: about three megabytes of file. */
export const LARGEST_ATTACHMENT = 4_200_000;

/** A file that goes with the project, whatever it holds; the reports show pictures among them. */
export const attachmentPart = z.object({
  id: partId,
  name: words(255).min(1, 'needs a name'),
  data: z
    .string()
    .max(LARGEST_ATTACHMENT, 'is larger than 3 MB')
    .regex(
      /^data:[a-z0-9][a-z0-9.+-]{0,60}\/[a-z0-9][a-z0-9.+-]{0,80};base64,[A-Za-z0-9+/]*={0,2}$/,
      'must be a file as base64',
    ),
});
export type AttachmentPart = z.infer<typeof attachmentPart>;

/** Whether every file of a report can show it. */
export const isPicture = ({ data }: Pick<AttachmentPart, 'data'>): boolean => /^data:image\/(png|jpeg);/.test(data);
/** Bytes of the file. */
export const attachmentSize = ({ data }: Pick<AttachmentPart, 'data'>): number => {
  const text = data.slice(data.indexOf(',') + 1);
  return (3 * text.length) / 4 - (text.endsWith('==') ? 2 : text.endsWith('=') ? 1 : 0);
};

export const attachmentKind = partKind<AttachmentPart>({
  schema: attachmentPart,
  version: 1,
  migrations: {},
  place: { at: 'record', field: 'attachments' },
  label: (a) => `the attachment ${a.name}`,
  references: () => [],
});
