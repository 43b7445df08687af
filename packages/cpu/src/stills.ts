import { exrOf, type ExrChannel } from '@vast-swarm/core/formats';
import { rateAsFraction } from '@vast-swarm/core/piece';
import type { CpuEngine, Frame, Light } from './engine';
import type { Layers } from './passes';
import { encodeLight, encodePng } from './png';

/** How frames are written. */
interface Still {
  /** Of the names of its files. */
  ending: string;
  /** Whether light is wanted where there is a backdrop too. */
  fine: boolean;
}

export const STILLS = {
  png: { ending: 'png', fine: false },
  png16: { ending: 'png', fine: true },
  exr: { ending: 'exr', fine: true },
} as const satisfies Record<string, Still>;

export type StillFormat = keyof typeof STILLS;

/** What is asked of a frame's file. */
export interface StillAsked {
  format: StillFormat;
  /** Without a backdrop, and with what bodies cover. */
  alpha: boolean;
  /** Frames a second. */
  rate: number;
}

/** Who has drawn a frame: an engine, or what stands for one. */
export type Drawer = Pick<CpuEngine, 'frame' | 'light' | 'layers'>;

/** Whether an engine has to leave the light of its frames: see Sources. */
export const needsLight = ({ format, alpha }: Pick<StillAsked, 'format' | 'alpha'>): boolean =>
  STILLS[format].fine || alpha;

function exr(
  { width, height, planes, cover }: Light,
  layers: Layers,
  rate: number,
  notes: Readonly<Record<string, string>>,
): Promise<Uint8Array<ArrayBuffer>> {
  const [R, G, B] = planes;
  const named = { R, G, B, ...(cover ? { A: cover } : {}) };
  const channels = Object.entries(named).map(([name, values]): ExrChannel => {
    return { name, values, as: 'half' };
  });
  return exrOf({
    width,
    height,
    channels: [...channels, ...layers.channels],
    rate: rateAsFraction(rate),
    notes: { ...notes, ...layers.notes },
  });
}

/**
 * The file of the frame that an engine has drawn last.
 *
 * @param notes texts for its head, which only OpenEXR has
 */
export function stillBytes(
  asked: StillAsked,
  engine: Pick<Drawer, 'light' | 'layers'>,
  frame: Frame,
  notes: Readonly<Record<string, string>> = {},
): Promise<Uint8Array<ArrayBuffer>> {
  if (!needsLight(asked)) return encodePng(frame);
  const light = engine.light(frame.width, frame.height);
  if (asked.format === 'exr') return exr(light, engine.layers, asked.rate, notes);
  return encodeLight(light, asked.format === 'png' ? 8 : 16);
}
