import type { Express } from 'express';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';

const MAX_TRIES = 50;

export interface Listening {
  server: Server;
  port: number;
}

/** Listens on `port` or, where that is taken, on the next free one. 0 takes any. */
export async function listenOnFreePort(app: Express, port: number, host: string): Promise<Listening> {
  for (let candidate = port; candidate < port + MAX_TRIES; candidate++) {
    const found = await tryPort(app, candidate, host);
    if (found !== undefined) return found;
  }
  throw new Error(`No port from ${port} to ${port + MAX_TRIES - 1} is free; name another with --port.`);
}

const tryPort = (app: Express, port: number, host: string): Promise<Listening | undefined> =>
  new Promise((resolve, reject) => {
    const server = createServer(app);
    server.once('error', (error: NodeJS.ErrnoException) => {
      if (error.code === 'EADDRINUSE') resolve(undefined);
      else reject(error);
    });
    server.listen(port, host, () => resolve({ server, port: (server.address() as AddressInfo).port }));
  });
