import { TAB } from '@/api/client';
import { readSmall, removeSmall, writeSmall } from '@/lib/browser-storage';

/** How often a page says that it is there, where the browser has no locks for that, ms. */
const BEAT = 2000;
const beatKey = (tab: string) => `veldtwind-alive-${tab}`;
const lockName = (tab: string) => `veldtwind-page-${tab}`;

/** Says that this page is there, as long as it is. */
export function beThere(): void {
  const beats = () => {
    const beat = () => writeSmall(beatKey(TAB), String(Date.now()));
    beat();
    setInterval(beat, BEAT);
    addEventListener('pagehide', () => removeSmall(beatKey(TAB)));
  };
  // Where site data are blocked, locks are as well.
  if (navigator.locks) navigator.locks.request(lockName(TAB), () => new Promise(() => undefined)).catch(beats);
  else beats();
}

/** Whether another page is still there, so that its edits are its own business. */
export async function isThere(tab: string): Promise<boolean> {
  if (tab === TAB) return true;
  if (navigator.locks) {
    const seen = await navigator.locks.query().catch(() => null);
    if (seen) return (seen.held ?? []).some((l) => l.name === lockName(tab));
  }
  return Date.now() - Number(readSmall(beatKey(tab)) ?? 0) < 3 * BEAT;
}

/** Takes something over that only one page may: with a lock where there are locks, else at once. */
export async function alone<T>(name: string, work: () => Promise<T>): Promise<T> {
  if (!navigator.locks) return work();
  let begun = false;
  try {
    return (await navigator.locks.request(name, () => ((begun = true), work()))) as T;
  } catch (error) {
    if (begun) throw error;
    return work();
  }
}
