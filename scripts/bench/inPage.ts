import { build } from 'esbuild';
import { launch } from '../../tests/support/launch';
import { ours } from '../ours.mjs';
import { serveScript } from '../../tests/support/serveScript';

/** What a contest came to, in milliseconds; its error where it failed. */
export type Result = { name: string; ours: number; theirs: number } | { error: string };

/**
 * Runs the contests of a script in a page, each in a worker of its own, one after the other until it has
 * no more.
 *
 * @param script a module that answers the number of a contest with its result, or null
 * @param gpu whether there is an emulated graphics card
 */
export async function contests(
  script: string,
  gpu: boolean,
  take: (result: Exclude<Result, { error: string }>) => void,
): Promise<void> {
  const browser = await launch({ gpu });
  const bundle = await build({
    entryPoints: [script],
    bundle: true,
    write: false,
    format: 'iife',
    target: 'es2022',
    external: ['node:*'],
    // Of this checkout, and not of the one that the installed packages belong to.
    plugins: [ours(process.cwd(), false)],
  });
  const { url, stop } = await serveScript(bundle.outputFiles[0]!.text, 'page');
  const page = await browser.newPage();
  await page.goto(url);
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
  stop();
}
