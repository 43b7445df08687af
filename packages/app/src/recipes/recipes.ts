import {
  parseParts,
  partsText,
  type Parts,
  type PartRef,
  type Piece,
} from '@vast-swarm/core/piece';
import { RECIPES } from '@vast-swarm/core/demo';
import { library, type StoredRecipe } from '../data/db';
import { saveDocument } from '../data/files';
import { filesOf } from '../data/stock';
import { whyNotKept } from '../data/trouble';
import { Stills } from '../stills/stills';
import { noticed } from '../store/noticeSlice';
import { store } from '../store/store';
import { chosenParts } from './copied';

/** Pixels across of a recipe's picture. */
const WIDE = 240;

/** A recipe as the drawer shows it. */
export interface Recipe {
  id: string;
  name: string;
  /** Of the part that was chosen first. */
  list: PartRef['list'];
  parts: () => Parts;
  picture: { blob: Blob } | { url: string } | null;
  /** Whether it came with the application. */
  shipped: boolean;
}

export const SHIPPED: readonly Recipe[] = RECIPES.map(({ id, name, list, parts }) => ({
  id,
  name,
  list,
  parts,
  shipped: true,
  picture: { url: `/made/recipes/${id}.png` },
}));

export function recipeOf({ id, name, list, text, thumb }: StoredRecipe): Recipe {
  const picture = thumb ? { blob: thumb } : null;
  return { id, name, list, parts: () => parseParts(text), picture, shipped: false };
}

/** A small picture of a piece at a frame, by the engine; null where there is none. */
async function pictureOf(piece: Piece, frame: number): Promise<Blob | null> {
  const stills = new Stills();
  const { width, height } = piece.frame;
  const size = { width: WIDE, height: Math.max(1, Math.round((WIDE * height) / width)) };
  try {
    const files = await filesOf(piece.stock);
    const bitmaps: ImageBitmap[] = [];
    await stills.draw([piece], files, { frame, size }, (_, still) => {
      if (still instanceof ImageBitmap) bitmaps.push(still);
    });
    const [bitmap] = bitmaps;
    if (!bitmap) return null;
    const canvas = new OffscreenCanvas(size.width, size.height);
    canvas.getContext('2d')!.drawImage(bitmap, 0, 0);
    return await canvas.convertToBlob({ type: 'image/png' });
  } finally {
    stills.close();
  }
}

/** Keeps parts of the open piece as a recipe, with a picture of them at a frame. */
export async function keepRecipe(refs: readonly PartRef[], frame: number): Promise<void> {
  const parts = chosenParts(refs);
  if (!parts) return;
  // A force shows itself in what it does.
  const alone = parts.chosen.some((c) => c.list === 'swarms');
  await addRecipe(parts, frame, alone ? parts.piece : store.getState().piece.piece!);
}

export async function addRecipe(parts: Parts, frame = 60, shown = parts.piece): Promise<void> {
  const { name, chosen } = parts;
  const thumb = await pictureOf(shown, frame).catch(() => null);
  const recipe: StoredRecipe = {
    id: crypto.randomUUID(),
    name,
    list: chosen[0]!.list,
    text: partsText(parts),
    made: Date.now(),
    ...(thumb ? { thumb } : {}),
  };
  let message = `${name} is kept as a recipe: it is where parts are added.`;
  let kind: 'note' | 'wrong' = 'note';
  await library.recipes.add(recipe).catch((error: unknown) => {
    kind = 'wrong';
    message = `${name} was not kept as a recipe: the browser's storage ${whyNotKept(error)}. Copy the part and paste it into a text file.`;
  });
  store.dispatch(noticed({ key: 'recipe', kind, message }));
}

export async function exportRecipe({ name, parts: read }: Recipe): Promise<void> {
  const parts = read();
  await saveDocument(partsText(parts), { name, sort: 'parts', piece: parts.piece });
}
