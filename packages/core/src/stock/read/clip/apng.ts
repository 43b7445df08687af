import { StockError } from '../error';
import type { Chunk } from '../../pngFile';
import { chunksOf, headOf, pixelsOf, type Head } from '../png';
import { laidOver, type Layer } from './laidOver';
import { timesOf, type OpenClip } from './opened';

/** Disposal of a picture, by its `dispose_op` (PNG, third edition, 11.3.6.2). */
const LEAVES = ['itself', 'nothing', 'what was before'] as const;

interface Frame extends Layer {
  seconds: number;
  /** Whether it is mixed with what is there by its alpha, or takes its place. */
  mixed: boolean;
  packed: Uint8Array[];
}

function frameOf(name: string, { data }: Chunk, { width, height }: Head): Frame {
  if (data.length !== 26) throw new StockError(name, 'a frame of it has a head that is cut off');
  const view = new DataView(data.buffer, data.byteOffset, data.length);
  const at = (offset: number): number => view.getUint32(offset);
  const place = { width: at(4), height: at(8), x: at(12), y: at(16) };
  const inside = place.x + place.width <= width && place.y + place.height <= height;
  if (!inside || place.width === 0 || place.height === 0) {
    throw new StockError(name, 'a frame of it lies outside of its picture');
  }
  // A length of 0 is as short as can be; browsers make a tenth of a second of it.
  const seconds = view.getUint16(20) / (view.getUint16(22) || 100) || 0.1;
  const leaves = LEAVES[view.getUint8(24)] ?? 'itself';
  return { ...place, leaves, seconds, mixed: view.getUint8(25) === 1, packed: [] };
}

/** The frames; the picture that stands there for others is one where it has a head of its own. */
function framesOf(name: string, chunks: readonly Chunk[], head: Head): Frame[] {
  const frames: Frame[] = [];
  for (const chunk of chunks) {
    if (chunk.type === 'fcTL') frames.push(frameOf(name, chunk, head));
    else if (chunk.type === 'IDAT') frames[0]?.packed.push(chunk.data);
    // The number of the chunk comes first.
    else if (chunk.type === 'fdAT') frames.at(-1)?.packed.push(chunk.data.subarray(4));
  }
  if (frames.length === 0) throw new StockError(name, 'there is no frame in it');
  return frames;
}

/** A frame's own head: that of the picture, with its size. */
function ownHead(head: Head, { width, height }: Frame): Head {
  const data = Uint8Array.from(head.data);
  const view = new DataView(data.buffer);
  view.setUint32(0, width);
  view.setUint32(4, height);
  return { ...head, width, height, data };
}

/** An animated PNG: its frames are laid over each other as each says. */
export function openApng(name: string, bytes: Uint8Array): OpenClip {
  const chunks = chunksOf(name, bytes);
  const head = headOf(name, chunks);
  const frames = framesOf(name, chunks, head);
  const { width, height } = head;
  const picture = laidOver(width, height, frames, (index, canvas) => {
    const frame = frames[index]!;
    const own = pixelsOf(name, ownHead(head, frame), chunks, frame.packed);
    for (let row = 0; row < frame.height; row++) {
      for (let x = 0; x < frame.width; x++) {
        const from = 4 * (row * frame.width + x);
        const to = 4 * ((frame.y + row) * width + frame.x + x);
        if (frame.mixed) mix(own, from, canvas, to);
        else for (let k = 0; k < 4; k++) canvas[to + k] = own[from + k]!;
      }
    }
  });
  return { width, height, times: timesOf(frames.map((f) => f.seconds)), picture };
}

/** A pixel over another, both with alpha that is not multiplied in (13.16). */
function mix(over: Uint8Array, from: number, under: Uint8Array, to: number): void {
  const [a, b] = [over[from + 3]! / 255, under[to + 3]! / 255];
  const cover = a + b * (1 - a);
  for (let k = 0; k < 3 && cover > 0; k++) {
    const colour = (over[from + k]! * a + under[to + k]! * b * (1 - a)) / cover;
    under[to + k] = Math.round(colour);
  }
  under[to + 3] = Math.round(255 * cover);
}
