import { spawnSync } from 'node:child_process';
import { join } from 'node:path';

const ROOT = join(__dirname, '../..');
/** What is made already; all of it where `./check` has just done so. */
const made = new Set<string>(process.env.BUILT ? ['node', 'app'] : []);

/**
 * Makes the command line, or the application, anew where its sources have changed; once for each file of tests.
 *
 * @throws Error where the build fails, which has said why
 */
export function build(...what: ('node' | 'app')[]): void {
  const left = what.filter((one) => !made.has(one));
  if (left.length === 0) return;
  const args = [join(ROOT, 'scripts/build.mjs'), ...left];
  const { status } = spawnSync(process.execPath, args, { stdio: 'inherit', cwd: ROOT });
  if (status !== 0) throw new Error('the build failed; see above');
  for (const one of left) made.add(one);
}
