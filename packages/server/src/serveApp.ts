import express, { type NextFunction, type Request, type Response, type Router } from 'express';
import { existsSync } from 'node:fs';
import { realpath } from 'node:fs/promises';
import { createServer, type Server } from 'node:http';
import { hostname } from 'node:os';
import { isIP } from 'node:net';
import { join, sep } from 'node:path';
import { isLoopback, OWN_NAMES } from './guard';
import { Refused } from './refused';

/** The built application; this file runs from packages/server/dist. */
const APP = new URL('../../app/dist/', import.meta.url).pathname;

/**
 * The rights of a page (W3C Content Security Policy Level 3): it loads what comes from here, and what it has made itself;
 * text becomes no code, save WebAssembly. The interface writes its styles as it goes.
 */
const CONTENT_POLICY = [
  "default-src 'self'",
  "script-src 'self' 'wasm-unsafe-eval'",
  "worker-src 'self' blob:",
  "style-src 'self' 'unsafe-inline'",
  "img-src 'self' blob: data:",
  "media-src 'self' blob:",
  "font-src 'self' data:",
  "connect-src 'self' blob: data:",
  "object-src 'none'",
  "base-uri 'none'",
  "form-action 'none'",
  "frame-ancestors 'none'",
].join('; ');

/** Shared memory between threads needs the page to be isolated from others (HTML standard, COOP/COEP). */
const HEADERS = {
  'Content-Security-Policy': CONTENT_POLICY,
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Embedder-Policy': 'require-corp',
  'Cross-Origin-Resource-Policy': 'same-origin',
  'Referrer-Policy': 'no-referrer',
  'X-Content-Type-Options': 'nosniff',
  'X-Frame-Options': 'DENY',
};

/**
 * Whether a request is meant for this server: a name that somebody lets point here would make its pages one of ours.
 *
 * @param name what the request calls the server, without a port
 * @param host the address that is listened at
 */
function isMeant(name: string, host: string): boolean {
  const known = [...OWN_NAMES, host, hostname(), `${hostname()}.local`];
  if (known.some((own) => own.toLowerCase() === name.toLowerCase())) return true;
  // Addresses point nowhere else; where only this machine is listened to, they are its own.
  if (isLoopback(host) || host === 'localhost') return false;
  return isIP(name.replace(/^\[|\]$/g, '')) > 0;
}

/** Whether a path leads to something in the application itself, and not by a link out of it. */
async function isOwn(path: string): Promise<boolean> {
  const [own, real] = await Promise.all([realpath(APP), realpath(path)]).catch(() => ['', '']);
  return real === '' || `${real}${sep}`.startsWith(`${own}${sep}`);
}

/** Connections at once, so that files are left to open; who sends no head within 10 s is let go. */
const MOST_CONNECTIONS = 2000;
const LIMITS = { headersTimeout: 10_000, connectionsCheckingInterval: 2000 };

const NOTHING = 'There is nothing of that name here.';

/** Answers an error in words: neither paths nor places in our code are anybody's business. */
function answer(error: unknown, _: Request, response: Response, next: NextFunction): void {
  if (response.headersSent) {
    next(error);
    return;
  }
  // A sign that was written as a code, and is none.
  const unreadable = error instanceof URIError ? 400 : 500;
  const status = error instanceof Error && 'status' in error ? Number(error.status) : unreadable;
  const words: Readonly<Record<number, string>> = {
    400: 'This address cannot be read.',
    404: NOTHING,
    416: 'There is no such part of this file.',
  };
  response
    .status(status)
    .type('text')
    .send(words[status] ?? 'This cannot be answered.');
}

function application(host: string, api: Router | undefined): express.Express {
  const app = express();
  app.disable('x-powered-by');
  app.use((request, response, next) => {
    response.set(HEADERS);
    if (isMeant((request.headers.host ?? '').replace(/:\d*$/, ''), host)) next();
    else response.status(421).type('text').send('This is not a name of this server.');
  });
  if (api) app.use('/api', api);
  app.use(async (request, response, next) => {
    if (await isOwn(join(APP, decodeURIComponent(request.path)))) next();
    else response.status(404).type('text').send(NOTHING);
  });
  app.use('/assets', express.static(join(APP, 'assets'), { immutable: true, maxAge: '1y' }));
  app.use(express.static(APP));
  // Views have addresses of their own; the application finds them.
  app.get(/^[^.]*$/, (_, response) => {
    response.sendFile(join(APP, 'index.html'));
  });
  app.use((_, response) => {
    response.status(404).type('text').send(NOTHING);
  });
  app.use(answer);
  return app;
}

/**
 * Serves the built application.
 *
 * @param api what is answered below `/api`
 * @param port 0 is a free one
 * @throws Refused where it is not built, or the port cannot be used
 */
export async function serveApp(port: number, host: string, api?: Router): Promise<Server> {
  if (!existsSync(join(APP, 'index.html'))) {
    throw new Refused("The application is not built; run './start', or 'npm run build'.");
  }
  const server = createServer(LIMITS, application(host, api));
  server.maxConnections = MOST_CONNECTIONS;
  await new Promise<void>((resolve, reject) => {
    server.once('error', (error) => {
      reject(new Refused(`Port ${String(port)} cannot be used: ${error.message}`));
    });
    server.listen(port, host, resolve);
  });
  // A connection that cannot be taken is no reason to end.
  server.on('error', () => undefined);
  return server;
}
