import { kindOf } from '../sections';
import { stockData, type StockEntry, type StockFiles } from '../stock/entry';
import { kept } from '../stock/clip/kept';
import { lookAt } from '../stock/clip/look';
import { allOf } from '../stock/clip/soon';
import type { Look, MovingPicture, Seeing } from '../stock/types';

/** All that a moving picture of a piece depends on but the files, as data: it can be sent to a worker. */
export interface ShownPicture {
  kind: string;
  dials: Readonly<Record<string, unknown>>;
  rate: number;
  seed: number;
  /** Things of the stock that its dials name. */
  stock: readonly StockEntry[];
}

/** Has something found in moving pictures by others. */
export type Looker = (shown: ShownPicture) => Seeing;

/** Pictures that are at hand, and of each the states that were asked for last. */
const [MOST_PICTURES, MOST_STATES] = [16, 4];

/**
 * Finds it where the pictures were sent to.
 *
 * @param files what they are of
 * @throws Error where a file is missing that a picture had where it comes from
 */
export function finderIn(
  files: StockFiles,
): (shown: ShownPicture, states: readonly number[], look: Look) => Promise<Float32Array> {
  const pictures = kept(MOST_PICTURES, (text: string): MovingPicture => {
    const moving = arrivedPicture(JSON.parse(text) as ShownPicture, files);
    return { ...moving, at: kept(MOST_STATES, moving.at) };
  });
  return async (shown, states, look) => {
    const moving = pictures(JSON.stringify(shown));
    return lookAt(look, await allOf(states.map(moving.at)));
  };
}

/** The same picture where it was sent to. */
function arrivedPicture(shown: ShownPicture, files: StockFiles): MovingPicture {
  const { kind, dials, rate, seed, stock } = shown;
  const named = (id: string): ReturnType<typeof stockData> => {
    const entry = stock.find((s) => s.id === id);
    return entry && stockData(entry, files);
  };
  const moving = kindOf('pictures', kind).moving(dials as never, { rate, seed, stock: named });
  if (!moving) throw new Error('a file of a moving picture is not there');
  return moving;
}
