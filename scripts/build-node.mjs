// Bundles the server and the command line, each command by itself; packages from the registry stay outside.
import { createHash } from 'node:crypto';
import { mkdir, rm, writeFile } from 'node:fs/promises';
import { build } from 'esbuild';
import { ours } from './ours.mjs';

const root = new URL('..', import.meta.url).pathname;
const dist = `${root}packages/server/dist`;

/** Stands for the hash of all that is bundled, which is known behind the bundling. */
const BUILD = '00000000';

const { outputFiles } = await build({
  write: false,
  define: { BUILD: JSON.stringify(BUILD) },
  entryPoints: [`${root}packages/server/src/cli.ts`],
  outdir: dist,
  // All in one folder: what it says of its own place is the same in each.
  outExtension: { '.js': '.mjs' },
  chunkNames: '[name]-[hash]',
  bundle: true,
  splitting: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  plugins: [ours(root)],
});

const whole = createHash('sha256');
for (const { text } of outputFiles) whole.update(text);
const hash = whole.digest('hex').slice(0, 8);
await rm(dist, { recursive: true, force: true });
await mkdir(dist, { recursive: true });
for (const { path, text } of outputFiles) {
  await writeFile(path, text.replaceAll(`"${BUILD}"`, `"${hash}"`));
}
