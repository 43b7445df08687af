import {
  formatNames,
  isVideo,
  STILLS,
  type StillFormat,
  type VideoFormat,
} from '@vast-swarm/core/formats';
import { basename, dirname, extname, join } from 'node:path';
import { Refused } from '../refused';

export type Format = StillFormat | VideoFormat;

/** The target of a render: frames in a folder, or a video. */
export type Target =
  /** `pattern`: the names of the frames in their folder, with the place of the number as `%04d`. */
  | { kind: 'frames'; format: StillFormat; folder: string; pattern: string }
  | { kind: 'video'; format: VideoFormat; file: string };

/** The place of a frame's number in a name. */
export const NUMBER = /%0?\d*d/;

/** Endings of files that are not written here: a folder of such a name is not meant. */
const OTHERS = /\.(tiff?|dpx|jpe?g|gif|bmp|webp|avi|mkv|m4v|mpg|hevc)$/i;

/** The format that an ending means: the first one of those that share it. */
function meant(ending: string): Format | undefined {
  return formatNames().find((format) => `.${endingOf(format)}` === ending);
}

const endingOf = (format: Format): string => (isVideo(format) ? format : STILLS[format].ending);

/**
 * Where a render goes: a folder, a name in it with a place for the number, or a video file.
 *
 * @param asked the format; told by the name where none is
 * @throws Refused where name and format do not fit each other
 */
export function targetOf(out: string, asked: Format | undefined, frames: number): Target {
  const ending = extname(out).toLowerCase();
  if (asked === undefined && !meant(ending) && OTHERS.test(out)) {
    throw new Refused(
      `${out}: this is not written here; the formats are ${formatNames().join(', ')}.`,
    );
  }
  const format = asked ?? meant(ending) ?? 'png';
  if (isVideo(format)) {
    if (ending === `.${format}`) return { kind: 'video', format, file: out };
    throw new Refused(`--out ${out}: a video of this format is a file that ends in .${format}.`);
  }
  const own = STILLS[format].ending;
  if (!meant(ending) && !NUMBER.test(out)) {
    return { kind: 'frames', format, folder: out, pattern: `frame_%04d.${own}` };
  }
  if (ending !== `.${own}`) {
    throw new Refused(`--out ${out}: frames of this format end in .${own}.`);
  }
  if (!NUMBER.test(basename(out)) && frames > 1) {
    const better = join(dirname(out), `${basename(out, extname(out))}_%04d.${own}`);
    throw new Refused(
      `--out ${out}: ${String(frames)} frames need a place for their number in the name, as ${better}.`,
    );
  }
  return { kind: 'frames', format, folder: dirname(out), pattern: basename(out) };
}
