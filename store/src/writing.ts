import type { Db } from './open';

/**
 * Runs what reads and then writes as one. It takes the right to write at once, and waits for it: a transaction that begins by reading
 * is refused without any waiting when another connection, of a thread for instance, has written since.
 */
export const writing = <T>(db: Db, work: () => T): T => db.transaction(work).immediate();
