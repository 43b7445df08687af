// Prints one JSON object a line: name, value, unit, and the baseline measured in the same run.
import { build } from 'esbuild';
import { spawnSync } from 'node:child_process';
import { mkdir } from 'node:fs/promises';

const here = new URL('.', import.meta.url).pathname;
const out = new URL('../../.cache/bench/', import.meta.url).pathname;
await mkdir(out, { recursive: true });
const external = [
  ...['zod', 'jsonc-parser', 'fast-png', 'playwright-core', 'esbuild', 'jsep', 'svgpath'],
  ...['fast-xml-parser', '@gltf-transform/core', 'three', 'three/*'],
];
for (const name of ['engine', 'motion', 'look', 'browser']) {
  const outfile = `${out}${name}.mjs`;
  const common = { bundle: true, format: 'esm', target: 'es2022', platform: 'node' };
  await build({ ...common, entryPoints: [`${here}${name}.ts`], outfile, external });
  const { status } = spawnSync(process.execPath, [outfile], { stdio: 'inherit' });
  if (status) process.exit(status);
}
