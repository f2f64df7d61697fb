/** Pixels of the longer side that a picture under a drawing is kept with. */
const SIDE = 1800;
/** Bytes of a file that are read. */
const LARGEST_FILE = 40_000_000;

/**
 * A picture from a file, made smaller where it is larger than a drawing needs.
 * @param most letters of its text. @returns as a data URL, with its height over its width.
 * @throws Error in words where it is no picture, or too large.
 */
export async function readPicture(file: Blob, most: number): Promise<{ data: string; aspect: number }> {
  if (file.size > LARGEST_FILE)
    throw new Error(
      `It has ${Math.round(file.size / 1e6)} MB; at most ${LARGEST_FILE / 1e6} MB are read. Save it smaller first.`,
    );
  let image: ImageBitmap;
  try {
    image = await createImageBitmap(file);
  } catch {
    throw new Error('It is no picture that this browser can read. Give a PNG, JPEG or WebP file.');
  }
  try {
    const scale = Math.min(1, SIDE / Math.max(image.width, image.height));
    const canvas = document.createElement('canvas');
    canvas.width = Math.max(1, Math.round(image.width * scale));
    canvas.height = Math.max(1, Math.round(image.height * scale));
    const context = canvas.getContext('2d');
    if (!context) throw new Error('This browser cannot draw it.');
    // What is transparent would turn black.
    context.fillStyle = '#fff';
    context.fillRect(0, 0, canvas.width, canvas.height);
    context.drawImage(image, 0, 0, canvas.width, canvas.height);
    for (const quality of [0.85, 0.7, 0.5, 0.3]) {
      const data = canvas.toDataURL('image/jpeg', quality);
      if (data.length <= most) return { data, aspect: image.height / image.width };
    }
    throw new Error('It stays too large. Save it smaller first.');
  } finally {
    image.close();
  }
}
