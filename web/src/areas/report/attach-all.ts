import { toast } from 'vue-sonner';
import { useReports } from '@/store/reports';

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
      last = await reports.attach(file, last);
      added(last);
    } catch (error) {
      toast.error(`${file.name} was not added`, { description: (error as Error).message });
    }
  }
}
