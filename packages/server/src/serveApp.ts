import express from 'express';
import { existsSync } from 'node:fs';
import type { Server } from 'node:http';
import { join } from 'node:path';
import { Refused } from './refused';

/** The built application; this file runs from packages/server/dist. */
const APP = new URL('../../app/dist/', import.meta.url).pathname;

/** Shared memory between threads needs the page to be isolated from others (HTML standard, COOP/COEP). */
const HEADERS = {
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Embedder-Policy': 'require-corp',
  'X-Content-Type-Options': 'nosniff',
};

/**
 * Serves the built application.
 *
 * @param port 0 is a free one
 * @throws Refused where it is not built, or the port cannot be used
 */
export async function serveApp(port: number, host: string): Promise<Server> {
  if (!existsSync(join(APP, 'index.html'))) {
    throw new Refused("The application is not built; run './start', or 'npm run build'.");
  }
  const app = express();
  app.disable('x-powered-by');
  app.use((_, response, next) => {
    response.set(HEADERS);
    next();
  });
  app.use('/assets', express.static(join(APP, 'assets'), { immutable: true, maxAge: '1y' }));
  app.use(express.static(APP));
  // Views have addresses of their own; the application finds them.
  app.get(/^[^.]*$/, (_, response) => {
    response.sendFile(join(APP, 'index.html'));
  });
  return new Promise<Server>((resolve, reject) => {
    const listening: Server = app.listen(port, host, (error?: Error) => {
      if (error) reject(new Refused(`Port ${String(port)} cannot be used: ${error.message}`));
      else resolve(listening);
    });
  });
}
