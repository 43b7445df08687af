import { compilePiece } from '@vast-swarm/core/plan';
import { makePart, type Piece } from '@vast-swarm/core/piece';
import { smallPiece } from '../../../tests/support/pieces';
import { CpuEngine } from '../src';

/** One engine after another piece, or after other dials: nothing of what was is in what is. */

const SIZE = [128, 72] as const;

function trailing(rate: number, trails: boolean): Piece {
  return smallPiece((p) => {
    const [swarm] = p.swarms;
    swarm!.dials.rate = rate;
    if (trails) swarm!.bodies.push(makePart('bodies', 'trail', swarm!.bodies));
  });
}

function pictureAfter(engine: CpuEngine, steps: number): Uint8ClampedArray {
  while (engine.frame < steps) engine.step();
  return engine.draw(...SIZE).pixels.slice();
}

test('trails that are taken away while the swarm grows are whole when they come again', async () => {
  const [engine, fresh] = [
    await CpuEngine.create({ threads: 2 }),
    await CpuEngine.create({ threads: 1 }),
  ];
  const grown = compilePiece(trailing(900, true));
  engine.setPlan(compilePiece(trailing(90, true)));
  engine.reset();
  pictureAfter(engine, 10);
  // Fewer states with more slots, and then all of them again.
  engine.setPlan(compilePiece(trailing(900, false)));
  engine.setPlan(grown);
  engine.reset();
  fresh.setPlan(grown);
  fresh.reset();
  for (const frame of [5, 20, 40]) {
    expect(pictureAfter(engine, frame)).toEqual(pictureAfter(fresh, frame));
    for (const name of grown.swarms[0]!.state) {
      const [one, other] = [engine, fresh].map((e) => e.state('motes', name));
      expect([frame, name, Buffer.compare(bytes(one!), bytes(other!))]).toEqual([frame, name, 0]);
    }
  }
  engine.close();
  fresh.close();
});

test('trails that were away begin with what is there when they come again', async () => {
  const [engine, fresh] = [
    await CpuEngine.create({ threads: 1 }),
    await CpuEngine.create({ threads: 1 }),
  ];
  const [without, within] = [compilePiece(trailing(900, false)), compilePiece(trailing(900, true))];
  // In the one they stood before, in the other they never did.
  engine.setPlan(within);
  engine.reset();
  pictureAfter(engine, 20);
  engine.setPlan(without);
  fresh.setPlan(without);
  fresh.reset();
  for (const e of [engine, fresh]) {
    pictureAfter(e, 30);
    e.setPlan(within);
  }
  expect(pictureAfter(engine, 33)).toEqual(pictureAfter(fresh, 33));
  engine.close();
  fresh.close();
});

const bytes = (values: Float32Array): Uint8Array =>
  new Uint8Array(values.buffer, values.byteOffset, values.byteLength).slice();
