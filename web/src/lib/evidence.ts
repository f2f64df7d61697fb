import { nextTick } from 'vue';

/** How long evidence stays marked, ms. */
const SHOWN = 4000;
/** How long it is waited for: an area may still be loading. */
const PATIENCE = 3000;

/** Finds what carries a finding's evidence on the page, brings it into view, and marks it for a while. */
export async function markEvidence(mark: string): Promise<boolean> {
  const until = performance.now() + PATIENCE;
  for (;;) {
    await nextTick();
    const found = document.querySelector<HTMLElement>(`[data-evidence="${CSS.escape(mark)}"]`);
    if (found) {
      found.scrollIntoView({ block: 'nearest', behavior: 'smooth' });
      found.classList.add('evidence');
      setTimeout(() => found.classList.remove('evidence'), SHOWN);
      return true;
    }
    if (performance.now() > until) return false;
    await new Promise((r) => setTimeout(r, 60));
  }
}
