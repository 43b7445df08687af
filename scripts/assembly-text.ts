import { mkdirSync, writeFileSync } from 'node:fs';
import { constantName, type Layout } from '@vast-swarm/core/plan';
import { shapeFunctions } from '@vast-swarm/core/kinds';
import { NUMBERS, PIXELS, SIZES, WORDS } from '@vast-swarm/cpu/words';
import { toAssembly } from '@vast-swarm/kernel';

/**
 * Writes what the rasteriser reads of the core's draw tables and of the CPU engine's own words: constants
 * by namespace, and the functions that bodies are drawn with.
 */

declare const ROOT: string;

const folder = `${ROOT}packages/cpu/assembly/generated`;
const HEAD = '// Made by scripts/assembly-text.ts.\n\n';

const capital = (name: string): string => name[0]!.toUpperCase() + name.slice(1);

function namespace(
  name: string,
  constants: readonly [string, number][],
  kind: 'i32' | 'f32' = 'i32',
): string {
  const lines = constants.map(([key, value]) => {
    const type = key.endsWith('Bytes') ? 'usize' : kind;
    return `  export const ${constantName(key)}: ${type} = ${String(value)};`;
  });
  return `export namespace ${capital(name)} {\n${lines.join('\n')}\n}\n`;
}

const layouts = Object.entries<Layout>(WORDS).map(([name, { at }]) =>
  namespace(name, Object.entries(at)),
);
const numbers = Object.entries<readonly string[]>(NUMBERS).map(([name, all]) =>
  namespace(
    name,
    all.map((key, i): [string, number] => [key, i]),
  ),
);

mkdirSync(folder, { recursive: true });
const words = [
  ...layouts,
  ...numbers,
  namespace('size', Object.entries(SIZES)),
  namespace('pixels', Object.entries(PIXELS), 'f32'),
];
writeFileSync(`${folder}/words.ts`, HEAD + words.join('\n'));
writeFileSync(`${folder}/shapes.ts`, HEAD + shapeFunctions().map(toAssembly).join('\n'));
