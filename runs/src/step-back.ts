import { readlinkSync } from 'node:fs';
import { setPriority } from 'node:os';

/** A third of the share that others get where all want the processor. */
const NICENESS = 5;

/**
 * Lets everything else on the machine go before this thread: who looks at a run is not to wait for it. Only where the system knows threads by a
 * number of their own; elsewhere nothing changes.
 */
export function stepBack(): void {
  try {
    const thread = Number(readlinkSync('/proc/thread-self').split('/').pop());
    if (thread > 0 && thread !== process.pid) setPriority(thread, NICENESS);
  } catch {
    // Not here, or not allowed.
  }
}
