import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { build } from 'esbuild';
import { chromium, type Browser, type Page } from 'playwright-core';
import { startServer } from '../support/startServer';

const ROOT = join(__dirname, '../..');

const ARGS = [
  '--no-sandbox',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];
/** An emulated graphics card; with fewer of these flags presenting kills the GPU process. */
const GPU_ARGS = [
  '--enable-unsafe-webgpu',
  '--use-webgpu-adapter=swiftshader',
  '--enable-features=Vulkan',
  '--use-vulkan=swiftshader',
  '--use-angle=swiftshader',
];

/** Devices that hear and see files, over and over; and nobody who has to be asked for them. */
function devices(hears: string, sees: string): string[] {
  return [
    ...['--use-fake-ui-for-media-stream', '--use-fake-device-for-media-stream'],
    ...(hears ? [`--use-file-for-fake-audio-capture=${hears}`] : []),
    ...(sees ? [`--use-file-for-fake-video-capture=${sees}`] : []),
  ];
}

/**
 * @param options.hears a WAV file that the browser's microphone hears
 * @param options.sees a Y4M file that its camera sees
 */
export async function launch({ gpu = false, hears = '', sees = '' } = {}): Promise<Browser> {
  const executablePath = process.env.CHROMIUM ?? '/usr/bin/chromium';
  const own = hears || sees ? devices(hears, sees) : [];
  const args = [...ARGS, ...(gpu ? GPU_ARGS : []), ...own];
  return chromium.launch({ executablePath, args });
}

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
  const script = bundle.outputFiles[0]!.text;
  const server: Server = createServer((request, response) => {
    response.setHeader('Cross-Origin-Opener-Policy', 'same-origin');
    response.setHeader('Cross-Origin-Embedder-Policy', 'require-corp');
    const isScript = request.url === '/harness.js';
    response.setHeader('Content-Type', isScript ? 'text/javascript' : 'text/html');
    // The engines wait for threads, which only a worker may do.
    response.end(isScript ? script : '<!doctype html><title>harness</title>');
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  return { url: `http://127.0.0.1:${String(port)}/`, stop: () => server.close() };
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
