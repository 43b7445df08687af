import { decode } from 'fast-png';
import { readFile } from 'node:fs/promises';
import { Refused } from '../refused';
import { whyNot } from '../writeWhole';

/** A frame's file as numbers. */
export interface Pixels {
  width: number;
  height: number;
  channels: number;
  /** Rows from the top, the channels of a pixel one after the other; 1 is all of a colour. */
  values: Float32Array;
  /** Whether they are linear light, or what a screen is given. */
  light: boolean;
}

function ofPng(bytes: Uint8Array): Pixels {
  const { width, height, channels, depth, data, palette } = decode(bytes);
  if (palette) throw new Error('it has a palette');
  const most = 2 ** depth - 1;
  const values = Float32Array.from(data, (v) => v / most);
  return { width, height, channels, values, light: false };
}

async function ofExr(bytes: Uint8Array): Promise<Pixels> {
  // Only this command reads them: no other waits for it to be loaded.
  const { EXRLoader } = await import('three/addons/loaders/EXRLoader.js');
  const { FloatType } = await import('three');
  const loader = new EXRLoader().setDataType(FloatType);
  const { width = 0, height = 0, data } = loader.parse(bytes.slice().buffer);
  const given = data as Float32Array;
  const channels = given.length / (width * height);
  // Rows from the bottom, as textures have them.
  const values = new Float32Array(given.length);
  const row = width * channels;
  for (let y = 0; y < height; y++) {
    values.set(given.subarray((height - 1 - y) * row, (height - y) * row), y * row);
  }
  return { width, height, channels, values, light: true };
}

const READERS = new Map<string, (bytes: Uint8Array) => Pixels | Promise<Pixels>>([
  ['.png', ofPng],
  ['.exr', ofExr],
]);

const endingOf = (file: string): string => /\.[^.]*$/.exec(file)?.[0].toLowerCase() ?? '';

/** Whether a file is a frame that can be read. */
export function isFrame(file: string): boolean {
  return READERS.has(endingOf(file));
}

/** @throws Refused that names the file and what is wrong with it */
export async function readPixels(file: string): Promise<Pixels> {
  const reader = READERS.get(endingOf(file));
  if (!reader) throw new Refused(`${file}: frames that are compared are .png or .exr.`);
  const bytes = await readFile(file).catch((error: unknown) => {
    throw new Refused(`${file}: cannot be read: ${whyNot(error)}.`);
  });
  try {
    return await reader(bytes);
  } catch (error) {
    const why = error instanceof Error ? error.message : String(error);
    throw new Refused(`${file}: this is no whole frame (${why}).`);
  }
}
