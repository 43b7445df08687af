import { exrOf, rateAsFraction, type ExrChannel } from '@vast-swarm/core';
import { encodeLight, encodePng, type CpuEngine, type Frame, type Light } from '@vast-swarm/cpu';

/** How frames are written. */
interface Still {
  /** Of the names of its files. */
  ending: string;
  /** The bytes of a frame's light. */
  ofLight: (light: Light, rate: number) => Uint8Array;
  /** Whether light is wanted where there is a backdrop too. */
  fine: boolean;
}

function exr({ width, height, planes, cover }: Light, rate: number): Uint8Array {
  const [R, G, B] = planes;
  const named = { R, G, B, ...(cover ? { A: cover } : {}) };
  const channels = Object.entries(named).map(([name, values]): ExrChannel => {
    return { name, values, as: 'half' };
  });
  return exrOf({ width, height, channels, rate: rateAsFraction(rate) });
}

export const STILLS = {
  png: { ending: 'png', fine: false, ofLight: (light) => encodeLight(light, 8) },
  png16: { ending: 'png', fine: true, ofLight: (light) => encodeLight(light, 16) },
  exr: { ending: 'exr', fine: true, ofLight: exr },
} as const satisfies Record<string, Still>;

export type StillFormat = keyof typeof STILLS;

/** The bytes of the frame that an engine has drawn last. */
export function stillOf(
  format: StillFormat,
  engine: CpuEngine,
  frame: Frame,
  { rate, light }: { rate: number; light: boolean },
): Uint8Array {
  return light
    ? STILLS[format].ofLight(engine.light(frame.width, frame.height), rate)
    : encodePng(frame);
}
