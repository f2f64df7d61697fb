import { LARGEST_ATTACHMENT } from '@veldtwind/core/project';
import { readPicture } from './read-picture';

/** Bytes of a picture that is kept as it is; a larger one is made smaller. */
const KEPT = 1_000_000;

const textOf = (file: Blob): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result));
    reader.onerror = () => reject(new Error('It cannot be read.'));
    reader.readAsDataURL(file);
  });

/**
 * A file as an attachment of the project. Pictures are PNG or JPEG, made smaller where they are large.
 * @throws Error in words where it is empty, too large, or a picture that cannot be read.
 */
export async function readAttachment(file: File): Promise<{ name: string; data: string; picture: boolean }> {
  const name = file.name.slice(-255) || 'file';
  if (file.size === 0) throw new Error('It is empty.');
  const picture = /^image\/(png|jpeg|webp)$/.test(file.type);
  if (picture) {
    // It is opened in any case: what calls itself a picture may be none.
    const made = await readPicture(file, LARGEST_ATTACHMENT);
    const keep = file.size <= KEPT && file.type !== 'image/webp';
    return { name, data: keep ? await textOf(file) : made.data, picture };
  }
  if (file.size > (3 * LARGEST_ATTACHMENT) / 4)
    throw new Error(`It has ${(file.size / 1e6).toFixed(1)} MB; an attachment has at most 3 MB.`);
  const text = await textOf(file);
  return { name, data: text.replace(/^data:[^;,]*(;[^,]*)?,/, 'data:application/octet-stream;base64,'), picture };
}
