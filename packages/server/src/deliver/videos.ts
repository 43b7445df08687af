/** Videos that ffmpeg writes: which codecs go into which file, and how each is asked for. */

export const QUALITIES = ['draft', 'good', 'best'] as const;
export type Quality = (typeof QUALITIES)[number];

interface Codec {
  /** The encoder's name in ffmpeg. */
  encoder: string;
  /** Pixels that are written, and those with a channel of what is covered, where there are some. */
  pixels: string;
  clear?: string;
  /** More than 8 bits for each colour, which the frames are given with then. */
  fine: boolean;
  /** What each quality means to the encoder. */
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
  const args = QUALITIES.map((quality, i) => [
    quality,
    ['-crf', String(values[i]), flag, efforts[i]!],
  ]);
  return Object.fromEntries(args) as Codec['by'];
}

export const CODECS = {
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
} as const satisfies Record<string, Codec>;

export type CodecName = keyof typeof CODECS;
export const codecOf = (name: CodecName): Codec => CODECS[name];

interface Video {
  /** The first one where none is asked for. */
  codecs: readonly [CodecName, ...CodecName[]];
  /** The encoder of its sound. */
  sound: readonly string[];
  more: readonly string[];
}

/** Whole ticks for frames of 24, 25, 30 and their multiples, over 1.001 too, and for samples of sound. */
const CLOCK = ['-movie_timescale', '240000'];

export const VIDEOS = {
  mp4: {
    codecs: ['h264', 'hevc', 'av1'],
    sound: ['-c:a', 'aac', '-b:a', '320k'],
    more: ['-movflags', '+faststart', ...CLOCK],
  },
  webm: { codecs: ['vp9', 'av1'], sound: ['-c:a', 'libopus', '-b:a', '256k'], more: [] },
  mov: {
    codecs: ['prores'],
    sound: ['-c:a', 'pcm_s24le'],
    more: CLOCK,
  },
} as const satisfies Record<string, Video>;

export type VideoFormat = keyof typeof VIDEOS;
export const videoOf = (format: VideoFormat): Video => VIDEOS[format];

export function isVideo(format: string): format is VideoFormat {
  return Object.hasOwn(VIDEOS, format);
}
