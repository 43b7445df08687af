// Bundles the server and the command line; packages from the registry stay outside.
import { createHash } from 'node:crypto';
import { mkdir, writeFile } from 'node:fs/promises';
import { build } from 'esbuild';

const root = new URL('../packages/server/', import.meta.url).pathname;

/** Stands for the hash of all that is bundled, which is known behind the bundling. */
const BUILD = '00000000';

const { outputFiles } = await build({
  write: false,
  define: { BUILD: JSON.stringify(BUILD) },
  entryPoints: [`${root}src/cli.ts`],
  outfile: `${root}dist/cli.mjs`,
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  external: [
    'express',
    'commander',
    'fast-png',
    'zod',
    'jsonc-parser',
    'jsep',
    'svgpath',
    'fast-xml-parser',
    '@gltf-transform/core',
    'three',
    'three/*',
    'mediabunny',
    'fft.js',
    'fflate',
    'mpg123-decoder',
    '@wasm-audio-decoders/*',
    'opus-decoder',
    'ws',
    'osc-min',
    'sacn',
    'bullmq',
    'ioredis',
    'fontkit',
    'bidi-js',
    'libtess',
  ],
});

const [{ text }] = outputFiles;
const hash = createHash('sha256').update(text).digest('hex').slice(0, 8);
await mkdir(`${root}dist`, { recursive: true });
await writeFile(`${root}dist/cli.mjs`, text.replaceAll(`"${BUILD}"`, `"${hash}"`));
