import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';

/** An empty page, and beside it a script for its workers as `/<title>.js`; they may share memory. */
export async function serveScript(
  script: string,
  title: string,
): Promise<{ url: string; stop: () => void }> {
  const server = createServer((request, response) => {
    const isScript = request.url === `/${title}.js`;
    response.setHeader('Cross-Origin-Opener-Policy', 'same-origin');
    response.setHeader('Cross-Origin-Embedder-Policy', 'require-corp');
    response.setHeader('Content-Type', isScript ? 'text/javascript' : 'text/html');
    response.end(isScript ? script : `<!doctype html><title>${title}</title>`);
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  return { url: `http://127.0.0.1:${String(port)}/`, stop: () => server.close() };
}
