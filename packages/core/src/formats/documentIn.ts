import type { Zipped } from '../stock/read/zip';

/**
 * The file of a zip that is a document of ours, by what is in it: others may stand before it.
 *
 * @param format what its `format` is
 * @returns its name and its text; null where there is none
 */
export function documentIn(files: Zipped, format: string): { name: string; text: string } | null {
  for (const [name, bytes] of Object.entries(files)) {
    if (!/\.json$/i.test(name)) continue;
    const text = new TextDecoder().decode(bytes);
    const said = /"format"\s*:\s*"([^"]*)"/.exec(text)?.[1];
    if (said === format) return { name, text };
  }
  return null;
}
