// Compiles the rasteriser and what looks at pictures, bundles the thread's script, and takes the fonts for words; all
// go into modules as text, so that browser, Node and tests load them the same way.
import asc from 'assemblyscript/asc';
import { build } from 'esbuild';
import { randomUUID } from 'node:crypto';
import { mkdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { spawnSync } from 'node:child_process';

const root = new URL('../packages/cpu/', import.meta.url).pathname;
const core = new URL('../packages/core/', import.meta.url).pathname;
const generated = join(root, 'src/generated');
// All that 32 bits can tell apart; what an engine takes is a matter of its own (src/pool.ts).
const MAX_PAGES = 65536;

/** A source; what is marked there is inlined, by a decorator that is no TypeScript elsewhere. */
async function sourceOf(name, base) {
  const text = await readFile(resolve(base, name), 'utf8').catch(() => null);
  return text && text.replace(/^\/\/ @inline$/gm, '@inline');
}

/** A module as text. */
async function compile(entry, ...own) {
  const out = join(tmpdir(), `${randomUUID()}.wasm`);
  const options = [
    ...['--outFile', out, '-O3', '--noAssert', '--runtime', 'stub', '--memoryBase', '0', ...own],
  ];
  const { error, stderr } = await asc.main([entry, ...options], { readFile: sourceOf });
  if (error) throw new Error(`${entry} does not compile:\n${stderr.toString()}`);
  const bytes = await readFile(out);
  await rm(out);
  return bytes.toString('base64');
}

async function bundleThread() {
  const result = await build({
    entryPoints: [join(root, 'src/thread.ts')],
    bundle: true,
    write: false,
    format: 'iife',
    target: 'es2022',
    minify: true,
    external: ['node:worker_threads'],
  });
  return result.outputFiles[0].text;
}

/** What the rasteriser reads of the engine's tables. */
function writeTables() {
  const command = [join(root, '../../scripts/run-ts.mjs'), 'scripts/assembly-text.ts'];
  const { status } = spawnSync(process.execPath, command, {
    stdio: 'inherit',
    cwd: join(root, '../..'),
  });
  if (status !== 0) throw new Error('the tables of the rasteriser cannot be made');
}

// First: all that reads the core reads it.
await mkdir(join(core, 'src/generated'), { recursive: true });
const pictures = await compile(join(core, 'assembly/index.ts'), '--enable', 'simd');
await writeFile(
  join(core, 'src/generated/pictures.ts'),
  `/* Made by scripts/build-wasm.mjs. */\nexport const PICTURES = '${pictures}';\n`,
);
/** Fonts for words, by their names in pieces. */
const FONTS = {
  plain: 'next/files/atkinson-hyperlegible-next-latin-400-normal',
  heavy: 'next/files/atkinson-hyperlegible-next-latin-800-normal',
  even: 'mono/files/atkinson-hyperlegible-mono-latin-500-normal',
};
const fonts = await Promise.all(
  Object.entries(FONTS).map(async ([name, file]) => {
    const path = `@fontsource/atkinson-hyperlegible-${file}.woff`;
    const bytes = await readFile(new URL(import.meta.resolve(path)));
    return [name, bytes.toString('base64')];
  }),
);
await writeFile(
  join(core, 'src/generated/fonts.ts'),
  `/* Made by scripts/build-wasm.mjs. */\nexport const FONT_FILES = ${JSON.stringify(Object.fromEntries(fonts))};\n`,
);
writeTables();
await mkdir(generated, { recursive: true });
const [wasm, thread] = await Promise.all([
  compile(
    join(root, 'assembly/index.ts'),
    ...['--enable', 'simd,threads', '--importMemory', '--sharedMemory', '--initialMemory', '1'],
    ...['--maximumMemory', String(MAX_PAGES)],
  ),
  bundleThread(),
]);
await writeFile(
  join(generated, 'binaries.ts'),
  `/* Made by scripts/build-wasm.mjs. */
export const MAX_PAGES = ${MAX_PAGES};
export const RASTERISER = '${wasm}';
export const THREAD = ${JSON.stringify(thread)};
`,
);
