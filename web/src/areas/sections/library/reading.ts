import { proxy } from 'comlink';
import { ref, shallowRef } from 'vue';
import type { PartChange, SectionPart } from '@veldtwind/core/project';
import { freeId } from '@/lib/ids';
import { useProject } from '@/store/project';
import { libraryWorker } from '@/worker/compute';
import type { FileResult, GivenFile } from '@/worker/library.worker';

/** A file that was read, and the section made from it. */
export interface Report extends FileResult {
  section?: string;
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
export function useReading(made: (id: string) => void) {
  const project = useProject();
  const reports = shallowRef<Report[]>([]);
  const progress = ref<{ done: number; of: number } | null>(null);

  async function read(given: GivenFile[], mirror = false, keep = false): Promise<void> {
    if (given.length === 0) return;
    progress.value = { done: 0, of: given.length };
    try {
      const results = await libraryWorker.read(
        given,
        mirror,
        proxy((done: number, of: number) => {
          progress.value = { done, of };
        }),
      );
      const names = new Set(Object.keys(project.document.sections));
      const changes: PartChange[] = [];
      const list = results.map((r): Report => {
        if (!r.read) return r;
        const id = freeId(r.read.name, (i) => names.has(i));
        names.add(id);
        const part: SectionPart = {
          id,
          name: r.read.name,
          source: { kind: 'coordinates', points: r.read.points },
          steps: [],
          tags: [],
          note: '',
          fileName: r.name.slice(0, 255),
        };
        changes.push(project.putSection(part), {
          part: `original:${id}`,
          value: { id, fileName: part.fileName!, text: r.text! },
        });
        return { ...r, section: id };
      });
      reports.value = keep ? [...reports.value.filter((r) => !given.some((g) => g.name === r.name)), ...list] : list;
      const parts = list.filter((r) => r.section);
      if (parts.length > 0) {
        project.edit(parts.length === 1 ? `Read ${parts[0].read!.name}` : `Read ${parts.length} sections`, changes);
        if (parts.length === 1) made(parts[0].section!);
      }
    } finally {
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
  const cancel = () => void libraryWorker.cancel();
  return { reports, progress, readFiles, readText, mirror, cancel };
}
