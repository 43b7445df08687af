import { spawnSync } from 'node:child_process';

/** Before any test: what the tests run that is built is made anew where its sources have changed. */
export default function built() {
  const script = new URL('../../scripts/build.mjs', import.meta.url).pathname;
  const { status } = spawnSync(process.execPath, [script], { stdio: 'inherit' });
  if (status !== 0) throw new Error('the build failed; see above');
}
