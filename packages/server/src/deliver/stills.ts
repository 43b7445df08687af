import { exrOf, rateAsFraction, type ExrChannel } from '@vast-swarm/core';
import { encodeLight, encodePng, type CpuEngine, type Frame, type Light } from '@vast-swarm/cpu';
import { complete, completePng } from './stamp';

/** How frames are written. */
interface Still {
  /** Of the names of its files. */
  ending: string;
  /** The bytes of a frame's light, with a text that it says of itself. */
  ofLight: (light: Light, text: string, rate: number) => Uint8Array;
  /** Whether light is wanted where there is a backdrop too. */
  fine: boolean;
}

function exr({ width, height, planes, cover }: Light, text: string, rate: number): Uint8Array {
  const [R, G, B] = planes;
  const named = { R, G, B, ...(cover ? { A: cover } : {}) };
  const channels = Object.entries(named).map(([name, values]): ExrChannel => {
    return { name, values, as: 'half' };
  });
  const notes = { comments: text };
  return complete(exrOf({ width, height, channels, rate: rateAsFraction(rate), notes }));
}

const png =
  (depth: 8 | 16) =>
  (light: Light, text: string): Uint8Array =>
    completePng(encodeLight(light, depth), text);

export const STILLS = {
  png: { ending: 'png', fine: false, ofLight: png(8) },
  png16: { ending: 'png', fine: true, ofLight: png(16) },
  exr: { ending: 'exr', fine: true, ofLight: exr },
} as const satisfies Record<string, Still>;

export type StillFormat = keyof typeof STILLS;

/** Whether an engine has to leave the light of its frames. */
export const needsLight = (format: StillFormat, alpha: boolean): boolean =>
  STILLS[format].fine || alpha;

export interface StillAsked {
  format: StillFormat;
  alpha: boolean;
  rate: number;
}

/**
 * The bytes of the frame that an engine has drawn last.
 *
 * @param text that it says of itself, see stamp.ts
 */
export function stillOf(
  { format, alpha, rate }: StillAsked,
  engine: CpuEngine,
  frame: Frame,
  text: string,
): Uint8Array {
  return needsLight(format, alpha)
    ? STILLS[format].ofLight(engine.light(frame.width, frame.height), text, rate)
    : completePng(encodePng(frame), text);
}
