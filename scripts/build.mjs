// Makes what has changed since it was made last: what is compiled to WebAssembly and the threads' script, the command
// line, pictures that the application shows, the application. What a step was made from is kept as a hash beside what it made.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, readdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';

const root = new URL('..', import.meta.url).pathname;
const STAMPS = join(root, 'node_modules/.built');
const sources = (...packages) => packages.map((name) => `packages/${name}/src`);

const STEPS = [
  {
    name: 'wasm',
    from: [
      'packages/cpu/assembly',
      'packages/core/assembly',
      ...sources('cpu'),
      'packages/kernel/src',
      'packages/core/src/plan/look/draws',
      'packages/core/src/catalogue/bodies',
      'scripts/build-wasm.mjs',
      'scripts/assembly-text.ts',
    ],
    makes: 'packages/cpu/src/generated/binaries.ts',
    run: ['node', 'scripts/build-wasm.mjs'],
  },
  {
    name: 'node',
    from: [...sources('kernel', 'core', 'cpu', 'server'), 'scripts/build-node.mjs'],
    makes: 'packages/server/dist/cli.mjs',
    run: ['node', 'scripts/build-node.mjs'],
  },
  {
    name: 'pictures',
    // Not all that draws them: what they show is what kinds and the show say, and they take a while.
    from: ['packages/core/src/catalogue', 'packages/core/src/demo', 'scripts/pictures.ts'],
    makes: 'packages/app/public/made/kinds/signals-wave.png',
    run: ['node', 'scripts/run-ts.mjs', 'scripts/pictures.ts'],
  },
  {
    name: 'app',
    from: [
      ...sources('kernel', 'core', 'cpu', 'gpu', 'app'),
      'packages/app/public',
      'packages/app/index.html',
      'packages/app/vite.config.ts',
    ],
    makes: 'packages/app/dist/index.html',
    run: ['npm', 'run', '--silent', 'build', '--workspace', 'packages/app'],
  },
];

/** Files at or under a path, what the steps make themselves left out. */
async function filesUnder(path) {
  const entries = await readdir(path, { withFileTypes: true, recursive: true }).catch(() => null);
  if (!entries) return [path];
  return entries
    .filter((e) => e.isFile() && !e.parentPath.includes('/generated'))
    .map((e) => join(e.parentPath, e.name))
    .sort();
}

async function hashOf(paths) {
  const hash = createHash('sha256');
  for (const path of [...paths, 'package-lock.json']) {
    for (const file of await filesUnder(join(root, path))) {
      hash.update(file.slice(root.length)).update(await readFile(file));
    }
  }
  return hash.digest('hex');
}

await mkdir(STAMPS, { recursive: true });
for (const { name, from, makes, run } of STEPS) {
  const stamp = join(STAMPS, name);
  const hash = await hashOf(from);
  const known = await readFile(stamp, 'utf8').catch(() => '');
  if (known === hash && existsSync(join(root, makes))) continue;
  const [command, ...args] = run;
  // Whoever asks for it, tests too, gets what is shipped.
  const env = { ...process.env, NODE_ENV: 'production' };
  const { status, stderr } = spawnSync(command, args, { cwd: root, env });
  if (status !== 0) {
    process.stderr.write(stderr);
    process.exit(status ?? 1);
  }
  await writeFile(stamp, hash);
}
