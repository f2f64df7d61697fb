import { nextTick } from 'vue';

/** How long evidence stays marked, ms. */
const SHOWN = 4000;
/** How long it is waited for: an area may still be loading. */
const PATIENCE = 3000;

/** Waits for what is looked for on the page. @returns null where it does not come. */
async function arrived(find: () => HTMLElement | null): Promise<HTMLElement | null> {
  const until = performance.now() + PATIENCE;
  for (;;) {
    await nextTick();
    const found = find();
    if (found || performance.now() > until) return found;
    await new Promise((r) => setTimeout(r, 60));
  }
}
function show(found: HTMLElement): void {
  found.scrollIntoView({ block: 'nearest', behavior: 'smooth' });
  found.classList.add('evidence');
  setTimeout(() => found.classList.remove('evidence'), SHOWN);
}

/** Finds what carries a finding's evidence on the page, brings it into view, and marks it for a while. */
export async function markEvidence(mark: string): Promise<boolean> {
  const found = await arrived(() => document.querySelector<HTMLElement>(`[data-evidence="${CSS.escape(mark)}"]`));
  if (found) show(found);
  return found !== null;
}

/** The field of a setting in its group of the sheet, or else the group; null while neither is there. */
function settingOn(label: string, group?: string): HTMLElement | null {
  const groups = [...document.querySelectorAll<HTMLElement>('[data-help]')].filter(
    (g) => group === undefined || g.dataset.help === group,
  );
  const labels = groups.flatMap((g) => [...g.querySelectorAll<HTMLElement>('label')]);
  const named = labels.find((l) => l.textContent?.trim().startsWith(label));
  return named ?? (group === undefined ? null : (groups[0] ?? null));
}

/** Brings the field of a setting into view, marks it and puts the cursor there. */
export async function markSetting(label: string, group?: string): Promise<boolean> {
  const found = await arrived(() => settingOn(label, group));
  if (!found) return false;
  show(found);
  const named = found instanceof HTMLLabelElement ? found.control : null;
  (named ?? found.querySelector<HTMLElement>('input, select, button'))?.focus({ preventScroll: true });
  return true;
}
