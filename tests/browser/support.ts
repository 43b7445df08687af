import { join } from 'node:path';
import { build } from 'esbuild';
import type { Page } from 'playwright-core';
import { serveScript } from '../support/serveScript';
import { startServer } from '../support/startServer';

export { launch } from '../support/launch';

const ROOT = join(__dirname, '../..');

export interface App {
  url: string;
  /** The UDP port for joints. */
  joints: number;
  stop: () => void;
}

export async function startApp(): Promise<App> {
  const { url, joints, child } = await startServer();
  return { url, joints, stop: () => child.kill() };
}

export interface Harness {
  url: string;
  stop: () => void;
}

/** A page that has the engines and kernels as `window.harness`; see harness.ts. */
export async function startHarness(): Promise<Harness> {
  const bundle = await build({
    entryPoints: [join(__dirname, 'harness.ts')],
    bundle: true,
    write: false,
    format: 'iife',
    // A reader of files names what only Node has, and asks for it only there.
    external: ['node:*'],
    target: 'es2022',
    define: { 'process.env.NODE_ENV': '"test"' },
    // Its modules go in a circle, and a bundle of one file has to begin somewhere.
    alias: { mediabunny: join(ROOT, 'node_modules/mediabunny/dist/bundles/mediabunny.mjs') },
  });
  // The engines wait for threads, which only a worker may do.
  return serveScript(bundle.outputFiles[0]!.text, 'harness');
}

/** Calls a function of the harness in a worker of its own, and gives its result. */
export async function call<T>(page: Page, name: string, ...args: unknown[]): Promise<T> {
  return callIn(page, false, name, args);
}

/** The same in a worker that stays, with the engines that it has. */
export async function callAgain<T>(page: Page, name: string, ...args: unknown[]): Promise<T> {
  return callIn(page, true, name, args);
}

function callIn<T>(page: Page, again: boolean, name: string, args: unknown[]): Promise<T> {
  return page.evaluate(
    ([stays, fn, rest]) =>
      new Promise<never>((resolve, reject) => {
        const own = window as { harnessWorker?: Worker };
        const worker = (stays && own.harnessWorker) || new Worker('/harness.js');
        if (stays) own.harnessWorker = worker;
        worker.onmessage = ({ data }: MessageEvent<{ value?: unknown; error?: string }>) => {
          if (!stays) worker.terminate();
          if (data.error !== undefined) reject(new Error(data.error));
          else resolve(data.value as never);
        };
        worker.onerror = (event) => {
          reject(new Error(event.message));
        };
        worker.postMessage([fn, rest]);
      }),
    [again, name, args] as const,
  );
}
