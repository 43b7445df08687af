import {
  checkSize,
  FORMAT,
  parseParts,
  parsePiece,
  PARTS_FORMAT,
  type Parts,
} from '@vast-swarm/core/piece';
import { documentIn } from '@vast-swarm/core/formats';
import { SHOW_FORMAT } from '@vast-swarm/core/show';
import type { Zipped } from '@vast-swarm/core/stock';
import { addRecipe } from '../recipes/recipes';
import { noticed } from '../store/noticeSlice';
import { store } from '../store/store';
import { partsOfZip, pieceOfZip, unzipped } from '../data/files';
import { addPiece } from '../data/pieces';
import { takeShow } from '../data/shows';
import { importStock } from '../data/stock';

/** Files that are chosen or dropped, wherever that is. */

/** The things that were taken in, for whoever brought them. */
const AT_HOME = 'on the home page';
const IN_STOCK = 'in the stock';

async function takenFromZip(file: File, entries: Zipped): Promise<[name: string, where: string]> {
  const shown = documentIn(entries, SHOW_FORMAT);
  if (shown) {
    const { show, missing } = await takeShow(shown, entries);
    if (missing.length === 0) return [show.name, AT_HOME];
    const without = missing.join(', ');
    return [`${show.name} (without ${without}, which the zip does not have)`, AT_HOME];
  }
  const parts = documentIn(entries, PARTS_FORMAT);
  if (parts) return takenRecipe(await partsOfZip(parts.text, entries));
  const found = documentIn(entries, FORMAT);
  if (!found) {
    const others = Object.keys(entries).some((name) => name.endsWith('.json'));
    // Pictures alone are a clip.
    if (!others) return takenToStock(file);
    throw new Error(
      `There is no piece in the zip: none of its files ending in .json has the format '${FORMAT}'.`,
    );
  }
  const piece = await pieceOfZip(found.text, entries);
  await addPiece(piece);
  return [piece.name, AT_HOME];
}

async function takenToStock(file: File): Promise<[name: string, where: string]> {
  return [(await importStock(file)).name, IN_STOCK];
}

async function takenRecipe(parts: Parts): Promise<[name: string, where: string]> {
  await addRecipe(parts);
  return [parts.name, 'among the recipes'];
}

/** Takes in the piece or the show of a file, or the file into the stock; gives its name, and where it is now. */
async function takenFrom(file: File): Promise<[name: string, where: string]> {
  const ending = /[^.]*$/.exec(file.name.toLowerCase())![0];
  if (ending === 'zip') return takenFromZip(file, await unzipped(file));
  // What is of no known kind is told there.
  if (ending !== 'json') return takenToStock(file);
  checkSize(file.size);
  const text = await file.text();
  // A file of parts says so at its beginning.
  if (text.slice(0, 400).includes(PARTS_FORMAT)) return takenRecipe(parseParts(text));
  const piece = parsePiece(text);
  await addPiece(piece);
  return [piece.name, AT_HOME];
}

/** Takes files in, one after the other, and tells what became of each. */
export async function takeFiles(files: Iterable<File>): Promise<void> {
  for (const file of files) {
    const key = `import ${file.name}`;
    try {
      const [name, where] = await takenFrom(file);
      const message = `${name} was imported from ${file.name}; it is ${where}.`;
      store.dispatch(noticed({ key, kind: 'note', message }));
    } catch (error) {
      const why = error instanceof Error ? error.message : String(error);
      const message = `${file.name} was not imported.\n${why}`;
      store.dispatch(noticed({ key, kind: 'wrong', message }));
    }
  }
}
