// What the engines have beside their TypeScript: the rasteriser and what looks at pictures, compiled to WebAssembly, the
// thread's script, fonts for words. All go into modules as text, so that browser, Node and tests load them the same way.
import { build } from 'esbuild';
import { randomUUID } from 'node:crypto';
import { mkdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { spawnSync } from 'node:child_process';

const root = new URL('..', import.meta.url).pathname;
const cpu = join(root, 'packages/cpu');
const core = join(root, 'packages/core');
// All that 32 bits can tell apart; what an engine takes is a matter of its own (cpu/src/pool.ts).
const MAX_PAGES = 65536;

/** Writes a module of constants. */
async function writeModule(file, constants) {
  const lines = Object.entries(constants).map(
    ([name, value]) => `export const ${name} = ${JSON.stringify(value)};\n`,
  );
  await mkdir(dirname(file), { recursive: true });
  await writeFile(file, `/* Made by scripts/build-engine.mjs. */\n${lines.join('')}`);
}

/** A source; what is marked there is inlined, by a decorator that is no TypeScript elsewhere. */
async function sourceOf(name, base) {
  const text = await readFile(resolve(base, name), 'utf8').catch(() => null);
  return text && text.replace(/^\/\/ @inline$/gm, '@inline');
}

/** A module of WebAssembly, as text. */
async function compile(entry, ...own) {
  const { default: asc } = await import('assemblyscript/asc');
  const out = join(tmpdir(), `${randomUUID()}.wasm`);
  const options = ['-O3', '--noAssert', '--runtime', 'stub', '--memoryBase', '0', ...own];
  const { error, stderr } = await asc.main([entry, '--outFile', out, ...options], {
    readFile: sourceOf,
  });
  if (error) throw new Error(`${entry} does not compile:\n${stderr.toString()}`);
  const bytes = await readFile(out);
  await rm(out);
  return bytes.toString('base64');
}

/** What looks at pictures for the core. */
export async function pictureModule() {
  const PICTURES = await compile(join(core, 'assembly/index.ts'), '--enable', 'simd');
  await writeModule(join(core, 'src/generated/pictures.ts'), { PICTURES });
}

/** Fonts for words, by their names in pieces. */
const FONTS = {
  plain: 'next/files/atkinson-hyperlegible-next-latin-400-normal',
  heavy: 'next/files/atkinson-hyperlegible-next-latin-800-normal',
  even: 'mono/files/atkinson-hyperlegible-mono-latin-500-normal',
};

export async function fonts() {
  const FONT_FILES = {};
  for (const [name, file] of Object.entries(FONTS)) {
    const path = `@fontsource/atkinson-hyperlegible-${file}.woff`;
    FONT_FILES[name] = (await readFile(new URL(import.meta.resolve(path)))).toString('base64');
  }
  await writeModule(join(core, 'src/generated/fonts.ts'), { FONT_FILES });
}

/** What the rasteriser reads of the engine's tables, as its sources. */
export function tables() {
  const command = ['scripts/run-ts.mjs', 'scripts/assembly-text.ts'];
  const { status } = spawnSync(process.execPath, command, { stdio: 'inherit', cwd: root });
  if (status !== 0) throw new Error('the tables of the rasteriser cannot be made');
}

export async function rasteriser() {
  const RASTERISER = await compile(
    join(cpu, 'assembly/index.ts'),
    '--enable',
    'simd,threads',
    '--importMemory',
    '--sharedMemory',
    '--initialMemory',
    '1',
    '--maximumMemory',
    String(MAX_PAGES),
  );
  await writeModule(join(cpu, 'src/generated/rasteriser.ts'), { MAX_PAGES, RASTERISER });
}

/** The script of a thread. */
export async function thread() {
  const { outputFiles } = await build({
    entryPoints: [join(cpu, 'src/thread.ts')],
    bundle: true,
    write: false,
    format: 'iife',
    target: 'es2022',
    minify: true,
    external: ['node:worker_threads'],
  });
  await writeModule(join(cpu, 'src/generated/thread.ts'), { THREAD: outputFiles[0].text });
}
