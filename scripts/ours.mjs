import { readFile } from 'node:fs/promises';
import { join } from 'node:path';

/**
 * For esbuild: packages of our own are bundled from a checkout, as they are TypeScript.
 *
 * @param folder the root of the checkout
 * @param outside whether all other packages stay outside
 */
export function ours(folder, outside = true) {
  /** What a package offers under a path, as its exports say. */
  async function offered(name, path) {
    const own = join(folder, 'packages', name);
    const { exports } = JSON.parse(await readFile(join(own, 'package.json'), 'utf8'));
    if (exports[`.${path}`]) return { path: join(own, exports[`.${path}`]) };
    const wild = Object.keys(exports).find(
      (key) => key.endsWith('*') && `.${path}`.startsWith(key.slice(0, -1)),
    );
    return { path: join(own, exports[wild].replace('*', path.slice(wild.length - 2))) };
  }
  return {
    name: 'ours',
    setup({ onResolve }) {
      onResolve({ filter: /^[^./]/ }, ({ path, kind }) => {
        if (kind === 'entry-point') return undefined;
        const own = /^@vast-swarm\/(\w+)(.*)$/.exec(path);
        if (own) return offered(own[1], own[2]);
        return outside ? { external: true } : undefined;
      });
    },
  };
}
