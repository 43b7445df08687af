// Prints one JSON object a line: name, value, unit, and the baseline measured in the same run.
// With a word behind it, `npm run bench -- trails`, only figures with that word in their names. With a
// commit, `npm run bench -- --against HEAD~1 [word]`, that commit's figures of the engine are measured in
// turn with these, and stand as `before`; those that are worse by more than 5 % come once more at the end.
import { build } from 'esbuild';
import { spawnSync } from 'node:child_process';
import { mkdir, readFile, rm } from 'node:fs/promises';
import { ours } from '../ours.mjs';

const root = new URL('../../', import.meta.url).pathname;
const args = process.argv.slice(2);
const against = args[0] === '--against' ? args.splice(0, 2)[1] : null;
const word = args[0] ?? '';

/** Bundles a script of the bench as it stands in a checkout; null where the word is not in it. */
async function bundled(folder, name) {
  const source = await readFile(`${folder}scripts/bench/${name}.ts`, 'utf8').catch(() => null);
  // What an older checkout does not have is not compared.
  if (source === null) return null;
  if (word && !source.toLowerCase().includes(word.toLowerCase())) return null;
  const outfile = `${folder}.cache/bench/${name}.mjs`;
  await build({
    bundle: true,
    format: 'esm',
    target: 'es2022',
    platform: 'node',
    outfile,
    entryPoints: [`${folder}scripts/bench/${name}.ts`],
    plugins: [ours(folder)],
  });
  return outfile;
}

function run(outfile, folder, stdio) {
  const env = { ...process.env, BENCH_WORD: word };
  const { status, stdout } = spawnSync(process.execPath, ['--expose-gc', outfile], {
    stdio,
    env,
    cwd: folder,
  });
  if (status) process.exit(status);
  return stdout ? stdout.toString().trim().split('\n').filter(Boolean).map(JSON.parse) : [];
}

function command(line, cwd) {
  const { status, stderr } = spawnSync('bash', ['-c', line], { cwd });
  if (status !== 0) throw new Error(`bench: '${line}' failed\n${stderr}`);
}

/** A checkout of another commit, built, beside this one. */
async function checkout(commit) {
  const folder = `${root}.cache/against/`;
  command(`git worktree prune && rm -rf ${folder} && git worktree prune`, root);
  command(`git worktree add --detach ${folder} ${commit}`, root);
  command('npm install --no-save --prefer-offline --no-audit --no-fund', folder);
  command('node scripts/build.mjs engine', folder);
  return folder;
}

/** The better of two measurements of each figure. */
function better(lines, more) {
  return lines.map((line) => {
    const other = more.find((l) => l.name === line.name) ?? line;
    const first = line.unit === 'fps' ? line.value >= other.value : line.value <= other.value;
    return first ? line : other;
  });
}

/** Both checkouts in turn, twice, so that a busy minute of the machine falls on both. */
async function compare(commit) {
  const other = await checkout(commit);
  const worse = [];
  for (const name of ['engine', 'motion', 'look', 'sound', 'pictures', 'media', 'joints', 'card']) {
    const files = [await bundled(other, name), await bundled(root, name)];
    if (!files[0] || !files[1]) continue;
    const measure = (i) => run(files[i], i ? root : other, ['ignore', 'pipe', 'inherit']);
    const first = [measure(0), measure(1)];
    const [before, now] = [better(first[0], measure(0)), better(first[1], measure(1))];
    for (const { name: figure, value, unit } of now) {
      const old = before.find((l) => l.name === figure);
      if (!old) continue;
      const ratio = Number((old.value / value).toPrecision(3));
      const line = JSON.stringify({ name: figure, value, unit, before: old.value, ratio });
      console.log(line);
      if (ratio < 0.95) worse.push(line);
    }
  }
  if (worse.length > 0) console.log(['worse by more than 5 %:', ...worse].join('\n'));
  command(`git worktree remove --force ${other}`, root);
}

await mkdir(`${root}.cache/bench`, { recursive: true });
if (against) await compare(against);
else {
  for (const name of [
    'engine',
    'motion',
    'look',
    'sound',
    'pictures',
    'media',
    'joints',
    'controls',
    'night',
    'writing',
    'delivery',
    'card',
    'browser',
  ]) {
    const outfile = await bundled(root, name);
    if (outfile) run(outfile, root, 'inherit');
  }
}
await rm(`${root}.cache/bench`, { recursive: true });
