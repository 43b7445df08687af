import { dirname, resolve } from 'node:path';
import type { Plugin } from 'vite';

const STARTED = /new Worker\(\s*new URL\('(\.[^']+)', import\.meta\.url\)/g;

/**
 * Builds workers as further entries of the page's own build, so that they share chunks with it and with each other;
 * by itself Vite gives each worker a build of its own, with a copy of all that it uses.
 */
export function workersAsEntries(): Plugin {
  return {
    name: 'workers-as-entries',
    apply: 'build',
    enforce: 'pre',
    transform: {
      filter: { id: /\/src\/.*\.tsx?$/, code: 'new Worker(' },
      handler(code, id) {
        return code.replace(STARTED, (_, path: string) => {
          const worker = this.emitFile({
            type: 'chunk',
            id: resolve(dirname(id), path),
            name: /(\w+)\.ts$/.exec(path)![1]!,
          });
          return `new Worker(import.meta.ROLLUP_FILE_URL_${worker}`;
        });
      },
    },
  };
}
