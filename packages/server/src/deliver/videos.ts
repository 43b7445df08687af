import type { CodecName, Quality, VideoFormat } from '@vast-swarm/core/formats';

/** How ffmpeg is asked for videos. */

interface Encoder {
  /** The encoder's name in ffmpeg. */
  encoder: string;
  /** Pixels that are written, and those with a channel of what is covered, where there are some. */
  pixels: string;
  clear?: string;
  /** More than 8 bits for each colour, which the frames are given with then. */
  fine: boolean;
  /** The encoder's arguments for each quality. */
  by: Record<Quality, readonly string[]>;
  /** For a number of bits a second in place of it. */
  steady: readonly string[];
}

/** By constant quality, at an effort. */
function rated(
  values: readonly [number, number, number],
  efforts: readonly string[],
  flag = '-preset',
) {
  const [draft, good, best] = values.map((value, i) => [
    ...['-crf', String(value), flag, efforts[i]!],
  ]) as [string[], string[], string[]];
  return { draft, good, best };
}

const ENCODERS: Readonly<Record<CodecName, Encoder>> = {
  h264: {
    encoder: 'libx264',
    pixels: 'yuv420p',
    fine: false,
    by: rated([26, 17, 12], ['veryfast', 'medium', 'slow']),
    steady: ['-preset', 'medium'],
  },
  hevc: {
    encoder: 'libx265',
    pixels: 'yuv420p10le',
    fine: true,
    by: rated([28, 19, 14], ['veryfast', 'medium', 'slow']),
    steady: ['-preset', 'medium'],
  },
  av1: {
    encoder: 'libsvtav1',
    pixels: 'yuv420p10le',
    fine: true,
    by: rated([45, 24, 14], ['10', '8', '5']),
    steady: ['-preset', '8'],
  },
  vp9: {
    encoder: 'libvpx-vp9',
    pixels: 'yuv420p',
    clear: 'yuva420p',
    fine: false,
    by: rated([40, 22, 14], ['6', '3', '1'], '-cpu-used'),
    steady: ['-cpu-used', '3'],
  },
  /** Each frame by itself, for those who work on. */
  prores: {
    encoder: 'prores_ks',
    pixels: 'yuv422p10le',
    clear: 'yuva444p10le',
    fine: true,
    by: { draft: ['-profile:v', '1'], good: ['-profile:v', '3'], best: ['-profile:v', '3'] },
    steady: ['-profile:v', '3'],
  },
};

export const encoderOf = (name: CodecName): Encoder => ENCODERS[name];

interface Wrapper {
  /** The encoder of its sound. */
  sound: readonly string[];
  more: readonly string[];
}

/** Whole ticks for frames of 24, 25, 30 and their multiples, over 1.001 too, and for samples of sound. */
const CLOCK = ['-movie_timescale', '240000'];

const WRAPPERS: Readonly<Record<VideoFormat, Wrapper>> = {
  mp4: {
    sound: ['-c:a', 'aac', '-b:a', '320k'],
    more: ['-movflags', '+faststart', ...CLOCK],
  },
  webm: { sound: ['-c:a', 'libopus', '-b:a', '256k'], more: [] },
  mov: { sound: ['-c:a', 'pcm_s24le'], more: CLOCK },
};

export const wrapperOf = (format: VideoFormat): Wrapper => WRAPPERS[format];
