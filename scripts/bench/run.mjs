// Prints one JSON object a line: name, value, unit, and the baseline measured in the same run.
// With a word behind it, `npm run bench -- trails`, only figures with that word in their names.
import { build } from 'esbuild';
import { spawnSync } from 'node:child_process';
import { mkdir, readFile } from 'node:fs/promises';

const here = new URL('.', import.meta.url).pathname;
const out = new URL('../../.cache/bench/', import.meta.url).pathname;
await mkdir(out, { recursive: true });
const external = [
  ...['zod', 'jsonc-parser', 'fast-png', 'playwright-core', 'esbuild', 'jsep', 'svgpath'],
  ...['fast-xml-parser', '@gltf-transform/core', 'three', 'three/*'],
];
const word = process.argv[2] ?? '';
for (const name of ['engine', 'motion', 'look', 'browser']) {
  const source = await readFile(`${here}${name}.ts`, 'utf8');
  if (word && !source.toLowerCase().includes(word.toLowerCase())) continue;
  const outfile = `${out}${name}.mjs`;
  const common = { bundle: true, format: 'esm', target: 'es2022', platform: 'node' };
  await build({ ...common, entryPoints: [`${here}${name}.ts`], outfile, external });
  const { status } = spawnSync(process.execPath, [outfile], {
    stdio: 'inherit',
    env: { ...process.env, BENCH_WORD: word },
  });
  if (status) process.exit(status);
}
