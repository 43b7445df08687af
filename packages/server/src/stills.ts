import { exrOf, rateAsFraction } from '@vast-swarm/core';
import { encodePng, encodePng16, type CpuEngine, type Frame } from '@vast-swarm/cpu';

/** How frames are written: the ending of their names, and the bytes of the frame that was drawn last. */
interface Still {
  ending: string;
  /** Whether it is made of the frame's light. */
  light: boolean;
  bytesOf: (engine: CpuEngine, frame: Frame, rate: number) => Uint8Array;
}

export const STILLS = {
  png: { ending: 'png', light: false, bytesOf: (_, frame) => encodePng(frame) },
  png16: {
    ending: 'png',
    light: true,
    bytesOf: (engine, { width, height }) => encodePng16(engine.light(width, height)),
  },
  exr: {
    ending: 'exr',
    light: true,
    bytesOf: (engine, { width, height }, rate) => {
      const { planes } = engine.light(width, height);
      const channels = planes.map((values, i) => {
        return { name: 'RGB'[i]!, values, as: 'half' as const };
      });
      return exrOf({ width, height, channels, rate: rateAsFraction(rate) });
    },
  },
} as const satisfies Record<string, Still>;

export type StillFormat = keyof typeof STILLS;
