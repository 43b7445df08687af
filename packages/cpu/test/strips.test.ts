import { compilePiece, FRAME_PASSES } from '@vast-swarm/core/plan';
import { makeChoice, makePart, type Piece } from '@vast-swarm/core/piece';
import { pieceOfEveryKind, smallPiece } from '../../../tests/support/pieces';
import { swept } from '../../../tests/support/sweep';
import { CpuEngine } from '../src';

/** Frames that are drawn strip by strip, where memory asks for it, have the pixels of those that are not. */

const [WIDTH, HEIGHT] = [90, 101];

let whole: CpuEngine;
let strips: CpuEngine;
beforeAll(async () => {
  whole = await CpuEngine.create({ threads: 2 });
  // Room for nothing: a row of tiles at a time.
  strips = await CpuEngine.create({ threads: 2, drawingRoom: 0 });
});
afterAll(() => {
  whole.close();
  strips.close();
});

function drawnBy(engine: CpuEngine, piece: Piece, oversample: number): unknown[] {
  engine.setPlan(compilePiece(piece, { light: true, clear: true, passes: FRAME_PASSES }));
  engine.reset();
  while (engine.frame < 12) engine.step();
  const { pixels } = engine.draw(WIDTH, HEIGHT, oversample);
  const { planes, cover } = engine.light(WIDTH, HEIGHT);
  return [pixels, ...planes, cover, ...engine.layers.channels.map((c) => c.values)];
}

function same(piece: Piece, oversample: number): void {
  const [a, b] = [whole, strips].map((engine) => drawnBy(engine, piece, oversample));
  expect(b!.length).toBe(a!.length);
  a!.forEach((values, i) => {
    const [x, y] = [values, b![i]].map((v) => Buffer.from((v as Float32Array).buffer));
    expect(x!.equals(y!)).toBe(true);
  });
}

// What moves particles has no part in how they are drawn.
const drawn = pieceOfEveryKind().filter(
  ([name]) => !/^(emitter|launch|force|collider|signal)/.test(name),
);

test.each(swept(drawn, 0.2))('%s', (_, piece) => {
  same(piece, 2);
});

test.each([1, 2, 3, 4])('with a shutter and opaque things, drawn at %i times the size', (k) => {
  const piece = smallPiece((p) => {
    Object.assign(p.camera.dials, { shutter: 180, samples: 3 });
    const other = makePart('bodies', 'mesh', p.swarms[0]!.bodies);
    other.dials.mode = 'opaque';
    p.swarms[0]!.bodies.push(other, makePart('bodies', 'trail', p.swarms[0]!.bodies));
  });
  same(piece, k);
});

test('what is blurred from row to row is drawn as a whole', () => {
  const piece = smallPiece((p) => {
    p.camera = makeChoice('cameras', 'perspective');
    p.camera.dials.aperture = 0.2;
    const mesh = makePart('bodies', 'mesh', []);
    mesh.dials.mode = 'opaque';
    p.swarms[0]!.bodies = [mesh];
  });
  same(piece, 2);
});
