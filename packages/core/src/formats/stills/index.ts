import { openExr } from './openExr';
import { png, png16 } from './png';
import type { Layers, Drawn, Frame, Light, Still } from './still';

/** All ways of writing a frame, by their names in orders and on the command line; the first one is usual. */
const stills = { png, png16, exr: openExr };

export type StillFormat = keyof typeof stills;

/** See `stills`; those from outside come last. */
export const STILLS: Readonly<Record<StillFormat, Still>> = stills;

/**
 * Adds a still format from outside; from then on it is among the settings of a render, in orders to the server and on the
 * command line.
 *
 * @param name letters and digits: how it is asked for
 * @throws Error where there is one of that name
 */
export function addStill(name: string, still: Still): void {
  if (Object.hasOwn(stills, name)) throw new Error(`There is a still format '${name}' already`);
  Object.assign(stills, { [name]: still });
}

export function isStill(format: string): format is StillFormat {
  return Object.hasOwn(stills, format);
}

/** Settings of a frame's file. */
export interface StillAsked {
  format: StillFormat;
  /** Without a backdrop, and with what bodies cover. */
  alpha: boolean;
  /** Frames a second. */
  rate: number;
}

/** Who has drawn a frame: an engine, or what stands for one. */
export interface Drawer {
  frame: number;
  light: (width: number, height: number) => Light;
  layers: Layers;
}

/** Whether an engine has to leave the light of its frames: see Sources. */
export const needsLight = ({ format, alpha }: Pick<StillAsked, 'format' | 'alpha'>): boolean =>
  STILLS[format].fine || alpha;

/**
 * The file of the frame that an engine has drawn last.
 *
 * @param notes texts for its head, see Drawn
 */
export function stillBytes(
  { format, alpha, rate }: StillAsked,
  engine: Pick<Drawer, 'light' | 'layers'>,
  frame: Frame,
  notes: Drawn['notes'] = {},
): Promise<Uint8Array<ArrayBuffer>> {
  const light = (): Light => engine.light(frame.width, frame.height);
  return STILLS[format].encode({ frame, light, layers: engine.layers, rate, alpha, notes });
}
