import 'fake-indexeddb/auto';
import { decode } from 'fast-png';
import { strFromU8, unzipSync } from 'fflate';
import { compilePiece } from '@vast-swarm/core/plan';
import { makeSwarm, parsePiece } from '@vast-swarm/core/piece';
import { type Frame } from '@vast-swarm/core/formats';
import { CpuEngine } from '@vast-swarm/cpu';
import { smallPiece } from '../../../tests/support/pieces';
import type { Job } from '../src/render/messages';
import {
  askedOf,
  problemsOf,
  startingSettings,
  type Format,
  type Settings,
} from '../src/formats/settings';
import type { Sink } from '../src/render/sink';
import { openSink } from '../src/render/sinks';

// What is kept of one is none of the next one's.
let renders = 0;

const job = (format: Format, folder?: unknown, more: Partial<Job> = {}): Job => ({
  ...startingSettings(smallPiece()),
  id: String(++renders),
  piece: smallPiece(),
  files: new Map(),
  first: 7,
  last: 9,
  width: 4,
  height: 3,
  format,
  ...(folder ? { folder: folder as FileSystemDirectoryHandle } : {}),
  ...more,
});

/** Gives a sink a frame, as from an engine that is there. */
const add = (sink: Sink, number: number): Promise<void> =>
  sink.add({ frame: number } as unknown as CpuEngine, frame(number));

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
  for (const number of [7, 8, 9]) await add(sink, number);
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
  await add(sink, 7);
  expect([...folder.files.keys()]).toEqual(['frame_0007.png']);
  await add(sink, 12_345);
  await sink.cancel();
  expect([...folder.files.keys()]).toEqual(['frame_0007.png', 'frame_12345.png']);
  expect(pixelsOf(folder.files.get('frame_12345.png')!)).toEqual(colours(12_345));
});

test('a frame for which there is no room is not there by half, and that is said', async () => {
  const folder = new Folder();
  folder.room = 1;
  const sink = await openSink(job('folder', folder));
  await add(sink, 7);
  await expect(add(sink, 8)).rejects.toThrow('full');
  expect([...folder.files.keys()]).toEqual(['frame_0007.png']);
  expect(await sink.finish()).toBeNull();
});

test('frames for a folder want one', async () => {
  await expect(openSink(job('folder'))).rejects.toThrow('No folder was chosen.');
});

test.each([
  ['net_%02d', 'net_07.png'],
  ['%d', '7.png'],
  ['shot 3 %06d', 'shot 3 000007.png'],
])('frames by the names %s are %s', async (name, file) => {
  const sink = await openSink(job('zip', null, { name, last: 7 }));
  await add(sink, 7);
  const blob = (await sink.finish())!;
  expect(Object.keys(unzipSync(new Uint8Array(await blob.arrayBuffer())))[0]).toBe(file);
});

describe('particles', () => {
  let engine: CpuEngine;
  const two = smallPiece((p) => {
    p.swarms.push({ ...makeSwarm('disc', []), id: 'other', name: 'Other / one' });
  });
  beforeAll(async () => {
    engine = await CpuEngine.create({ threads: 1 });
  });
  afterAll(() => {
    engine.close();
  });

  async function made(format: Format, more: Partial<Job>): Promise<Blob> {
    const plan = compilePiece(two);
    const sink = await openSink(job(format, null, { piece: two, ...more }));
    expect(sink.wants.drawn).toBe(false);
    engine.setPlan(plan);
    engine.reset();
    sink.begin?.(plan);
    while (engine.frame < 9) {
      engine.step();
      if (engine.frame >= 7) await sink.add(engine, null);
    }
    return (await sink.finish())!;
  }

  test('tables have a file for each swarm and frame', async () => {
    const blob = await made('csv', { name: 'p_%02d' });
    const files = unzipSync(new Uint8Array(await blob.arrayBuffer()));
    expect(Object.keys(files)).toEqual([
      'Motes/p_07.csv',
      'Other _ one/p_07.csv',
      'Motes/p_08.csv',
      'Other _ one/p_08.csv',
      'Motes/p_09.csv',
      'Other _ one/p_09.csv',
      'piece.swarm.json',
    ]);
    const rows = strFromU8(files['Motes/p_09.csv']!).trim().split('\n');
    expect(rows[0]).toMatch(/^id,age,life,px/);
    expect(rows.length - 1).toBe(engine.alive().get('motes'));
  });

  test('a table of one swarm stands by itself; PLY tells how many there are', async () => {
    const blob = await made('ply', { swarm: 'motes' });
    const files = unzipSync(new Uint8Array(await blob.arrayBuffer()));
    const [name] = Object.keys(files);
    expect(name).toBe('frame_0007.ply');
    expect(strFromU8(files['frame_0009.ply']!.subarray(0, 400))).toContain(
      `element vertex ${String(engine.alive().get('motes'))}`,
    );
  });

  test('a scene has all swarms, with a sample for each frame', async () => {
    const text = await (await made('usda', {})).text();
    expect(text).toContain('def Points "Motes"');
    expect(text).toContain('def Points "Other_one"');
    const samples = text.match(/^ {8}[789]: \[/gm)!;
    // Nine attributes of two swarms in three frames.
    expect(samples.length).toBe(9 * 2 * 3);
  });
});

test.each<[Partial<Settings>, keyof Settings | null]>([
  [{ format: 'mp4', width: 33 }, 'width'],
  [{ format: 'webm', width: 33 }, null],
  [{ format: 'usda', width: 33, height: 1 }, null],
  [{ format: 'zip', name: 'net' }, 'name'],
  [{ format: 'zip', name: '../net_%04d' }, 'name'],
  [{ format: 'mp4', name: 'net' }, null],
  [{ first: 5, last: 4 }, 'last'],
  [{ last: 90 }, 'last'],
  [{ shutter: 721 }, 'shutter'],
  [{ height: 17000 }, 'height'],
])('settings %j are wrong at %s', (change, field) => {
  const piece = smallPiece();
  const wrong = problemsOf({ ...startingSettings(piece), ...change }, piece);
  expect(Object.keys(wrong)).toEqual(field ? [field] : []);
});

test.each<[Partial<Settings>, boolean]>([
  [{ format: 'zip' }, true],
  [{ format: 'webm', codec: 'vp9' }, true],
  [{ format: 'webm', codec: 'av1' }, false],
  [{ format: 'mp4', codec: 'h264' }, false],
  [{ format: 'usda' }, false],
])('what was chosen to be clear is so in %j: %p', (change, clear) => {
  const piece = smallPiece();
  const settings = { ...startingSettings(piece), alpha: true, shutter: 180, ...change };
  const asked = askedOf(piece, settings);
  expect(asked.alpha).toBe(clear);
  expect(asked.piece.camera.dials.shutter).toBe(change.format === 'usda' ? 0 : 180);
});
