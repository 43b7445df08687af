import { STILLS, type StillFormat } from '@vast-swarm/cpu';
import { basename, dirname, extname, join } from 'node:path';
import { Refused } from '../refused';
import { isVideo, VIDEOS, type VideoFormat } from './videos';

export type Format = StillFormat | VideoFormat;
export const FORMATS = [...Object.keys(STILLS), ...Object.keys(VIDEOS)] as Format[];

/** What a render is written to. */
export type Target =
  /** `pattern`: the names of the frames in their folder, with the place of the number as `%04d`. */
  | { kind: 'frames'; format: StillFormat; folder: string; pattern: string }
  | { kind: 'video'; format: VideoFormat; file: string };

/** The place of a frame's number in a name. */
export const NUMBER = /%0?\d*d/;

/** Endings of files that are not written here: a folder of such a name is not meant. */
const OTHERS = /\.(tiff?|dpx|jpe?g|gif|bmp|webp|avi|mkv|m4v|mpg|hevc)$/i;

const meant = new Map<string, Format>([
  ...Object.entries(STILLS).map(([format, { ending }]): [string, Format] => [
    `.${ending}`,
    format as Format,
  ]),
  ...Object.keys(VIDEOS).map((format): [string, Format] => [`.${format}`, format as Format]),
  ['.png', 'png'],
]);

/**
 * Where a render goes: a folder, a name in it with a place for the number, or a video file.
 *
 * @param asked the format; told by the name where none is
 * @throws Refused where name and format do not fit each other
 */
export function targetOf(out: string, asked: Format | undefined, frames: number): Target {
  const ending = extname(out).toLowerCase();
  if (asked === undefined && OTHERS.test(out)) {
    throw new Refused(`${out}: this is not written here; the formats are ${FORMATS.join(', ')}.`);
  }
  const format = asked ?? meant.get(ending) ?? 'png';
  if (isVideo(format)) {
    if (ending === `.${format}`) return { kind: 'video', format, file: out };
    throw new Refused(`--out ${out}: a video of this format is a file that ends in .${format}.`);
  }
  const own = STILLS[format].ending;
  if (!meant.has(ending) && !NUMBER.test(out)) {
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
