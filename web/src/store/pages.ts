import { TAB } from '@/api/client';

/** How often a page says that it is there, where the browser has no locks for that, ms. */
const BEAT = 2000;
const beatKey = (tab: string) => `veldtwind-alive-${tab}`;
const lockName = (tab: string) => `veldtwind-page-${tab}`;

/** Says that this page is there, as long as it is. */
export function beThere(): void {
  if (navigator.locks) {
    void navigator.locks.request(lockName(TAB), () => new Promise(() => undefined));
    return;
  }
  const beat = () => localStorage.setItem(beatKey(TAB), String(Date.now()));
  beat();
  setInterval(beat, BEAT);
  addEventListener('pagehide', () => localStorage.removeItem(beatKey(TAB)));
}

/** Whether another page is still there, so that its edits are its own business. */
export async function isThere(tab: string): Promise<boolean> {
  if (tab === TAB) return true;
  if (navigator.locks) {
    const { held = [] } = await navigator.locks.query();
    return held.some((l) => l.name === lockName(tab));
  }
  return Date.now() - Number(localStorage.getItem(beatKey(tab)) ?? 0) < 3 * BEAT;
}

/** Takes something over that only one page may: with a lock where there are locks, else at once. */
export async function alone<T>(name: string, work: () => Promise<T>): Promise<T> {
  return navigator.locks ? ((await navigator.locks.request(name, work)) as T) : work();
}
