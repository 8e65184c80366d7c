import { once } from 'node:events';
import { createServer, type Server } from 'node:http';
import type Koa from 'koa';
import type { AddressInfo } from 'node:net';

/** A server that listens, and how it is stopped. */
export interface Listening {
  server: Server;
  port: number;
  /** Takes nothing new, lets what is under way finish for at most so many milliseconds, and then cuts it. */
  stop: (patience: number) => Promise<void>;
}

/** Requests that are no HTTP at all are answered in our own words too. */
const garbled = JSON.stringify({ type: 'unreadable', title: 'The request could not be read.', status: 400, errors: [], asks: [] });

export async function listen(app: Koa, port: number, host: string): Promise<Listening> {
  const server = createServer({ requestTimeout: 120_000, headersTimeout: 20_000 }, app.callback());
  server.on('clientError', (error: NodeJS.ErrnoException, socket) => {
    if (error.code === 'ECONNRESET' || !socket.writable) return void socket.destroy();
    socket.end(
      `HTTP/1.1 400 Bad Request\r\nContent-Type: application/problem+json\r\nContent-Length: ${Buffer.byteLength(garbled)}\r\nConnection: close\r\n\r\n${garbled}`,
    );
  });
  server.listen(port, host);
  await once(server, 'listening');
  return {
    server,
    port: (server.address() as AddressInfo).port,
    stop: async (patience) => {
      const closed = once(server, 'close');
      server.close();
      server.closeIdleConnections();
      const cut = setTimeout(() => server.closeAllConnections(), patience);
      await closed;
      clearTimeout(cut);
    },
  };
}
