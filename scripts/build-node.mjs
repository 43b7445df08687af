// Bundles the server and the command line; packages from the registry stay outside.
import { build } from 'esbuild';

const root = new URL('../packages/server/', import.meta.url).pathname;

await build({
  entryPoints: [`${root}src/cli.ts`],
  outfile: `${root}dist/cli.mjs`,
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  external: [
    ...['express', 'commander', 'fast-png', 'zod', 'jsonc-parser', 'jsep', 'svgpath'],
    ...['fast-xml-parser', '@gltf-transform/core', 'three', 'three/*', 'mediabunny', 'fft.js'],
    ...['mpg123-decoder', '@wasm-audio-decoders/*', 'opus-decoder', 'ws', 'osc-min', 'sacn'],
  ],
});
