import { request, type IncomingHttpHeaders } from 'node:http';
import { symlink, rm } from 'node:fs/promises';
import { connect } from 'node:net';
import { join } from 'node:path';
import { startServer, type RunningServer } from '../../../tests/support/startServer';

const DIST = join(__dirname, '../../app/dist');

let server: RunningServer;
beforeAll(async () => {
  server = await startServer();
});
afterAll(() => void server.child.kill());

interface Answer {
  status: number;
  headers: IncomingHttpHeaders;
  text: string;
}

/** Asks for a path as it stands, so that nothing tidies it up. */
function ask(path: string, headers: Record<string, string> = {}): Promise<Answer> {
  const { hostname, port } = new URL(server.url);
  return new Promise((resolve, reject) => {
    const sent = request({ hostname, port, path, headers }, (response) => {
      let text = '';
      response.on('data', (part: Buffer) => (text += part.toString()));
      response.on('end', () => {
        resolve({ status: response.statusCode!, headers: response.headers, text });
      });
    });
    sent.on('error', reject);
    sent.end();
  });
}

test('every answer, of whatever kind, says what pages may do', async () => {
  for (const path of ['/', '/piece/x', '/icon.svg', '/none.js', '/%zz']) {
    const { headers } = await ask(path);
    const policy = String(headers['content-security-policy']);
    expect(policy).toContain("script-src 'self' 'wasm-unsafe-eval';");
    expect(policy).toContain("frame-ancestors 'none'");
    expect(policy).not.toContain("'unsafe-eval'");
    expect(headers).toMatchObject({
      'x-frame-options': 'DENY',
      'referrer-policy': 'no-referrer',
      'x-content-type-options': 'nosniff',
    });
  }
});

/** Asks to open a socket, and is gone before it is answered, without a word. */
function reset(path: string, origin: string): Promise<void> {
  const { hostname, port } = new URL(server.url);
  return new Promise((resolve) => {
    const socket = connect(Number(port), hostname, () => {
      const head = ['Connection: Upgrade', 'Upgrade: websocket', 'Sec-WebSocket-Version: 13'];
      const key = 'Sec-WebSocket-Key: c2FsdGdsYXNzIHF1YXkgMQ==';
      const all = [`GET ${path} HTTP/1.1`, `Host: ${hostname}`, ...head, key, `Origin: ${origin}`];
      socket.write(`${all.join('\r\n')}\r\n\r\n`, () => {
        socket.resetAndDestroy();
      });
    });
    socket.on('error', () => undefined);
    socket.on('close', () => {
      resolve();
    });
  });
}

test.each([
  ['at an address that there is not', '/nowhere', 'http://127.0.0.1:1'],
  ['from the page of somebody else', '/control/run', 'http://evil.example'],
  ['where they are let in', '/control', 'http://127.0.0.1:1'],
])('thousands who break off %s do not end it', async (_, path, origin) => {
  for (let k = 0; k < 40; k++) {
    await Promise.all(Array.from({ length: 50 }, () => reset(path, origin)));
  }
  expect((await ask('/')).status).toBe(200);
  expect(server.child.exitCode).toBeNull();
});

test('only names of this machine are answered: another that is made to point here is not', async () => {
  const { port } = new URL(server.url);
  for (const host of ['127.0.0.1', 'localhost', '[::1]']) {
    expect((await ask('/', { host: `${host}:${port}` })).status).toBe(200);
  }
  for (const host of [
    'evil.example',
    `evil.example:${port}`,
    '127.0.0.1.evil.example',
    '10.0.0.1',
  ]) {
    const { status, text } = await ask('/', { host });
    expect([host, status]).toEqual([host, 421]);
    expect(text).not.toContain('<');
  }
});

test('what cannot be read is answered in words, without a place in our code', async () => {
  const icon = (range: string) => ask('/icon.svg', { range });
  for (const answer of [
    await icon('bytes=99999999-'),
    await ask('/%zz'),
    await ask('/assets/%2e%2e/%2e%2e/package.json'),
    await ask('/..%2f..%2fpackage.json'),
    await ask('/../../package.json'),
    await ask('/none.js'),
  ]) {
    expect(answer.status).toBeGreaterThanOrEqual(400);
    expect(answer.status).toBeLessThan(500);
    expect(answer.text).toMatch(/^(This|There)[^/<]*\.$/);
  }
  expect((await icon('bytes=99999999-')).status).toBe(416);
  // One that makes no sense is as none (RFC 9110, 14.2).
  expect((await icon('bytes=x-y,,')).status).toBe(200);
  expect((await icon('bytes=0-3')).text).toHaveLength(4);
});

test('a link that leads out of the application is not followed', async () => {
  const link = join(DIST, 'assets', 'link-of-a-test.txt');
  await symlink('/etc/hostname', link);
  try {
    expect((await ask('/assets/link-of-a-test.txt')).status).toBe(404);
  } finally {
    await rm(link);
  }
});
