import { NightFilm, readNight, type NightRow } from '@vast-swarm/core/show';
import { TableError } from '@vast-swarm/core/formats';
import type { Piece } from '@vast-swarm/core/piece';
import { type Drawer } from '@vast-swarm/core/formats';
import { NO_LAYERS } from '@vast-swarm/cpu';
import { deliver, type Delivery } from '../deliver/delivery';
import { openFolder } from '../deliver/frameFolder';
import { targetOf } from '../deliver/target';
import { openVideo, wantsLight } from '../deliver/videoFile';
import { videoOf, type CodecName, type Quality } from '@vast-swarm/core/formats';
import { hashOf } from '../hashOf';
import { textOf } from '../load';
import { Progress } from '../progress';
import { Refused } from '../refused';
import { BUILD_HASH } from '../version';
import { NightDrawer } from './nightDrawer';
import { showIn, type ShowAtHand } from './showFolder';

export interface NightOptions {
  /** The record of the night, as it was saved. */
  played: string;
  size?: [number, number];
  rate: number;
  threads: number;
  codec?: CodecName;
  quality: Quality;
  json?: boolean;
  out: string;
}

async function rowsOf(file: string, { show, pieces }: ShowAtHand): Promise<NightRow[]> {
  const text = await textOf(file);
  try {
    return readNight(show, text, (id): Piece | null => pieces.get(id)?.piece ?? null);
  } catch (error) {
    if (error instanceof TableError) throw new Refused(`${file}: ${error.message}`);
    throw error;
  }
}

/** Stands for an engine where a picture is put together from those of several. */
const drawer = (frame: number): Drawer => ({
  frame,
  layers: NO_LAYERS,
  light: () => {
    throw new Error('a night has no light of its own');
  },
});

/** Renders a night as its output showed it: all stretches, with cross-fades, brightness, blackout and sound. */
export async function night(file: string, options: NightOptions): Promise<void> {
  const atHand = await showIn(file);
  const { show, pieces } = atHand;
  const rows = await rowsOf(options.played, atHand);
  const film = new NightFilm(show, rows, (id) => pieces.get(id)?.piece.frame ?? null);
  const [begin, end] = film.seconds;
  const count = Math.floor((end - begin) * options.rate);
  if (count < 1) throw new Refused(`${options.played}: nothing of this show was played in it.`);
  const { width, height } = show.size ?? { width: 1920, height: 1080 };
  const size = options.size ?? ([width, height] as const);
  const drawing = new NightDrawer(atHand, rows, size, options.threads);
  const delivery = await open(options, size, { film, drawing, count, rows });
  const progress = new Progress('frame', count, options.json);
  try {
    await deliver(delivery, async () => {
      for (let frame = 0; frame < count; frame++) {
        const picture = await drawing.picture(film.at(begin + frame / options.rate));
        await delivery.add(drawer(frame), picture);
        progress.one(frame);
      }
    });
  } finally {
    drawing.close();
  }
}

interface Night {
  film: NightFilm;
  drawing: NightDrawer;
  count: number;
  rows: readonly NightRow[];
}

async function open(
  { out, rate, codec: asked, quality }: NightOptions,
  [width, height]: readonly [number, number],
  { film, drawing, count, rows }: Night,
): Promise<Delivery> {
  const target = targetOf(out, undefined, count);
  const making = { width, height, oversample: 1, alpha: false, passes: [] };
  if (target.kind === 'video') {
    const codec = asked ?? videoOf(target.format).codecs[0];
    if (wantsLight({ codec, alpha: false })) {
      throw new Refused(`--codec ${codec}: a night has 8 bits; take h264 (.mp4) or vp9 (.webm).`);
    }
    const heard = drawing.heard(film);
    return openVideo({
      ...target,
      ...making,
      codec,
      quality,
      rate,
      heard,
      first: 0,
      last: count - 1,
    });
  }
  if (target.format !== 'png')
    throw new Refused(`--out ${out}: a night is written as PNG or as a video.`);
  const piece = hashOf(JSON.stringify(rows)).slice(0, 24);
  const made = {
    size: `${String(width)}x${String(height)}`,
    oversample: 1,
    alpha: false,
    format: 'png',
    layers: '',
    piece,
    program: BUILD_HASH,
  };
  const still = { format: 'png' as const, alpha: false, rate };
  return openFolder({ ...target, made, still, first: 0, last: count - 1, resume: false });
}
