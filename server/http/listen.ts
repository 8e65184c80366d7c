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

/** How long a port that is taken is waited for, in milliseconds: a server that was just stopped may still be on it. */
const patience = 15_000;

/** Listens on the port; throws a sentence when somebody else keeps it. */
async function onPort(server: Server, port: number, host: string): Promise<void> {
  for (const began = Date.now(); ; await new Promise((later) => setTimeout(later, 250))) {
    server.listen(port, host);
    const fault = await once(server, 'listening').then(
      () => null,
      (error: NodeJS.ErrnoException) => error,
    );
    if (fault === null) return;
    if (fault.code !== 'EADDRINUSE') throw fault;
    if (Date.now() - began > patience) throw new Error(`Port ${port} is taken. Is Tidy Larder running already? Stop that, or choose another with PORT.`);
  }
}

/** A connection that nobody uses is kept for so long, in milliseconds: longer than browsers and proxies do, so that none is closed just as something comes over it. */
const idle = 75_000;

/** Requests that are no HTTP at all are answered in our own words too. */
const garbled = JSON.stringify({ type: 'unreadable', title: 'The request could not be read.', status: 400, errors: [], asks: [] });

export async function listen(app: Koa, port: number, host: string): Promise<Listening> {
  const answer = app.callback();
  let stopping = false;
  const server = createServer({ requestTimeout: 120_000, headersTimeout: 20_000, keepAliveTimeout: idle }, (request, response) => {
    // Or whoever asks again and again on one connection would keep it open for as long as is waited.
    if (stopping) response.setHeader('Connection', 'close');
    void answer(request, response);
  });
  server.on('clientError', (error: NodeJS.ErrnoException, socket) => {
    if (error.code === 'ECONNRESET' || !socket.writable) return void socket.destroy();
    socket.end(
      `HTTP/1.1 400 Bad Request\r\nContent-Type: application/problem+json\r\nContent-Length: ${Buffer.byteLength(garbled)}\r\nConnection: close\r\n\r\n${garbled}`,
    );
  });
  await onPort(server, port, host);
  return {
    server,
    port: (server.address() as AddressInfo).port,
    stop: async (patience) => {
      stopping = true;
      const closed = once(server, 'close');
      server.close();
      server.closeIdleConnections();
      const cut = setTimeout(() => server.closeAllConnections(), patience);
      await closed;
      clearTimeout(cut);
    },
  };
}
