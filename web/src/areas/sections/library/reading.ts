import { ref, shallowRef } from 'vue';
import type { FileResult, GivenFile } from '@veldtwind/core/formats';
import { fittedName } from '@veldtwind/core/limits';
import { LONGEST_SECTION_NAME, sectionPart, type OriginalPart, type SectionPart } from '@veldtwind/core/project';
import { freeId } from '@/lib/ids';
import { useProject } from '@/store/project';
import { GivenUp, lanes } from '@/worker/lane';

/** A file that was read, and the section made from it. */
export interface Report extends FileResult {
  section?: string;
  /** What was cut of its name, in words. */
  cut?: string;
}

/** Files of a drop, folders opened. */
export async function filesOfDrop(transfer: DataTransfer): Promise<File[]> {
  const entries = Array.from(transfer.items)
    .map((i) => i.webkitGetAsEntry?.())
    .filter((e): e is FileSystemEntry => Boolean(e));
  if (entries.length === 0) return Array.from(transfer.files);
  const out: File[] = [];
  const walk = async (entry: FileSystemEntry): Promise<void> => {
    if (entry.isFile) {
      out.push(await new Promise<File>((done, failed) => (entry as FileSystemFileEntry).file(done, failed)));
      return;
    }
    const reader = (entry as FileSystemDirectoryEntry).createReader();
    for (;;) {
      const some = await new Promise<FileSystemEntry[]>((done, failed) => reader.readEntries(done, failed));
      if (some.length === 0) return;
      for (const e of some) await walk(e);
    }
  };
  for (const e of entries) await walk(e);
  return out;
}

/** Reads files into sections of the project, one edit for all of them. */
export function useReading(opened: (id: string) => void) {
  let running: { cancel: () => void } | undefined;
  const project = useProject();
  const reports = shallowRef<Report[]>([]);
  const progress = ref<{ done: number; of: number } | null>(null);

  async function read(given: GivenFile[], mirror = false, keep = false): Promise<void> {
    if (given.length === 0) return;
    progress.value = { done: 0, of: given.length };
    try {
      const run = lanes.library.run('read-files', { files: given, mirror }, ({ done, of }) => {
        progress.value = { done, of };
      });
      running = run;
      const results = await run;
      const names = new Set(Object.keys(project.edited.sections));
      const made: { section: SectionPart; original: OriginalPart }[] = [];
      const list = results.map((r): Report => {
        if (!r.read) return r;
        const id = freeId(r.read.name, (i) => names.has(i));
        const name = fittedName(r.read.name, LONGEST_SECTION_NAME);
        // Each is checked by itself, so that one that cannot be kept does not take the others with it.
        const checked = sectionPart.safeParse({
          id,
          name,
          source: { kind: 'coordinates', points: r.read.points },
          steps: [],
          tags: [],
          note: '',
          fileName: r.name.slice(0, 255),
        });
        if (!checked.success) {
          const issue = checked.error.issues[0];
          return {
            ...r,
            read: undefined,
            failure: { message: `It cannot be kept: ${issue.path.join('.')} ${issue.message}.` },
          };
        }
        names.add(id);
        made.push({ section: checked.data, original: { id, fileName: r.name.slice(0, 255), text: r.text! } });
        const cut = name === r.read.name ? undefined : `Its name was cut to ${LONGEST_SECTION_NAME} letters.`;
        return { ...r, section: id, cut };
      });
      reports.value = keep ? [...reports.value.filter((r) => !given.some((g) => g.name === r.name)), ...list] : list;
      const parts = list.filter((r) => r.section);
      if (parts.length > 0) {
        project.edit(parts.length === 1 ? `Read ${parts[0].read!.name}` : `Read ${parts.length} sections`, (draft) => {
          const originals = (draft.originals ??= {});
          for (const { section, original } of made) {
            draft.sections[section.id] = section;
            originals[original.id] = original;
          }
        });
        if (parts.length === 1) opened(parts[0].section!);
      }
    } catch (error) {
      if (!(error instanceof GivenUp)) throw error;
    } finally {
      running = undefined;
      progress.value = null;
    }
  }
  async function readFiles(files: Iterable<File>): Promise<void> {
    const given: GivenFile[] = [];
    for (const f of files)
      given.push({ name: f.webkitRelativePath || f.name, bytes: new Uint8Array(await f.arrayBuffer()) });
    await read(given);
  }
  const readText = (text: string) => read([{ name: 'pasted text', bytes: new TextEncoder().encode(text) }]);
  /** Reads a file of one surface again, its mirror image added. */
  const mirror = (r: Report) => read([{ name: r.name, bytes: new TextEncoder().encode(r.text ?? '') }], true, true);
  /** Ends the reading: what was read so far is kept. A file that holds the worker is given up with it. */
  function cancel(): void {
    running?.cancel();
    const waitedFor = running;
    setTimeout(() => running === waitedFor && progress.value && lanes.library.restart('read-files'), 1500);
  }
  return { reports, progress, readFiles, readText, mirror, cancel };
}
