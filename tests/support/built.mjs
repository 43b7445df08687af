import { spawnSync } from 'node:child_process';

const script = new URL('../../scripts/build.mjs', import.meta.url).pathname;

/** Before any test: what the engines are made of is made anew where its sources have changed. */
export default function built() {
  const { status } = spawnSync(process.execPath, [script, 'engine'], { stdio: 'inherit' });
  if (status !== 0) throw new Error('the build failed; see above');
}
