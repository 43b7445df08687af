import { compilePiece } from '@vast-swarm/core/plan';
import { makeChoice, makePart, type Piece } from '@vast-swarm/core/piece';
import { decode } from 'fast-png';
import { smallPiece } from '../../../tests/support/pieces';
import { encodeLight, type Light } from '@vast-swarm/core/formats';
import { CpuEngine } from '../src';

/** Frames without a backdrop: laid over any other one they are what the piece is on it. */

const [WIDTH, HEIGHT] = [96, 54];

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 2 });
});
afterAll(() => engine.close());

/** The light of a frame without a finish. */
function lightOf(piece: Piece, clear: boolean): Light {
  engine.setPlan(compilePiece(piece, { light: true, clear }));
  engine.reset();
  while (engine.frame < 20) engine.step();
  engine.draw(WIDTH, HEIGHT);
  return engine.light(WIDTH, HEIGHT);
}

const pieceOf = (mode: string, behind: string, shape = 'disc'): Piece =>
  smallPiece((p) => {
    p.finish = [];
    p.backdrop = makeChoice('backdrops', 'flat');
    p.backdrop.dials.colour = behind;
    p.swarms[0]!.bodies = [makePart('bodies', shape, [])];
    Object.assign(p.swarms[0]!.bodies[0]!.dials, { mode });
    Object.assign(p.swarms[0]!.dials, { colour: '#b0b0b0', opacity: 0.6, light: 0.5, size: 0.4 });
  });

/** Linear light of a channel of a backdrop's colour. */
const linear = (hex: string, channel: number): number => {
  const v = parseInt(hex.slice(1 + 2 * channel, 3 + 2 * channel), 16) / 255;
  return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
};

test.each([
  ['add', 'disc'],
  ['normal', 'disc'],
  ['multiply', 'disc'],
  ['screen', 'disc'],
  ['normal', 'square'],
  ['opaque', 'disc'],
])('what is drawn as %s (%s), laid over another backdrop, is what it is on it', (mode, shape) => {
  const bare = lightOf(pieceOf(mode, '#204060', shape), true);
  expect(bare.cover).not.toBeNull();
  for (const behind of ['#000000', '#ffffff', '#3366cc']) {
    const direct = lightOf(pieceOf(mode, behind, shape), false);
    expect(direct.cover).toBeNull();
    let worst = 0;
    bare.planes.forEach((plane, c) => {
      for (let i = 0; i < plane.length; i++) {
        const over = plane[i]! + (1 - bare.cover![i]!) * linear(behind, c);
        worst = Math.max(worst, Math.abs(over - direct.planes[c]![i]!));
      }
    });
    expect(worst).toBeLessThan(2e-3);
  }
});

test('light that is added covers nothing, and what is laid over covers as it is opaque', () => {
  const most = (mode: string): number =>
    Math.max(...lightOf(pieceOf(mode, '#000000'), true).cover!);
  expect(most('add')).toBeLessThan(1e-5);
  expect(most('normal')).toBeGreaterThan(0.55);
  expect(most('opaque')).toBeCloseTo(1, 5);
  // Nothing is there in the corner.
  expect(lightOf(pieceOf('normal', '#ffffff'), true).cover![0]).toBe(0);
});

test.each([8, 16] as const)(
  'a PNG of %i bits has colours that are not multiplied, and shows light that covers nothing',
  async (depth) => {
    const planes = [
      Float32Array.of(0.3, 0.2, 0, 0.5),
      Float32Array.of(0.15, 0.2, 0, 0.25),
      Float32Array.of(0.06, 0.2, 0, 0.1),
    ] as Light['planes'];
    const cover = Float32Array.of(0.6, 0, 0, 1);
    const png = decode(await encodeLight({ width: 2, height: 2, planes, cover }, depth), {
      checkCrc: true,
    });
    expect([png.channels, png.depth]).toEqual([4, depth]);
    const most = 2 ** depth - 1;
    const srgb = (v: number): number =>
      Math.round(most * (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055));
    const half = (v: number): number => Math.round(most * v);
    const pixels = [0, 1, 2, 3].map((i) => [...png.data.slice(4 * i, 4 * i + 4)]);
    expect(pixels[0]).toEqual([srgb(0.5), srgb(0.25), srgb(0.1), half(0.6)]);
    // Over black it is as bright as it was.
    expect(pixels[1]).toEqual([most, most, most, half(0.2)]);
    expect(pixels[2]).toEqual([0, 0, 0, 0]);
    expect(pixels[3]).toEqual([srgb(0.5), srgb(0.25), srgb(0.1), most]);
  },
);
