import { coarserOf, simplifierReady } from '../places/coarser';
import { endingOf } from '../clip/travel';
import { inSpace, type Cloud, type Mesh, type Outline, type StockData } from '../types';
import { checkTriangles } from './checkTriangles';
import { StockError } from './error';
import { readerOf, stockEndings } from './readers';

/**
 * Reads a file of the stock, by what its name ends in and what is in it (`readers.ts`).
 *
 * @param progress is told the part that is done, 0 to 1, for files that take long
 * @throws StockError that says what is wrong and where
 */
export async function readStock(
  name: string,
  bytes: Uint8Array,
  progress: (part: number) => void = () => undefined,
): Promise<StockData> {
  const ending = endingOf(name);
  if (!stockEndings().includes(ending)) {
    const known = stockEndings().join(', ').toUpperCase();
    throw new StockError(name, `this kind of file is not known; known are ${known}`);
  }
  if (bytes.length === 0) throw new StockError(name, 'the file is empty');
  const read = await readerOf(ending, bytes)!.load();
  return withForms(checked(name, await read(name, bytes, progress)));
}

/** Meshes of fewer triangles get their coarser forms when they are first drawn: it takes no time. */
const LARGE = 3000;

async function withForms(data: StockData): Promise<StockData> {
  if (data.type !== 'mesh' || data.triangles.length < 3 * LARGE) return data;
  await simplifierReady;
  return { ...data, coarser: coarserOf(data) };
}

function checked(name: string, data: StockData): StockData {
  if (!inSpace(data)) return data;
  if (data.type === 'outline') return checkedOutline(name, data);
  return checkedPoints(name, data);
}

function checkedOutline(name: string, data: Outline): Outline {
  for (const [i, { points }] of data.curves.entries()) {
    if (!points.every(Number.isFinite)) {
      throw new StockError(name, `curve ${i + 1} has a point without a finite place`);
    }
  }
  return data;
}

function checkedPoints(name: string, data: Mesh | Cloud): Mesh | Cloud {
  const { positions } = data;
  if (positions.length === 0) throw new StockError(name, 'there are no points in it');
  const bad = positions.findIndex((v) => !Number.isFinite(v));
  if (bad >= 0) {
    const which = Math.floor(bad / 3) + 1;
    throw new StockError(name, `point ${which} has no finite place (NaN or infinite)`);
  }
  if (data.type === 'mesh') {
    checkTriangles(name, data.triangles.length / 3);
    const count = positions.length / 3;
    const beyond = data.triangles.findIndex((v) => v >= count);
    if (beyond >= 0) {
      const face = Math.floor(beyond / 3) + 1;
      throw new StockError(
        name,
        `face ${face} names vertex ${data.triangles[beyond]! + 1} of ${count}`,
      );
    }
  }
  return data;
}
