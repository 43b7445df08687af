/** Kinds of video files, and the codecs that go into them; who writes them adds how, see `deliver/videos.ts` of the server. */

/** Codecs by their names in orders and on the command line, with those on screen. */
export const CODECS = {
  h264: 'H.264',
  hevc: 'HEVC',
  av1: 'AV1',
  vp9: 'VP9',
  prores: 'ProRes',
} as const;
export type CodecName = keyof typeof CODECS;

interface Video {
  /** On screen. */
  title: string;
  /** The first one where none is asked for. */
  codecs: readonly [CodecName, ...CodecName[]];
  /** Codecs that keep what bodies cover, without a backdrop. */
  clear: readonly CodecName[];
}

/** Video formats by their names, which are the endings of their files. */
export const VIDEOS = {
  mp4: { title: 'MP4', codecs: ['h264', 'hevc', 'av1'], clear: [] },
  webm: { title: 'WebM', codecs: ['vp9', 'av1'], clear: ['vp9'] },
  mov: { title: 'MOV', codecs: ['prores'], clear: ['prores'] },
} as const satisfies Record<string, Video>;

export type VideoFormat = keyof typeof VIDEOS;
export const videoOf = (format: VideoFormat): Video => VIDEOS[format];

export function isVideo(format: string): format is VideoFormat {
  return Object.hasOwn(VIDEOS, format);
}

/** What a video is made as. */
export interface VideoSettings {
  format: VideoFormat;
  codec: CodecName;
  alpha: boolean;
  width: number;
  height: number;
}

/** The setting that a video cannot have beside the others; null where all go together. */
export function unfitIn({
  format,
  codec,
  alpha,
  width,
  height,
}: VideoSettings): 'codec' | 'alpha' | 'width' | 'height' | null {
  const { codecs, clear } = videoOf(format);
  if (!codecs.includes(codec)) return 'codec';
  if (alpha && !clear.includes(codec)) return 'alpha';
  // Its colours stand for two pixels each way.
  if (width % 2) return 'width';
  return height % 2 ? 'height' : null;
}

/** Qualities of a video: to look at soon, to show, to work on. */
export const QUALITIES = { draft: 'Draft', good: 'Good', best: 'Best' } as const;
export type Quality = keyof typeof QUALITIES;
