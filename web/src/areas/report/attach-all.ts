import { toast } from 'vue-sonner';
import { LONGEST_TEXT } from '@veldtwind/core/report';
import { useReports } from '@/store/reports';

/** A Markdown file becomes a text. @returns null for any other file, and for one that is longer than a text. */
async function asText(file: File, after: string | undefined): Promise<string | null> {
  if (!/\.(md|markdown)$/i.test(file.name) || file.size > 4 * LONGEST_TEXT) return null;
  const markdown = await file.text();
  return markdown.length > LONGEST_TEXT ? null : useReports().insert({ kind: 'text', markdown }, after);
}

/** Puts files into the report one behind the other; what cannot be read is told, and the others go in. */
export async function attachAll(
  files: readonly File[],
  after: string | undefined,
  added: (id: string) => void,
): Promise<void> {
  const reports = useReports();
  let last = after;
  for (const file of files) {
    try {
      last = (await asText(file, last)) ?? (await reports.attach(file, last));
      added(last);
    } catch (error) {
      toast.error(`${file.name} was not added`, { description: (error as Error).message });
    }
  }
}
