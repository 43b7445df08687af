import {
  inSpace,
  type Cloud,
  type Mesh,
  type Outline,
  type StockData,
  type StockType,
} from '../types';
import { coarserOf, simplifierReady } from '../places/coarser';
import { endingOf } from '../clip/travel';
import { clipFileOf, openClip, type ClipFile } from './clip';
import { cloudOfText } from './cloud';
import { tableOfCube } from './cube';
import { checkTriangles } from './checkTriangles';
import { StockError } from './error';
import { isJointTable, motionOfTable } from './motion/jointTable';

export { StockError } from './error';

/** Bytes: larger files would not fit into memory together with what is read from them. */
const MOST_BYTES = 512 * 2 ** 20;

/**
 * Refuses a file that is too large for the stock, before it is read.
 * @throws StockError
 */
export function checkStockSize(name: string, bytes: number): void {
  if (bytes <= MOST_BYTES) return;
  throw new StockError(name, `it has ${(bytes / 2 ** 20).toFixed(0)} MB; 512 MB is the most`);
}

/** Files that the stock takes, by what is behind the last dot of their names. */
export const STOCK_FILES = {
  obj: 'mesh',
  ply: 'mesh',
  stl: 'mesh',
  gltf: 'mesh',
  glb: 'mesh',
  svg: 'outline',
  png: 'picture',
  xyz: 'cloud',
  csv: 'cloud',
  cube: 'table',
  bvh: 'motion',
  wav: 'sound',
  flac: 'sound',
  ogg: 'sound',
  oga: 'sound',
  opus: 'sound',
  mp3: 'sound',
  gif: 'clip',
  apng: 'clip',
  zip: 'clip',
  mp4: 'clip',
  mov: 'clip',
  webm: 'clip',
  ttf: 'font',
  otf: 'font',
  woff: 'font',
  woff2: 'font',
  m4a: 'sound',
  mka: 'sound',
} as const satisfies Record<string, StockType>;

function text(bytes: Uint8Array): string {
  return new TextDecoder().decode(bytes);
}

/**
 * Reads a file of the stock: OBJ, PLY (ASCII or binary), STL, glTF, GLB, SVG, PNG, XYZ, CSV, CUBE, a font, a motion
 * (BVH, glTF, a table of joints), a clip, or a sound. The readers of the larger formats come when they are wanted.
 * @param progress is told the part that is done, 0 to 1, for files that take long
 * @throws StockError that says what is wrong and where
 */
export async function readStock(
  name: string,
  bytes: Uint8Array,
  progress: (part: number) => void = () => undefined,
): Promise<StockData> {
  const ending = endingOf(name);
  if (!Object.hasOwn(STOCK_FILES, ending)) {
    const known = Object.keys(STOCK_FILES).join(', ').toUpperCase();
    throw new StockError(name, `this kind of file is not known; known are ${known}`);
  }
  if (bytes.length === 0) throw new StockError(name, 'the file is empty');
  return withForms(checked(name, await read(name, ending, bytes, progress)));
}

/** Meshes of fewer triangles get their coarser forms when they are first drawn: it takes no time. */
const LARGE = 3000;

async function withForms(data: StockData): Promise<StockData> {
  if (data.type !== 'mesh' || data.triangles.length < 3 * LARGE) return data;
  await simplifierReady;
  return { ...data, coarser: coarserOf(data) };
}

async function read(
  name: string,
  ending: string,
  bytes: Uint8Array,
  progress: (part: number) => void,
): Promise<StockData> {
  const clip = clipFileOf(ending, bytes);
  if (clip) return clipOrSound(name, bytes, clip, progress);
  if (STOCK_FILES[ending as keyof typeof STOCK_FILES] === 'sound') {
    return (await import('./sound')).soundOf(name, bytes, progress);
  }
  switch (ending) {
    case 'png':
      return (await import('./png')).pictureOf(name, bytes);
    case 'ttf':
    case 'otf':
    case 'woff':
    case 'woff2':
      return (await import('../words/font')).fontOf(name, bytes);
    case 'svg':
      return (await import('./svg')).outlineOfSvg(name, text(bytes));
    case 'cube':
      return tableOfCube(name, text(bytes));
    case 'bvh':
      return (await import('./motion/bvh')).motionOfBvh(name, text(bytes));
    case 'xyz':
    case 'csv':
      if (isJointTable(text(bytes))) return motionOfTable(name, text(bytes));
      return cloudOfText(name, text(bytes), progress);
    case 'ply':
      return (await import('./ply')).thingOfPly(name, bytes);
    case 'gltf':
    case 'glb':
      return (await import('./gltf')).thingOfGltf(name, bytes, ending === 'glb');
    default:
      return (await import('./geometry')).geometryOf(name, ending, bytes);
  }
}

/** A clip with its sound; of a file that has no picture, its sound. */
async function clipOrSound(
  name: string,
  bytes: Uint8Array,
  kind: ClipFile,
  progress: (part: number) => void,
): Promise<StockData> {
  const heard = kind === 'video' ? await (await import('./sound')).soundIn(bytes) : 'none';
  const sound =
    heard === 'none' ? undefined : (await import('./sound')).soundOf(name, bytes, progress);
  if (heard === 'only') return sound!;
  const clip = await openClip(name, bytes, kind);
  // One that cannot be decoded is no reason to refuse the pictures.
  const own = await sound?.catch(() => undefined);
  return { type: 'clip', ...clip, ...(own ? { sound: own } : {}), file: { name, bytes } };
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
