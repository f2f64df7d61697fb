import {
  pathOf,
  type ChangedEvent,
  type Comment,
  type RunsEvent,
  type Someone,
  type StudiesEvent,
} from '@veldtwind/contract';
import { EVENT_NAMES, type FromEvents, type ToEvents } from './event-messages';

/** What is heard of a project. */
export interface Heard {
  changed: (event: ChangedEvent) => void;
  renamed: (name: string) => void;
  removed: () => void;
  /** A run of polars came further. */
  runs: (event: RunsEvent) => void;
  /** A study came further. */
  studies: (event: StudiesEvent) => void;
  people: (people: Someone[]) => void;
  comments: (comments: Comment[]) => void;
  /** Somebody's role changed. */
  roles: () => void;
  /** The stream is open, at first or again: what was missed must be caught up. */
  opened: () => void;
  lost: () => void;
}

/** How often a page says that it is still there, ms. */
const BEAT = 20_000;

function dispatch(heard: Heard, message: FromEvents): void {
  if (message.event === 'opened') heard.opened();
  else if (message.event === 'lost') heard.lost();
  else if (message.event === 'changed') heard.changed(message.data as ChangedEvent);
  else if (message.event === 'renamed') heard.renamed((message.data as { project: string; name: string }).name);
  else if (message.event === 'runs') heard.runs(message.data as RunsEvent);
  else if (message.event === 'studies') heard.studies(message.data as StudiesEvent);
  else if (message.event === 'people') heard.people((message.data as { project: string; people: Someone[] }).people);
  else if (message.event === 'comments')
    heard.comments((message.data as { project: string; comments: Comment[] }).comments);
  else if (message.event === 'roles') heard.roles();
  else heard.removed();
}

/** Through the stream that all pages share. */
function shared(project: string, heard: Heard): () => void {
  const worker = new SharedWorker(new URL('../worker/events.shared.ts', import.meta.url), { type: 'module' });
  const say = (message: ToEvents) => worker.port.postMessage(message);
  worker.port.onmessage = ({ data }: MessageEvent<FromEvents>) => dispatch(heard, data);
  say({ say: 'listen', project, address: `${location.origin}/api/v1${pathOf('allEvents')}` });
  const beat = setInterval(() => say({ say: 'here' }), BEAT);
  return () => {
    clearInterval(beat);
    say({ say: 'leave' });
    worker.port.close();
  };
}

/** Through a stream of this page's own, where a browser knows no shared workers. */
function alone(project: string, heard: Heard): () => void {
  const source = new EventSource(`/api/v1${pathOf('events', { id: project })}`);
  for (const event of EVENT_NAMES)
    source.addEventListener(event, (e) =>
      dispatch(heard, { event, data: JSON.parse((e as MessageEvent<string>).data) as { project: string } }),
    );
  source.addEventListener('open', () => heard.opened());
  source.addEventListener('error', () => heard.lost());
  return () => source.close();
}

/** Listens to what is done to a project, here and elsewhere. @returns stops listening. */
export function listen(project: string, heard: Heard): () => void {
  const start = () => (typeof SharedWorker === 'function' ? shared : alone)(project, heard);
  let stop: (() => void) | undefined = start();
  // A page that is left may be kept asleep by the browser: it must not hold a stream then.
  const hide = () => {
    stop?.();
    stop = undefined;
  };
  const show = () => (stop ??= start());
  addEventListener('pagehide', hide);
  addEventListener('pageshow', show);
  return () => {
    removeEventListener('pagehide', hide);
    removeEventListener('pageshow', show);
    hide();
  };
}
