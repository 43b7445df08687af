import { PICTURES } from '../../generated/pictures';

/** Exports of assembly/: all of it works in the one memory, from its beginning on, and leaves nothing there. */
interface PictureModule {
  memory: WebAssembly.Memory;
  /** See assembly/flow.ts. */
  strideOf: (width: number) => number;
  planeBytes: (width: number, height: number) => number;
  bytesOf: (width: number, height: number) => number;
  find: (width: number, height: number) => number;
  /** See assembly/grey.ts. */
  greyBytes: (width: number, height: number, w: number, h: number) => number;
  grey: (width: number, height: number, w: number, h: number) => number;
  /** See assembly/spots.ts. */
  chooseBytes: (width: number, height: number, every: number, most: number) => number;
  lightAt: (width: number, height: number) => number;
  choose: (
    width: number,
    height: number,
    every: number,
    lit: boolean,
    even: boolean,
    limit: number,
    most: number,
  ) => number;
  /** See assembly/planes.ts. */
  mixBytes: (width: number, height: number, planeBytes: number) => number;
  planesAt: (width: number, height: number) => number;
  mix: (
    width: number,
    height: number,
    luma: number,
    lumaStride: number,
    blue: number,
    red: number,
    stride: number,
    step: number,
    black: number,
    bright: number,
    redByV: number,
    greenByU: number,
    greenByV: number,
    blueByU: number,
  ) => void;
}

const PAGE = 65_536;
let known: PictureModule | null = null;

/** The module, made when it is first asked for. */
export function pictureModule(): PictureModule {
  if (known) return known;
  const bytes = Uint8Array.from(atob(PICTURES), (c) => c.charCodeAt(0));
  const instance = new WebAssembly.Instance(new WebAssembly.Module(bytes));
  known = instance.exports as unknown as PictureModule;
  return known;
}

/** Its memory, with so many bytes at least. */
export function room(bytes: number): ArrayBuffer {
  const { memory } = pictureModule();
  const missing = bytes - memory.buffer.byteLength;
  if (missing > 0) memory.grow(Math.ceil(missing / PAGE));
  return memory.buffer;
}
