import react from '@vitejs/plugin-react';
import { dirname, resolve } from 'node:path';
import { defineConfig, type Plugin } from 'vite';

const isolation = {
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Embedder-Policy': 'require-corp',
};

/**
 * Builds workers as further entries of the page's own build, so that they share chunks with it and with each other;
 * by itself Vite gives each worker a build of its own, with a copy of all that it uses.
 */
function workersAsEntries(): Plugin {
  const STARTED = /new Worker\(\s*new URL\('(\.[^']+)', import\.meta\.url\)/g;
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

export default defineConfig({
  plugins: [workersAsEntries(), react()],
  worker: { format: 'es' },
  server: { headers: isolation, port: 5181 },
  build: {
    target: 'es2022',
    chunkSizeWarningLimit: 900,
    modulePreload: {
      // Chunks that workers share must not ask for a document: only the page itself names what it needs ahead.
      resolveDependencies: (_, dependencies, { hostType }) =>
        hostType === 'html' ? dependencies : [],
    },
  },
});
