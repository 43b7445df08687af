import { gzipSync } from 'node:zlib';
import type { Plugin, Rolldown } from 'vite';

/** Kilobytes of compressed JavaScript at most. */
const MOST = {
  /** The scripts that a page loads before it shows anything. */
  index: 420,
  jointsWorker: 20,
  cameraWorker: 60,
  /** All there is. */
  all: 1900,
};

/** Refuses a build whose scripts weigh more than they may: what makes a page slow is found when it comes in. */
export function weights(): Plugin {
  return {
    name: 'weights',
    apply: 'build',
    generateBundle(_, bundle) {
      const chunks = new Map<string, Rolldown.OutputChunk>();
      for (const one of Object.values(bundle)) {
        if (one.type === 'chunk') chunks.set(one.fileName, one);
      }
      const sizes = new Map(
        [...chunks].map(([name, { code }]) => [name, gzipSync(code, { level: 9 }).length / 1000]),
      );
      for (const [name, most] of Object.entries(MOST)) {
        const entry = [...chunks.values()].find((c) => c.isEntry && c.name === name);
        const loaded = entry ? loadedWith(entry.fileName, chunks) : new Set(chunks.keys());
        const weight = [...loaded].reduce((sum, file) => sum + sizes.get(file)!, 0);
        if (weight <= most) continue;
        this.error(
          `${name} weighs ${weight.toFixed(0)} KB of compressed JavaScript; ${String(most)} is the most. Load what it does not need at once by import(), or take it from a smaller module.`,
        );
      }
    },
  };
}

/** A chunk with all that it imports, and these import; what is imported later is not among them. */
function loadedWith(
  file: string,
  chunks: ReadonlyMap<string, Rolldown.OutputChunk>,
  found = new Set<string>(),
): Set<string> {
  const chunk = chunks.get(file);
  if (!chunk || found.has(file)) return found;
  found.add(file);
  for (const imported of chunk.imports) loadedWith(imported, chunks, found);
  return found;
}
