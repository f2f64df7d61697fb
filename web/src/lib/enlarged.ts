import { useEventListener } from '@vueuse/core';
import { nextTick, onBeforeUnmount, ref } from 'vue';

/**
 * Lets a figure fill the page. While it does, the rest is out of the keys' reach; Escape puts it back.
 * @param inside an element of it. @param name what it is called while it fills the page.
 */
export function useEnlarged(inside: () => HTMLElement | null, name: () => string) {
  const enlarged = ref(false);
  let figure: HTMLElement | null = null;
  let before: Element | null = null;
  const marks = { 'data-enlarged': '', role: 'dialog', 'aria-modal': 'true' };
  /** Where the keys go first: the plot itself. */
  const home = () => figure?.querySelector<HTMLElement>('svg[tabindex]') ?? figure?.querySelector('button');
  /** Whether it stands in a figure. */
  const can = () => Boolean(inside()?.closest('figure'));

  function enlarge(): void {
    figure = inside()?.closest('figure') ?? null;
    if (!figure) return;
    before = inside()!.querySelector('button');
    for (const [mark, value] of Object.entries(marks)) figure.setAttribute(mark, value);
    figure.setAttribute('aria-label', name());
    enlarged.value = true;
    void nextTick(() => home()?.focus());
  }
  function release(): void {
    for (const mark of [...Object.keys(marks), 'aria-label']) figure?.removeAttribute(mark);
    enlarged.value = false;
  }
  function putBack(): void {
    release();
    void nextTick(() => (before as HTMLElement | null)?.focus());
  }
  useEventListener('keydown', (e: KeyboardEvent) => {
    // A menu or a form that is open in it takes the key first.
    if (!enlarged.value || e.key !== 'Escape' || e.defaultPrevented) return;
    e.preventDefault();
    putBack();
  });
  useEventListener('focusin', (e: FocusEvent) => {
    if (!enlarged.value || figure?.contains(e.target as Node)) return;
    // A dialog that opened meanwhile, such as the list of commands, has the page for itself.
    if ((e.target as Element).closest('[role=dialog]')) release();
    else home()?.focus();
  });
  onBeforeUnmount(release);
  return { enlarged, can, enlarge, putBack };
}
