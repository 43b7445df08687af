// Runs a script of TypeScript that uses our packages: node scripts/run-ts.mjs FILE [arguments]
import { build } from 'esbuild';
import { spawnSync } from 'node:child_process';
import { mkdir } from 'node:fs/promises';
import { basename } from 'node:path';
import { ours } from './ours.mjs';

const root = new URL('..', import.meta.url).pathname;
const [file, ...rest] = process.argv.slice(2);
const outfile = `${root}.cache/scripts/${basename(file, '.ts')}.mjs`;
await mkdir(`${root}.cache/scripts`, { recursive: true });
await build({
  entryPoints: [file],
  outfile,
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'es2022',
  plugins: [ours(root)],
  define: { ROOT: JSON.stringify(root) },
});
const { status } = spawnSync(process.execPath, [outfile, ...rest], { stdio: 'inherit' });
process.exit(status ?? 1);
