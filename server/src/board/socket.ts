import { ServerResponse, type IncomingMessage, type Server } from 'node:http';
import type { Duplex } from 'node:stream';
import express, { type RequestHandler, type Response } from 'express';
import type { Logger } from 'pino';
import { WebSocketServer } from 'ws';
import type { Config } from '../config';
import { errorHandler, HttpError } from '../http/errors';
import { originGuard } from '../http/guard';
import type { StoreHealth } from '../http/trouble';
import { BoardSession, type BoardServices } from './session';

export const BOARD_PATH = '/api/v1/board';
/** Flights beside each other; bytes of a message. */
const MOST_SESSIONS = 8;
const MOST_BYTES = 256 * 1024;
/** Sockets that ask beside each other, and how long one may take to be let in or refused, ms. */
const MOST_ASKING = 64;
const ASKING = 5000;
/** How long a client has to answer that it closes, ms. */
const CLOSING = 1000;

/** Opens the socket that boards fly over. Whoever asks for it passes the same guards as every other request. */
export function openBoard(
  server: Pick<Server, 'on'>,
  config: Config,
  log: Logger,
  health: StoreHealth,
  guard: RequestHandler,
  /** What a session may ask, by who asked for it. */ servicesOf: (res: Response) => BoardServices,
): { close: () => void } {
  const sockets = new WebSocketServer({ noServer: true, maxPayload: MOST_BYTES, perMessageDeflate: false });
  /** Sockets that are neither let in nor refused yet, with what lets go of them when that takes too long. */
  const asking = new Map<Duplex, NodeJS.Timeout>();
  const settle = (socket: Duplex) => {
    clearTimeout(asking.get(socket));
    asking.delete(socket);
  };
  const gate = express();
  gate.disable('x-powered-by');
  gate.use(originGuard(config, log));
  gate.use(guard);
  gate.use((req, res) => {
    if (req.path !== BOARD_PATH)
      throw new HttpError(404, 'not-found', 'There is no socket here.', `It is at ${BOARD_PATH}.`);
    if (sockets.clients.size >= MOST_SESSIONS)
      throw new HttpError(503, 'busy', `${MOST_SESSIONS} boards fly already.`, 'Ask again when one has ended.');
    const { socket, head } = res.locals as { socket: Duplex; head: Buffer };
    res.detachSocket(socket as never);
    settle(socket);
    sockets.handleUpgrade(req, socket, head, (client) => void new BoardSession(client, servicesOf(res)));
  });
  gate.use(errorHandler(log, health));
  server.on('upgrade', (req: IncomingMessage, socket: Duplex, head: Buffer) => {
    socket.on('error', () => socket.destroy());
    socket.on('close', () => settle(socket));
    if (asking.size >= MOST_ASKING) return void socket.destroy();
    asking.set(socket, setTimeout(() => socket.destroy(), ASKING).unref());
    const res = new ServerResponse(req);
    res.shouldKeepAlive = false;
    res.assignSocket(socket as never);
    // A client that is refused has no say in when it is let go: it may never close its half.
    res.on('finish', () => socket.end(() => socket.destroy()));
    Object.assign(res, { locals: { socket, head } });
    gate(req as never, res as never);
  });
  return {
    close: () => {
      for (const socket of asking.keys()) socket.destroy();
      for (const client of sockets.clients) {
        client.close(1001, 'the server stops');
        setTimeout(() => client.terminate(), CLOSING).unref();
      }
      sockets.close();
    },
  };
}
