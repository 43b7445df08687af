import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';

/** What git says, in lines; nothing where there is no repository. */
function git(...args: string[]): string[] {
  try {
    const options = { cwd: __dirname, encoding: 'utf8', stdio: 'pipe' } as const;
    return execFileSync('git', args, options).split('\n').filter(Boolean);
  } catch {
    return [];
  }
}

/** Words of the files of kinds that changed within a day before the last commit, or since. */
function changedWords(): Set<string> {
  const [day = ''] = git('log', '-1', '--format=%cd', '--date=format:%Y-%m-%d');
  const named = ['--name-only', '--format='];
  const kinds = ['--', ':/packages/core/src/sections'];
  const files = [
    ...git('log', `--since=${day} 00:00`, ...named, ...kinds),
    ...git('diff', '--name-only', 'HEAD', ...kinds),
  ];
  return new Set(files.map((file) => /([^/.]+)\.[^/]*$/.exec(file)?.[1] ?? ''));
}

/** Another sample with each commit, and the same one until then; SWEEP names one. */
const seed = process.env.SWEEP ?? git('rev-parse', 'HEAD')[0] ?? '';
const changed = changedWords();

/** The largest part of a sweep that is taken because it has changed. */
const MOST_NEW = 0.15;

function luck(name: string): number {
  return createHash('sha256').update(`${seed} ${name}`).digest().readUInt32LE() / 2 ** 32;
}

/**
 * Of the cases of a sweep those that are run: the ones that name something whose file has changed of late, and of all
 * others a share by chance, one at least. `./check --all`, which sets ALL, runs each.
 *
 * @param cases named by the words and numbers in them
 * @param usual 0 to 1
 * @param most the share that is run with ALL, where each would take hours
 */
export function swept<T extends readonly unknown[]>(
  cases: readonly T[],
  usual: number,
  most = 1,
): T[] {
  const share = process.env.ALL ? most : usual;
  if (share === 1) return [...cases];
  const nameOf = (one: T): string => one.filter((v) => /string|number/.test(typeof v)).join(' ');
  const isNew = (one: T): boolean =>
    nameOf(one)
      .split(/[^\p{L}\p{N}]+/u)
      .some((word) => changed.has(word));
  // Where nearly everything has changed, that is no choice.
  const fresh = cases.filter(isNew);
  const taken = new Set(fresh.length <= MOST_NEW * cases.length ? fresh : []);
  const ranked = cases.map((one) => ({ one, luck: luck(nameOf(one)) }));
  const least = Math.min(...ranked.map((r) => r.luck));
  return ranked
    .filter(({ one, luck: own }) => taken.has(one) || own < share || own === least)
    .map(({ one }) => one);
}
