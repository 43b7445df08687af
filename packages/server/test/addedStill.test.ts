import '@vast-swarm/core/content';
import {
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  truncateSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { addStill, formatNames, orderSchema } from '@vast-swarm/core/formats';
import { pieceText } from '@vast-swarm/core/piece';
import { readBy } from '../../../tests/support/readBy';
import { smallOrder } from '../../../tests/support/orders';
import { smallPiece } from '../../../tests/support/pieces';
import { targetOf, type Format } from '../src/deliver/target';
import { render } from '../src/render';

/** A still format that is added from outside: the plain pictures of Netpbm, which have comments for what they say of themselves. */

let dir: string;
beforeAll(() => {
  dir = mkdtempSync(join(tmpdir(), 'vast-swarm-'));
  addStill('plain', {
    title: 'Plain pixels',
    ending: 'ppm',
    fine: false,
    layers: false,
    encode({ frame: { width, height, pixels }, notes }) {
      const said = Object.values(notes).map((note) => `# ${note}\n`);
      const head = Buffer.from(`P6\n${said.join('')}${String(width)} ${String(height)}\n255\n`);
      const colours = pixels.filter((_, i) => i % 4 !== 3);
      return Promise.resolve(Uint8Array.from([...head, ...colours]));
    },
  });
});
afterAll(() => {
  rmSync(dir, { recursive: true });
});

const PLAIN = 'plain' as Format;

test('it is found by its name and by the ending of its files, beside those that are there', () => {
  expect(formatNames()).toEqual(expect.arrayContaining(['png', 'exr', 'mp4', PLAIN]));
  expect(targetOf('out/a_%04d.ppm', undefined, 9)).toMatchObject({ format: PLAIN });
  expect(targetOf('out', PLAIN, 9)).toMatchObject({ pattern: 'frame_%04d.ppm' });
  expect(targetOf('a_%d.png', undefined, 9)).toMatchObject({ format: 'png' });
  expect(() => targetOf('out/a_%04d.png', PLAIN, 9)).toThrow(/end in \.ppm/);
});

test('orders to the server may ask for it, and for nothing that is not there', () => {
  const order = smallOrder({ format: PLAIN, last: 1, frames: 'a_%04d' });
  expect(orderSchema.parse(order)).toEqual(order);
  const { error } = orderSchema.safeParse({ ...order, format: 'toString' });
  expect(error!.issues[0]!.message).toMatch(/png, png16, exr, plain, mp4/);
});

test('frames are written as it, are those of PNG to another reader, and a render goes on with them', async () => {
  const piece = join(dir, 'small.json');
  writeFileSync(piece, pieceText(smallPiece((p) => (p.frame.length = 6))));
  const usual = { set: [], oversample: 1, threads: 1 };
  const out = (name: string): string => join(dir, name);
  await render(piece, { ...usual, out: out('plain'), format: PLAIN });
  await render(piece, { ...usual, out: out('png') });
  for (let i = 0; i < 6; i++) {
    const there = readBy(join(out('plain'), `frame_000${String(i)}.ppm`), 'rgb24');
    expect(there.length).toBe(128 * 72 * 3);
    expect(there.equals(readBy(join(out('png'), `frame_000${String(i)}.png`), 'rgb24'))).toBe(true);
  }
  // One is cut off, as by an end in the middle; the others are kept as they are.
  const cut = join(out('plain'), 'frame_0002.ppm');
  const whole = readFileSync(cut);
  truncateSync(cut, 5000);
  await render(piece, { ...usual, out: out('plain'), format: PLAIN, resume: true });
  expect(readFileSync(cut).equals(whole)).toBe(true);
  expect(readdirSync(out('plain')).filter((n) => n.endsWith('.ppm'))).toHaveLength(6);
});
