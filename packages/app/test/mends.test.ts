import { census, type Census } from '@vast-swarm/core/play';
import { compilePiece } from '@vast-swarm/core/plan';
import { makeChoice, type Piece } from '@vast-swarm/core/piece';
import { CpuEngine } from '@vast-swarm/cpu';
import { smallPiece } from '../../../tests/support/pieces';
import { pieceActions, pieceReducer } from '../src/store/pieceSlice';
import { diagnose, type Cause } from '../src/doctor/diagnose';

/** What is offered where nothing is seen does what it says: particles are seen in the end, and each step brings more. */

const FRAME = 45;

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 1 });
});
afterAll(() => engine.close());

/** What is counted of the first swarm at the frame, and what is said of it. */
async function looked(piece: Piece): Promise<{ counts: Census; causes: Cause[] }> {
  const plan = compilePiece(piece);
  engine.setPlan(plan);
  engine.reset();
  while (engine.frame < FRAME) engine.step();
  const [swarm] = piece.swarms;
  const none: Census = { born: 0, alive: 0, inFrame: 0, largeEnough: 0, brightEnough: 0 };
  const there = plan.swarms.some((s) => s.id === swarm!.id);
  const pose = plan.camera((FRAME + 1) / piece.frame.rate);
  const counts = there
    ? census(engine.born(swarm!.id), await engine.particles(swarm!.id), pose, piece.frame)
    : none;
  const causes = diagnose(piece, swarm!, counts, { frame: FRAME, exact: true }, plan.notices);
  return { counts, causes };
}

/** The piece with what a cause offers, as the button does it. */
function mended(piece: Piece, { mend }: Cause): Piece {
  const opened = pieceReducer(undefined, pieceActions.opened({ id: 'a', piece }));
  const after = mend.reduce(
    (state, { path, value }) =>
      pieceReducer(state, pieceActions.set({ path, value, label: 'Mend' })),
    opened,
  );
  return after.piece!;
}

const dials =
  (values: object) =>
  (p: Piece): void => {
    Object.assign(p.swarms[0]!.dials, values);
  };

const BROKEN: [string, (piece: Piece) => void][] = [
  ['is switched off', (p) => (p.swarms[0]!.on = false)],
  ['has no births', dials({ rate: 0, burst: 0 })],
  ['begins later', dials({ start: 9 })],
  ['has its burst later', dials({ rate: 0, burst: 500, burstAt: 9, when: 'bursts' })],
  ['has died', dials({ rate: 0, burst: 500, burstAt: 0, when: 'bursts', lifetime: 0.2 })],
  [
    'is beside the camera',
    (p) => {
      p.swarms[0]!.emitter.dials.centre = [40, 12, 3];
    },
  ],
  ['is too small', dials({ size: 0.0004 })],
  ['is transparent', dials({ opacity: 0.0001 })],
  [
    'lives for ever and fades in',
    dials({ lasts: 'ever', opacity: { feed: 'fixed', value: 0.8, over: [{ x: 0, y: 0 }] } }),
  ],
  ['is dark', dials({ light: 0.00002 })],
  ['is held down by a limit', dials({ limit: 12 })],
  [
    'has an emitter without places for each',
    (p) => {
      dials({ when: 'once', lasts: 'ever', rate: 0, burst: 0, opacity: 1 })(p);
    },
  ],
  [
    'has nothing that is drawn',
    (p) => {
      for (const body of p.swarms[0]!.bodies) body.on = false;
    },
  ],
  [
    'is dark, small, beside the camera and late',
    (p) => {
      dials({ light: 0.00002, size: 0.0004, start: 9 })(p);
      p.swarms[0]!.emitter = makeChoice('emitters', 'box');
      p.swarms[0]!.emitter.dials.centre = [-30, 0, 0];
    },
  ],
];

test.each(BROKEN)(
  'a swarm that %s is brought back by what is offered, and each step brings more',
  async (_, broken) => {
    let piece = smallPiece((p) => {
      p.forces = [];
      broken(p);
    });
    const healthy = await looked(smallPiece((p) => (p.forces = [])));
    expect(healthy.causes).toEqual([]);
    let { counts, causes } = await looked(piece);
    const drawn = (p: Piece): number => p.swarms[0]!.bodies.filter((b) => b.on).length;
    expect(causes.length).toBeGreaterThan(0);
    const offered = (): Cause | undefined => causes.find((c) => c.mend.length > 0);
    for (let cause = offered(), k = 0; cause; cause = offered(), k++) {
      expect(k).toBeLessThan(20);
      const next = mended(piece, cause);
      const after = await looked(next);
      const sum = (c: Census): number =>
        c.born + c.alive + c.inFrame + c.largeEnough + c.brightEnough;
      // Longer lives may not be long enough yet, and more light not light enough: they are on their way.
      const onTheWay = /twice|times/.test(cause.button);
      const more = sum(after.counts) > sum(counts) || drawn(next) > drawn(piece);
      expect([cause.button, more || onTheWay]).toEqual([cause.button, true]);
      expect(sum(after.counts)).toBeGreaterThanOrEqual(sum(counts));
      piece = next;
      ({ counts, causes } = after);
    }
    expect(counts.brightEnough).toBeGreaterThan(10);
    expect(drawn(piece)).toBeGreaterThan(0);
  },
);
