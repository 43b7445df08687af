// Makes what has changed since it was made last: node scripts/build.mjs [engine] [node] [app], or all. What a step was
// made from is kept as a hash beside what it made.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, rmSync } from 'node:fs';
import { mkdir, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import * as engine from './build-engine.mjs';

const root = new URL('..', import.meta.url).pathname;
const STAMPS = join(root, 'node_modules/.built');
const sources = (...packages) => packages.map((name) => `packages/${name}/src`);

/** Steps in their order, each with whom it is for; what is for the engine is for all. */
const STEPS = [
  {
    name: 'pictureModule',
    for: 'engine',
    make: engine.pictureModule,
    from: ['packages/core/assembly', 'scripts/build-engine.mjs'],
    makes: 'packages/core/src/generated/pictures.ts',
  },
  {
    name: 'fonts',
    for: 'engine',
    make: engine.fonts,
    from: ['scripts/build-engine.mjs'],
    makes: 'packages/core/src/generated/fonts.ts',
  },
  {
    name: 'tables',
    for: 'engine',
    make: engine.tables,
    from: [
      'packages/kernel/src',
      'packages/core/src/plan/look/draws',
      'packages/core/src/sections/swarms/bodies',
      'packages/cpu/src/words.ts',
      'scripts/assembly-text.ts',
      'scripts/build-engine.mjs',
    ],
    makes: 'packages/cpu/assembly/generated/words.ts',
  },
  {
    name: 'rasteriser',
    for: 'engine',
    make: engine.rasteriser,
    from: ['packages/cpu/assembly', 'scripts/build-engine.mjs'],
    makes: 'packages/cpu/src/generated/rasteriser.ts',
  },
  {
    name: 'thread',
    for: 'engine',
    make: engine.thread,
    from: [...sources('cpu', 'kernel'), 'scripts/build-engine.mjs'],
    makes: 'packages/cpu/src/generated/thread.ts',
  },
  {
    name: 'node',
    for: 'node',
    run: ['node', 'scripts/build-node.mjs'],
    from: [...sources('kernel', 'core', 'cpu', 'server'), 'demo', 'scripts/build-node.mjs'],
    makes: 'packages/server/dist/cli.mjs',
  },
  {
    name: 'pictures',
    for: 'app',
    run: ['node', 'scripts/run-ts.mjs', 'scripts/pictures.ts'],
    // Not all that draws them: what they show is what kinds and the show say.
    from: ['packages/core/src/sections', 'packages/core/src/demo', 'demo', 'scripts/pictures.ts'],
    makes: 'packages/app/public/made/drawn.json',
  },
  {
    name: 'app',
    for: 'app',
    run: ['npm', 'run', '--silent', 'build', '-w', 'packages/app'],
    from: [
      ...sources('kernel', 'core', 'cpu', 'gpu', 'app'),
      'demo',
      'packages/app/build',
      'packages/app/public',
      'packages/app/index.html',
      'packages/app/vite.config.ts',
    ],
    makes: 'packages/app/dist/index.html',
  },
];

/** Files at or under a path; what is made into the sources of packages is made from what counts already. */
async function filesUnder(path) {
  const entries = await readdir(path, { withFileTypes: true, recursive: true }).catch(() => null);
  if (!entries) return existsSync(path) ? [path] : [];
  return entries
    .filter((e) => e.isFile() && !e.parentPath.includes('/src/generated'))
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

function run([command, ...args]) {
  // Whoever asks for it, tests too, gets what is shipped.
  const env = { ...process.env, NODE_ENV: 'production' };
  const { status, stdout, stderr } = spawnSync(command, args, { cwd: root, env });
  if (status === 0) return;
  process.stderr.write(stdout);
  process.stderr.write(stderr);
  process.exit(status ?? 1);
}

async function make({ name, from, makes, ...step }) {
  const stamp = join(STAMPS, name);
  const hash = await hashOf(from);
  const known = await readFile(stamp, 'utf8').catch(() => '');
  if (known === hash && existsSync(join(root, makes))) return;
  if (step.run) run(step.run);
  else await step.make();
  await writeFile(stamp, hash);
}

const LOCK = join(STAMPS, 'lock');

/** Whether a process is there. */
function lives(pid) {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
}

/** One at a time: several tests may ask at once. A lock of a process that is gone does not count. */
async function locked() {
  for (;;) {
    const free = await writeFile(LOCK, String(process.pid), { flag: 'wx' }).catch(() => 'taken');
    if (free !== 'taken') return;
    const holder = Number(await readFile(LOCK, 'utf8').catch(() => ''));
    if (holder && !lives(holder)) await rm(LOCK, { force: true });
    await pause(100);
  }
}

const wanted = process.argv.length > 2 ? process.argv.slice(2) : ['node', 'app'];
await mkdir(STAMPS, { recursive: true });
await locked();
process.once('exit', () => rmSync(LOCK, { force: true }));
for (const step of STEPS) {
  if (step.for === 'engine' || wanted.includes(step.for)) await make(step);
}
