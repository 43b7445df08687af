import type { ExrChannel } from '../exr';

/** A frame as it is shown. */
export interface Frame {
  width: number;
  height: number;
  /** sRGB with full opacity, rows from the top. Its own memory. */
  pixels: Uint8ClampedArray<ArrayBuffer>;
}

/** Linear light of a frame as the finish left it, before the transfer curve. */
export interface Light {
  width: number;
  height: number;
  /** Red, green and blue of sRGB's primaries, rows from the top. Their own memory. */
  planes: [Float32Array, Float32Array, Float32Array];
  /** How much of what is behind them bodies cover, 0 to 1; light that lets all of it through covers nothing. */
  cover: Float32Array | null;
}

/** Layers of a frame beside its picture. */
export interface Layers {
  channels: readonly ExrChannel[];
  /** Texts for the head of its file. */
  notes: Readonly<Record<string, string>>;
}

/** A frame that has been drawn, as a still format finds it. */
export interface Drawn {
  frame: Frame;
  /** Its light; there only for formats that are `fine`, and for frames without a backdrop. */
  light: () => Light;
  layers: Layers;
  /** Frames a second. */
  rate: number;
  /** Whether it is drawn without a backdrop. */
  alpha: boolean;
  /** Texts for the head of its file, ASCII, by their names. */
  notes: Readonly<Record<string, string>>;
}

/** A way of writing a frame: a file for each. */
export interface Still {
  /** On screen: the file's kind, and how fine it is. */
  title: string;
  /** Of the names of its files. */
  ending: string;
  /** Whether it is written from light and not from the pixels that are shown. */
  fine: boolean;
  /** Whether it has room for layers. */
  layers: boolean;
  /** @returns the bytes of the file, with the notes as plain text in its first 4096 bytes */
  encode: (drawn: Drawn) => Promise<Uint8Array<ArrayBuffer>>;
  /** Puts a file right whose notes were changed in place, where its head has a sum over them. */
  amend?: (file: Uint8Array) => void;
}
