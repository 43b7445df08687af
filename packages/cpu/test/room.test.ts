import { compilePiece } from '@vast-swarm/core/plan';
import { DEMO_SHOW } from '@vast-swarm/core/demo';
import { makePart, type Piece } from '@vast-swarm/core/piece';
import { smallPiece } from '../../../tests/support/pieces';
import { swept } from '../../../tests/support/sweep';
import { checkRoom, CpuEngine, MemoryFull, planesBytes } from '../src';

/** What frames take of the memory is told before they are made: against what they take. */

const blurry = smallPiece((p) => {
  p.finish = ['feedback', 'blur', 'bloom'].map((kind) => makePart('finish', kind, []));
  p.camera.dials.shutter = 180;
  p.camera.dials.aperture = 0.1;
  const mesh = makePart('bodies', 'mesh', p.swarms[0]!.bodies);
  mesh.dials.mode = 'opaque';
  p.swarms[0]!.bodies.push(mesh);
});
const pieces: readonly (readonly [string, Piece])[] = [
  ...DEMO_SHOW.pieces.map(({ piece }): [string, Piece] => [piece.name, piece]),
  ['Blurry', blurry],
];

test.each(swept(pieces, 0.35))(
  '%s takes of the memory what is told of it',
  async (_, piece) => {
    for (const drawingRoom of [2 ** 30, 2 ** 21]) {
      const engine = await CpuEngine.create({ threads: 2, drawingRoom });
      const plan = compilePiece(piece);
      engine.setPlan(plan);
      for (let i = 0; i < 2; i++) {
        await engine.ready();
        engine.step();
      }
      const told = (width: number, height: number, oversample: number): number =>
        planesBytes(plan, { width, height, oversample, moments: Infinity }, drawingRoom);
      engine.draw(64, 36, 1);
      const [before, toldBefore] = [engine.memoryBytes, told(64, 36, 1)];
      engine.draw(640, 360, 2);
      const taken = engine.memoryBytes - before;
      const wanted = told(640, 360, 2) - toldBefore;
      engine.close();
      // Lists of tiles and of what is in them come on top; what a finish has before it remembers is wanted once.
      expect(wanted / taken).toBeGreaterThan(0.8);
      expect(wanted / taken).toBeLessThan(1.25);
    }
  },
  60_000,
);

test('a size over the memory is refused with what fits, which is not', () => {
  const plan = compilePiece(smallPiece());
  const of = (width: number, height: number, oversample = 1): (() => void) => {
    return () => {
      checkRoom(plan, { width, height, oversample });
    };
  };
  expect(of(16384, 8640)).not.toThrow();
  expect(of(16384, 2160, 4)).not.toThrow();
  expect(of(16384, 16384)).toThrow(MemoryFull);
  expect(of(16384, 16384)).toThrow(/Frames of 16384 × 16384 pixels would take \d\.\d GB/);
  let message = '';
  try {
    of(16384, 16384)();
  } catch (error) {
    message = (error as Error).message;
  }
  const [width, height] = /(\d+) × (\d+) fits/.exec(message)!.slice(1).map(Number);
  expect(width).toBe(height);
  expect(width).toBeGreaterThan(8192);
  expect(of(width!, height!)).not.toThrow();
  expect(of(width! + 400, height! + 400)).toThrow(MemoryFull);
});
