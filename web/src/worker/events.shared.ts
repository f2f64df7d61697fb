import { EVENT_NAMES, type FromEvents, type ToEvents } from '@/store/event-messages';

/**
 * The one stream of events that all pages of this browser share: a browser opens only a few connections to a server, and a stream for every page
 * would leave none to save with.
 */
interface Page {
  port: MessagePort;
  project: string;
  seen: number;
}

/** A page that says nothing for so long is gone, ms; background pages speak once a minute. */
const PATIENCE = 150_000;
const pages = new Set<Page>();
let source: EventSource | undefined;
let address = '';
let open = false;

const tell = (page: Page, message: FromEvents) => page.port.postMessage(message);
const tellAll = (message: FromEvents) => pages.forEach((p) => tell(p, message));

function connect(): void {
  if (source && source.readyState !== EventSource.CLOSED) return;
  source = new EventSource(address);
  for (const name of EVENT_NAMES) {
    source.addEventListener(name, (e) => {
      const data = JSON.parse((e as MessageEvent<string>).data) as { project: string };
      for (const p of pages) if (p.project === data.project) tell(p, { event: name, data });
    });
  }
  source.onopen = () => {
    open = true;
    tellAll({ event: 'opened' });
  };
  source.onerror = () => {
    open = false;
    tellAll({ event: 'lost' });
    // A refused stream is closed for good; it is tried anew.
    if (source?.readyState === EventSource.CLOSED) setTimeout(() => pages.size > 0 && connect(), 1500);
  };
}

function sweepPages(): void {
  for (const p of pages) if (Date.now() - p.seen > PATIENCE) pages.delete(p);
  if (pages.size > 0) return;
  source?.close();
  source = undefined;
  open = false;
}
setInterval(sweepPages, 20_000);

addEventListener('connect', (e) => {
  const [port] = (e as MessageEvent).ports;
  let page: Page | undefined;
  port.onmessage = ({ data }: MessageEvent<ToEvents>) => {
    if (data.say === 'listen') {
      page = { port, project: data.project, seen: Date.now() };
      pages.add(page);
      address = data.address;
      connect();
      if (open) tell(page, { event: 'opened' });
    } else if (page && data.say === 'here') page.seen = Date.now();
    else if (page) {
      pages.delete(page);
      sweepPages();
    }
  };
  port.start();
});
