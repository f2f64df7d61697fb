/** Names of the events that the server sends. */
export const EVENT_NAMES = ['changed', 'renamed', 'removed', 'runs', 'studies', 'people', 'comments', 'roles'] as const;

/** What a page says to the shared stream of events. */
export type ToEvents = { say: 'listen'; project: string; address: string } | { say: 'here' } | { say: 'leave' };

/** What the stream tells a page. */
export type FromEvents =
  { event: 'opened' } | { event: 'lost' } | { event: (typeof EVENT_NAMES)[number]; data: { project: string } };
