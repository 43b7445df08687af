import {
  CODECS,
  fileNameOf,
  isVideo,
  STILLS,
  videoOf,
  VIDEOS,
  type CodecName,
  type Quality,
  type StillFormat,
} from '@vast-swarm/core/formats';
import { setDial, type Piece } from '@vast-swarm/core/piece';
import type { FramePass } from '@vast-swarm/core/plan';

/** Formats of renders in the browser. */
export const FORMATS = {
  mp4: { title: `Video, ${VIDEOS.mp4.title}`, group: 'video', ending: 'mp4' },
  webm: { title: `Video, ${VIDEOS.webm.title}`, group: 'video', ending: 'webm' },
  zip: { title: 'Frames, one zip file', group: 'frames', ending: 'zip' },
  folder: { title: 'Frames, into a folder', group: 'frames', ending: '' },
  usda: { title: 'Particles, a USD scene', group: 'particles', ending: 'usda' },
  ply: { title: 'Particles, PLY tables', group: 'particles', ending: 'zip' },
  csv: { title: 'Particles, CSV tables', group: 'particles', ending: 'zip' },
} as const;
export type Format = keyof typeof FORMATS;
export const groupOf = (format: Format): (typeof FORMATS)[Format]['group'] => FORMATS[format].group;

/** Still formats by the names that are shown for them. */
export const stillTitles = (): Record<StillFormat, string> =>
  Object.fromEntries(Object.entries(STILLS).map(([name, { title }]) => [name, title])) as Record<
    StillFormat,
    string
  >;

export const LAYER_TITLES: Record<FramePass, string> = {
  depth: 'Depth',
  motion: 'Motion over the screen',
  swarm: 'Numbers of swarms',
  alone: 'Each swarm alone',
  unfinished: 'Light before the finish',
};

/** Codecs of a kind of video, by name; none for what is no video. */
export function codecsOf(format: Format): Partial<Record<CodecName, string>> {
  if (!isVideo(format)) return {};
  return Object.fromEntries(videoOf(format).codecs.map((codec) => [codec, CODECS[codec]]));
}

/** A codec by the name that browsers' encoders have for it; renders that were stored before have that name already. */
export const browserCodec = (codec: CodecName): 'avc' | 'hevc' | 'av1' | 'vp9' =>
  codec === 'h264' ? 'avc' : (codec as 'av1');

export interface Settings {
  format: Format;
  codec: CodecName;
  quality: Quality;
  still: StillFormat;
  /** Names of frames and tables, with %04d where the number stands. */
  name: string;
  alpha: boolean;
  /** Layers of OpenEXR beside the picture. */
  layers: readonly FramePass[];
  width: number;
  height: number;
  first: number;
  last: number;
  oversample: number;
  /** Degrees. */
  shutter: number;
  /** The swarm whose particles are written; all where it is empty. */
  swarm: string;
}

/** Inputs of the fields of a render. */
export interface FieldsProps {
  piece: Piece;
  settings: Settings;
  wrong: Partial<Record<keyof Settings, string>>;
  running: boolean;
  put: (part: Partial<Settings>) => void;
}

export function startingSettings(piece: Piece): Settings {
  const { width, height, length } = piece.frame;
  const { shutter } = piece.camera.dials;
  return {
    format: 'mp4',
    codec: 'h264',
    quality: 'best',
    still: 'png',
    name: 'frame_%04d',
    alpha: false,
    layers: [],
    width,
    height,
    first: 0,
    last: length - 1,
    oversample: 1,
    shutter: typeof shutter === 'number' ? shutter : 0,
    swarm: '',
  };
}

/** Whether frames without a backdrop can be written so. */
export function canBeClear({ format, codec }: Settings): boolean {
  return groupOf(format) === 'frames' || (isVideo(format) && videoOf(format).clear.includes(codec));
}

/** Letters that names of files cannot have on some systems. */
export const NOT_IN_NAMES = /[/\\:*?"<>|]/;

export function canHaveLayers({ format, still }: Settings): boolean {
  return groupOf(format) === 'frames' && STILLS[still].layers;
}

/** Faults of the settings, by field. */
export function problemsOf(s: Settings, piece: Piece): Partial<Record<keyof Settings, string>> {
  const out: Partial<Record<keyof Settings, string>> = {};
  const whole = (v: number, low: number, high: number): boolean =>
    Number.isInteger(v) && v >= low && v <= high;
  const last = piece.frame.length - 1;
  const group = groupOf(s.format);
  for (const side of ['width', 'height'] as const) {
    if (group === 'particles') continue;
    if (!whole(s[side], 16, 16384)) out[side] = '16 to 16384 pixels';
    else if (s.format === 'mp4' && s[side] % 2) out[side] = 'MP4 needs an even number';
  }
  if (!whole(s.first, 0, last)) out.first = `0 to ${String(last)}`;
  if (!whole(s.last, Math.max(0, s.first), last))
    out.last = `${String(s.first)} to ${String(last)}`;
  if (!(s.shutter >= 0 && s.shutter <= 720)) out.shutter = '0 to 720 degrees';
  if (group !== 'video' && s.format !== 'usda') {
    if (!/%0?\d?d/.test(s.name)) out.name = 'Needs %04d where the number stands';
    else if (NOT_IN_NAMES.test(s.name)) out.name = 'A plain name, without / and the like';
  }
  return out;
}

/**
 * The render that is asked for: the piece with the changes of the settings, and these without what the format cannot
 * have.
 */
export function askedOf(piece: Piece, settings: Settings): Settings & { piece: Piece } {
  const { shutter, format } = settings;
  const same = groupOf(format) === 'particles' || shutter === piece.camera.dials.shutter;
  return {
    ...settings,
    alpha: settings.alpha && canBeClear(settings),
    layers: canHaveLayers(settings) ? settings.layers : [],
    piece: same ? piece : setDial(piece, `camera.shutter=${String(shutter)}`),
  };
}

/** Ending of the files of frames and tables. */
export function endingOf({ format, still }: Pick<Settings, 'format' | 'still'>): string {
  return format === 'ply' || format === 'csv' ? format : STILLS[still].ending;
}

export const countOf = (frames: number): string =>
  `${String(frames)} ${frames === 1 ? 'frame' : 'frames'}`;

export const fileOf = (piece: Piece, { format }: Settings): string =>
  `${fileNameOf(piece.name)}.${FORMATS[format].ending}`;
