import { compilePiece, motionKeys } from '@vast-swarm/core/plan';
import { makePart, parsePiece, pieceText, setDial, type Piece } from '@vast-swarm/core/piece';
import { tidePiece } from '../../../tests/support/toys';
import { CpuEngine } from '../src';

/** A section from outside that simulates: what docs/extend.md promises of one that says `pushes`. */

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 2 });
});
afterAll(() => engine.close());

/** Heights of all particles at the end of a frame, in metres. */
function heights(piece: Piece, frame: number, on = engine): number[] {
  on.setPlan(compilePiece(piece));
  on.reset();
  while (on.frame < frame) on.step();
  return [...on.state('motes', 'py')].slice(0, 40);
}

/** How far each was lifted by the end of a frame. */
function lifted(piece: Piece, frame: number): number[] {
  const still = heights(
    tidePiece(({ influence }, [tide]) => (influence[tide!.id] = { motes: 0 })),
    frame,
  );
  return heights(piece, frame).map((y, i) => y - still[i]!);
}

test.each([24, 30, 60])(
  'at %d frames a second its cells count, and lift by what they keep',
  (rate) => {
    const rise = lifted(
      tidePiece((p) => (p.frame.rate = rate)),
      rate,
    );
    // All 400 are counted in each frame behind that of their birth: a push of 0.4 more metres a second squared each time.
    let [height, speed] = [0, 0];
    for (let frame = 1; frame <= rate; frame++) {
      const push = 0.001 * 400 * frame;
      height += speed / rate + push / rate ** 2 / 2;
      speed += push / rate;
    }
    for (const y of rise) expect(y).toBeCloseTo(height, 3);
  },
);

test('it is felt as much as the influence grid says, and not when it is off', () => {
  const half = lifted(
    tidePiece(({ influence }, [tide]) => (influence[tide!.id] = { motes: 0.5 })),
    30,
  );
  const whole = lifted(tidePiece(), 30);
  half.forEach((y, i) => expect(y).toBeCloseTo(whole[i]! / 2, 4));
  expect(
    lifted(
      tidePiece((_, [tide]) => (tide!.on = false)),
      30,
    ),
  ).toEqual(whole.map(() => 0));
});

test('on any number of threads, and from a snapshot, it is the same to the bit', async () => {
  const whole = heights(tidePiece(), 40);
  engine.reset();
  while (engine.frame < 20) engine.step();
  const snapshot = engine.save();
  while (engine.frame < 30) engine.step();
  engine.restore(snapshot);
  while (engine.frame < 40) engine.step();
  expect([...engine.state('motes', 'py')].slice(0, 40)).toEqual(whole);
  const alone = await CpuEngine.create({ threads: 1 });
  expect(heights(tidePiece(), 40, alone)).toEqual(whole);
  alone.close();
});

test('a medium feels it as a force of the same arithmetic', () => {
  const piece = tidePiece((p) => {
    const fluid = makePart('media', 'fluid', []);
    Object.assign(fluid.dials, { lines: 64 });
    p.media.push(fluid);
  });
  const without = structuredClone(piece);
  without.influence = { toyTide: { fluid: 0 } };
  const [felt, unfelt] = [piece, without].map((p) => {
    heights(p, 20);
    return engine.draw(64, 36).pixels;
  });
  expect(felt).not.toEqual(unfelt);
});

test('motion hangs on its dials, which have addresses; its file is read as it is written', () => {
  const piece = tidePiece();
  const stronger = setDial(piece, 'toyTide.strength=0.002');
  const key = (p: Piece) => motionKeys(p, new Map()).get('motes');
  expect(key(stronger)).not.toBe(key(piece));
  expect(parsePiece(pieceText(stronger))).toEqual(stronger);
});
