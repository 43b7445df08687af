import { decode } from 'fast-png';
import { strFromU8, unzipSync } from 'fflate';
import { parsePiece } from '@vast-swarm/core';
import type { Frame } from '@vast-swarm/cpu';
import { smallPiece } from '../../../tests/support/pieces';
import type { Format, Job } from '../src/render/messages';
import { openSink } from '../src/render/sinks';

const job = (format: Format, folder?: unknown): Job => ({
  ...{ piece: smallPiece(), files: new Map(), first: 7, last: 9 },
  ...{ width: 4, height: 3, oversample: 1, format },
  ...(folder ? { folder: folder as FileSystemDirectoryHandle } : {}),
});

/** A frame whose pixels tell which it is. */
function frame(number: number): Frame {
  const pixels = new Uint8ClampedArray(4 * 12);
  for (let i = 0; i < pixels.length; i++)
    pixels[i] = i % 4 === 3 ? 255 : (31 * number + 7 * i) % 256;
  return { width: 4, height: 3, pixels };
}

/** Red, green and blue of a frame. */
const colours = (number: number): number[] => [...frame(number).pixels].filter((_, i) => i % 4 < 3);

const pixelsOf = (png: Uint8Array): number[] => [...decode(png).data];

test('a zip has each frame under its number, and the piece it was made of', async () => {
  const sink = await openSink(job('zip'));
  for (const number of [7, 8, 9]) await sink.add(frame(number), number);
  const blob = (await sink.finish())!;
  expect(blob.type).toBe('application/zip');
  const files = unzipSync(new Uint8Array(await blob.arrayBuffer()));
  expect(Object.keys(files)).toEqual([
    'frame_0007.png',
    'frame_0008.png',
    'frame_0009.png',
    'piece.swarm.json',
  ]);
  for (const number of [7, 8, 9]) {
    expect(pixelsOf(files[`frame_000${String(number)}.png`]!)).toEqual(colours(number));
  }
  expect(parsePiece(strFromU8(files['piece.swarm.json']!))).toEqual(smallPiece());
});

/** A folder of the browser's file system: what is written is there when it is closed. */
class Folder {
  readonly files = new Map<string, Uint8Array>();
  /** How many more writes there is room for. */
  room = Infinity;

  getFileHandle(name: string, options: { create: boolean }) {
    expect(options).toEqual({ create: true });
    const written: Uint8Array[] = [];
    return Promise.resolve({
      createWritable: () =>
        Promise.resolve({
          write: (bytes: Uint8Array) => {
            if (this.room-- <= 0)
              return Promise.reject(new DOMException('full', 'QuotaExceededError'));
            written.push(bytes);
            return Promise.resolve();
          },
          close: () => {
            this.files.set(name, Uint8Array.from(written.flatMap((b) => [...b])));
            return Promise.resolve();
          },
        }),
    });
  }
}

test('a folder has each frame as soon as it is added, and keeps them when the render is cancelled', async () => {
  const folder = new Folder();
  const sink = await openSink(job('folder', folder));
  await sink.add(frame(7), 7);
  expect([...folder.files.keys()]).toEqual(['frame_0007.png']);
  await sink.add(frame(12_345), 12_345);
  await sink.cancel();
  expect([...folder.files.keys()]).toEqual(['frame_0007.png', 'frame_12345.png']);
  expect(pixelsOf(folder.files.get('frame_12345.png')!)).toEqual(colours(12_345));
});

test('a frame for which there is no room is not there by half, and that is said', async () => {
  const folder = new Folder();
  folder.room = 1;
  const sink = await openSink(job('folder', folder));
  await sink.add(frame(7), 7);
  await expect(sink.add(frame(8), 8)).rejects.toThrow('full');
  expect([...folder.files.keys()]).toEqual(['frame_0007.png']);
  expect(await sink.finish()).toBeNull();
});

test('frames for a folder want one', async () => {
  await expect(openSink(job('folder'))).rejects.toThrow('No folder was chosen.');
});
