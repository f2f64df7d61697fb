/** Offers a blob as a download. */
export function saveBlob(blob: Blob, fileName: string): void {
  const url = URL.createObjectURL(blob);
  const a = document.createElement('a');
  a.href = url;
  a.download = fileName;
  a.click();
  setTimeout(() => URL.revokeObjectURL(url), 10000);
}

export const saveText = (text: string, fileName: string, type: string): void =>
  saveBlob(new Blob([text], { type }), fileName);
