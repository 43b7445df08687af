import { unzipSync } from 'fflate';
import { encode } from 'fast-png';
import { readStock, type Clip } from '@vast-swarm/core/stock';
import { areFrames, framesFile } from '../src/data/frames';

/** A file as a folder that is chosen gives it. */
function inFolder(path: string, bytes: Uint8Array): File {
  const file = new File([bytes as Uint8Array<ArrayBuffer>], path.split('/').at(-1)!);
  Object.defineProperty(file, 'webkitRelativePath', { value: path });
  return file;
}

function grey(tone: number): Uint8Array {
  const data = new Uint8Array(4 * 6).fill(tone);
  return encode({ width: 3, height: 2, data, channels: 4, depth: 8 });
}

test('a folder of numbered frames is one clip, in the order of its numbers, with its gaps', async () => {
  const file = await framesFile([
    inFolder('walk/frame_0012.png', grey(120)),
    inFolder('walk/frame_0002.png', grey(20)),
    inFolder('walk/notes.txt', new Uint8Array(3)),
    inFolder('walk/.hidden_3.png', grey(1)),
    inFolder('walk/frame_0003.png', grey(30)),
  ]);
  expect(file.name).toBe('walk.zip');
  const bytes = new Uint8Array(await file.arrayBuffer());
  expect(Object.keys(unzipSync(bytes)).sort()).toEqual([
    'frame_0002.png',
    'frame_0003.png',
    'frame_0012.png',
  ]);
  const clip = (await readStock(file.name, bytes)) as Clip;
  expect([...clip.times].map((t) => Math.round(30 * t))).toEqual([0, 1, 10, 11]);
  const tones: number[] = [];
  for (let i = 0; i < 3; i++) tones.push((await clip.picture(i)).pixels[0]!);
  expect(tones).toEqual([20, 30, 120]);
});

test('frames that were chosen together are named by what they share; a folder of none says so', async () => {
  // Chosen one by one, they have no folder.
  const plain = (name: string): File => {
    const file = new File([], name);
    Object.defineProperty(file, 'webkitRelativePath', { value: '' });
    return file;
  };
  const chosen = [plain('dance-001.png'), plain('dance-002.png')];
  expect(areFrames(chosen)).toBe(true);
  expect(areFrames(chosen.slice(1))).toBe(false);
  expect(areFrames([...chosen, plain('a.mp4')])).toBe(false);
  expect((await framesFile(chosen)).name).toBe('dance.zip');
  await expect(framesFile([inFolder('docs/readme.txt', new Uint8Array(1))])).rejects.toThrow(
    'There is no PNG or JPEG in this folder.',
  );
});
