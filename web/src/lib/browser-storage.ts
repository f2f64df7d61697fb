/** The small storage of this browser; null where it is blocked for this site: asking for it throws then. */
export function smallStorage(): Storage | null {
  try {
    return globalThis.localStorage ?? null;
  } catch {
    return null;
  }
}

/** A text of the small storage; null where there is none, or no storage. */
export function readSmall(key: string): string | null {
  try {
    return smallStorage()?.getItem(key) ?? null;
  } catch {
    return null;
  }
}

/** Writes a text to the small storage. @returns false where it is full or blocked. */
export function writeSmall(key: string, text: string): boolean {
  try {
    const storage = smallStorage();
    storage?.setItem(key, text);
    return storage !== null;
  } catch {
    return false;
  }
}

/** Takes a text out of the small storage, where there is one. */
export function removeSmall(key: string): void {
  try {
    smallStorage()?.removeItem(key);
  } catch {
    // Blocked: there is nothing to take out.
  }
}
