/** A key from a name: small letters, digits and dashes, not among those taken. */
export function freeId(name: string, taken: (id: string) => boolean): string {
  const base =
    name
      .toLowerCase()
      .normalize('NFKD')
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, 40)
      .replace(/-+$/, '') || 'item';
  // Some words belong to every object, and are free for none.
  let id = base === 'constructor' || base === 'prototype' ? `${base}-1` : base;
  for (let k = 2; taken(id); k++) id = `${base}-${k}`;
  return id;
}

/** The next free letter for a candidate: A to Z, then AA and on. */
export function nextLetter(taken: readonly string[]): string {
  for (let k = 0; ; k++) {
    const letter =
      k < 26 ? String.fromCharCode(65 + k) : String.fromCharCode(65 + Math.floor(k / 26) - 1, 65 + (k % 26));
    if (!taken.includes(letter)) return letter;
  }
}

/** A name of at most so many letters: the end is cut, an ending that tells it from others is kept. */
export function fittedName(name: string, most: number, ending = ''): string {
  return `${name.slice(0, Math.max(0, most - ending.length)).trimEnd()}${ending}`;
}
