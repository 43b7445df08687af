import { build } from 'esbuild';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { chromium } from 'playwright-core';

const ARGS = [
  '--no-sandbox',
  ...['--disable-background-networking', '--disable-component-update', '--disable-sync'],
];

/** What a contest came to, in milliseconds; its error where it failed. */
export type Result = { name: string; ours: number; theirs: number } | { error: string };

/** An emulated graphics card for WebGPU. */
export const CARD = [
  ...['--enable-unsafe-webgpu', '--use-webgpu-adapter=swiftshader', '--enable-features=Vulkan'],
  ...['--use-vulkan=swiftshader', '--use-angle=swiftshader'],
];

/** Starts a browser; a new one for each purpose, since one that drew with an emulated card stays slower. */
export function launch(more: readonly string[] = []): ReturnType<typeof chromium.launch> {
  const executablePath = process.env.CHROMIUM ?? '/usr/bin/chromium';
  return chromium.launch({ executablePath, args: [...ARGS, ...more] });
}

/**
 * Runs the contests of a script in a page, each in a worker of its own, one after the other until it has
 * no more.
 *
 * @param script a module that answers the number of a contest with its result, or null
 * @param more further arguments for the browser
 */
export async function contests(
  script: string,
  more: readonly string[],
  take: (result: Exclude<Result, { error: string }>) => void,
): Promise<void> {
  const browser = await launch(more);
  const bundle = await build({
    entryPoints: [script],
    ...{ bundle: true, write: false, format: 'iife', target: 'es2022' },
    external: ['node:*'],
    // Of this checkout, and not of the one that the installed packages belong to.
    alias: Object.fromEntries(
      ['kernel', 'core', 'cpu', 'gpu'].map((name) => [
        `@vast-swarm/${name}`,
        `${process.cwd()}/packages/${name}/src`,
      ]),
    ),
  });
  const text = bundle.outputFiles[0]!.text;
  const server = createServer((request, response) => {
    const isScript = request.url === '/page.js';
    response.setHeader('Cross-Origin-Opener-Policy', 'same-origin');
    response.setHeader('Cross-Origin-Embedder-Policy', 'require-corp');
    response.setHeader('Content-Type', isScript ? 'text/javascript' : 'text/html');
    response.end(isScript ? text : '<!doctype html>');
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  const page = await browser.newPage();
  await page.goto(`http://127.0.0.1:${String(port)}/`);
  for (let i = 0; ; i++) {
    const result = await page.evaluate(
      (number) =>
        new Promise<Result | null>((resolve) => {
          const worker = new Worker('/page.js');
          worker.onmessage = ({ data }: MessageEvent<Result | null>) => {
            worker.terminate();
            resolve(data);
          };
          worker.postMessage(number);
        }),
      i,
    );
    if (!result) break;
    if ('error' in result) throw new Error(result.error);
    take(result);
  }
  await browser.close();
  server.close();
}
