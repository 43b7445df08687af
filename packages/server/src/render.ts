import { FRAME_PASSES, isDrawn, type FramePass, type Plan } from '@vast-swarm/core/plan';
import { setDial, type Piece } from '@vast-swarm/core/piece';
import type { StockFiles } from '@vast-swarm/core/stock';
import { type Frame } from '@vast-swarm/core/formats';
import { checkRoom, CpuEngine } from '@vast-swarm/cpu';
import { compiled } from './compiled';
import { deliver, type Delivery } from './deliver/delivery';
import { lightFor, openDelivery, type Asked } from './deliver/open';
import { targetOf, type Format, type Target } from './deliver/target';
import { STILLS, type CodecName, type Quality } from '@vast-swarm/core/formats';
import { framesOf } from './frames';
import { lookInto } from './look';
import { load, withStock, type WorkOptions } from './load';
import { Progress } from './progress';
import { Refused } from './refused';
import { tell } from './say';

export interface RenderOptions extends WorkOptions {
  frames?: [number, number];
  size?: [number, number];
  chunk?: [number, number];
  oversample: number;
  shutter?: number;
  loop?: boolean;
  format?: Format;
  codec?: CodecName;
  quality?: Quality;
  bits?: number;
  alpha?: boolean;
  /** true: all of them. */
  layers?: readonly FramePass[] | true;
  resume?: boolean;
  json?: boolean;
  /** Where a small picture of the latest frame goes. */
  look?: string;
  out: string;
}

/** @throws Refused where options do not go together */
function checkTogether(options: RenderOptions, { kind, format }: Target): void {
  const video = kind === 'video';
  const needs = Object.entries({ codec: true, quality: true, bits: true, resume: false });
  for (const [name, forVideo] of needs) {
    if (options[name as 'codec'] === undefined || forVideo === video) continue;
    const what = video ? 'goes on with frames; a video is made in one go' : 'is for videos';
    throw new Refused(`--${name}: this ${what}, and the format is ${format}.`);
  }
  if (options.layers && !(kind === 'frames' && STILLS[format].layers)) {
    throw new Refused(`--layers: only OpenEXR has them, and the format is ${format}.`);
  }
  if (options.oversample > 4) throw new Refused('--oversample: 1 to 4');
}

/** The stretch of frames that is this one's of several that are as long. */
function chunkOf([first, last]: [number, number], chunk?: [number, number]): [number, number] {
  if (!chunk) return [first, last];
  const [which, of] = chunk;
  const count = last - first + 1;
  if (of > count) {
    throw new Refused(`--chunk ${which}/${of}: there are only ${String(count)} frames.`);
  }
  const begin = (k: number): number => first + Math.floor((k * count) / of);
  return [begin(which - 1), begin(which) - 1];
}

/** @throws Refused where frames of this size are not made */
function sizeOf({ frame }: Piece, asked?: [number, number]): [number, number] {
  const [width, height] = asked ?? [frame.width, frame.height];
  if (Math.min(width, height) < 16 || Math.max(width, height) > 16384) {
    throw new Refused('--size: each side has 16 to 16384 pixels');
  }
  return [width, height];
}

/** A render that is made ready: what it is of, and how its frames are made. */
export interface Prepared {
  work: { piece: Piece; files: StockFiles; first: number; last: number };
  plan: Plan;
  target: Target;
  asked: Asked;
}

/** @throws Refused, or PieceError, that says what is wrong with the piece or with what is asked */
export async function prepare(file: string, options: RenderOptions): Promise<Prepared> {
  const { piece: given, files } = await withStock(file, await load(file, options));
  const sets = [
    ...(options.shutter === undefined ? [] : [`camera.shutter=${String(options.shutter)}`]),
    ...(options.loop ? ['frame.loop=true'] : []),
  ];
  const piece = sets.reduce(setDial, given);
  const [first, last] = chunkOf(framesOf(piece, options.frames), options.chunk);
  const [width, height] = sizeOf(piece, options.size);
  const target = targetOf(options.out, options.format, last - first + 1);
  checkTogether(options, target);
  const { oversample, alpha = false, quality = 'good', resume = false } = options;
  const passes = options.layers === true ? FRAME_PASSES : (options.layers ?? []);
  const asked: Asked = { ...options, width, height, oversample, alpha, passes, quality, resume };
  const work = { piece, files, first, last };
  const light = lightFor(target, asked);
  const plan = compiled(piece, { files, light, clear: alpha, passes });
  checkRoom(plan, { width, height, oversample });
  return { work, plan, target, asked };
}

/**
 * Steps an engine from where it stands to the last frame that is wanted, and delivers those on the way; each is packed and
 * written while the next one is made.
 *
 * @param until a frame that is gone to in any case
 * @param delivered is told of each
 */
export async function makeFrames(
  engine: CpuEngine,
  { plan, asked: { width, height, oversample } }: Prepared,
  wanted: readonly number[],
  { until = -Infinity, delivery, drawn: seen, delivered }: Frames,
): Promise<void> {
  const [first = Infinity, all] = [wanted[0], new Set(wanted)];
  const end = Math.max(wanted.at(-1) ?? -Infinity, until);
  let writing = Promise.resolve();
  while (engine.frame < end) {
    await engine.ready();
    engine.step();
    const isWanted = all.has(engine.frame);
    if (!isWanted && !(plan.finish.remembers && isDrawn(plan, engine.frame, first))) continue;
    const drawn = engine.draw(width, height, oversample);
    if (!isWanted) continue;
    await writing;
    seen?.(drawn);
    const { frame } = engine;
    writing = delivery.add(engine, drawn).then(() => delivered(frame));
    writing.catch(() => undefined);
  }
  await writing;
}

interface Frames {
  until?: number;
  delivery: Delivery;
  drawn?: ((frame: Frame) => void) | undefined;
  delivered: (frame: number) => void | Promise<void>;
}

export async function render(file: string, options: RenderOptions): Promise<void> {
  const prepared = await prepare(file, options);
  const { work, plan, target, asked } = prepared;
  for (const { message } of plan.notices) tell(`note: ${message}`);
  const delivery = await openDelivery(target, asked, work);
  await deliver(delivery, async () => {
    const engine = await CpuEngine.create({ threads: options.threads, large: true });
    try {
      engine.setPlan(plan);
      const wanted = framesLeft(delivery, work.first, work.last);
      const progress = new Progress('frame', wanted.length, options.json);
      const drawn = options.look === undefined ? undefined : lookInto(options.look);
      await makeFrames(engine, prepared, wanted, {
        delivery,
        drawn,
        delivered: (frame) => {
          progress.one(frame);
        },
      });
    } finally {
      engine.close();
    }
  });
}

function framesLeft(delivery: Delivery, first: number, last: number): number[] {
  const all = Array.from({ length: last - first + 1 }, (_, i) => first + i);
  return all.filter((frame) => !delivery.has(frame));
}
