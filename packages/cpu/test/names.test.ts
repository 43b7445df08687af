import { addKind, force, number } from '@vast-swarm/core/kinds';
import { compilePiece } from '@vast-swarm/core/plan';
import { makePart, type Piece } from '@vast-swarm/core/piece';
import { Vec3 } from '@vast-swarm/kernel';
import { frameHash } from '../../../tests/support/frameHash';
import { smallPiece } from '../../../tests/support/pieces';
import { CpuEngine } from '../src';

/** Names of numbers, states and buffers: no part's id, dial or purpose meets another's. */

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 2 });
});
afterAll(() => engine.close());

function pixels(piece: Piece, frame: number): Uint8ClampedArray {
  engine.setPlan(compilePiece(piece));
  engine.reset();
  while (engine.frame < frame) engine.step();
  return Uint8ClampedArray.from(engine.draw(128, 72).pixels);
}

const picture = (piece: Piece, frame = 30): string => frameHash(pixels(piece, frame));

test.each(['order', 'random', 'noise', 'life'])(
  'a picture set of two pictures turns by its Turn, picked by %s',
  (pick) => {
    const set = (turn: number): Piece =>
      smallPiece((p) => {
        const body = makePart('bodies', 'pictureSet', []);
        Object.assign(body.dials, { pictures: ['chart', 'chart'], pick, turn });
        p.swarms[0]!.bodies = [body];
      });
    const [none, whole, some] = [0, 360, 40].map((turn) => pixels(set(turn), 30));
    const apart = (other: Uint8ClampedArray): number =>
      Math.max(...none!.map((v, i) => Math.abs(v - other[i]!)));
    // A whole turn is one but for rounding.
    expect(apart(whole!)).toBeLessThanOrEqual(1);
    expect(apart(some!)).toBeGreaterThan(10);
  },
);

test.each(['finish', 'frame', 'own', 'dial', 'data', 'slots', 'args'])(
  'a swarm may have the id %s',
  (id) => {
    const named = (name: string): Piece =>
      smallPiece((p) => {
        p.swarms[0]!.id = name;
        p.finish = [makePart('finish', 'gradientMap', []), makePart('finish', 'grain', [])];
        p.finish[0]!.dials.repeat = 2;
      });
    const piece = named(id);
    const drawn = picture(piece);
    const tables = (p: Piece): number[] => [...compilePiece(p).finish.tables];
    expect(tables(piece)).toEqual(tables(named('motes')));
    // Random numbers go by the id; what the finish makes of an empty picture does not.
    const empty = (p: Piece): Piece => ({
      ...p,
      swarms: p.swarms.map((s) => ({ ...s, on: false })),
    });
    expect(picture(empty(piece))).toBe(picture(empty(named('motes'))));
    expect(picture(piece)).toBe(drawn);
    // The finish reads its own tables beside a swarm with tables, whatever that swarm is called.
    const still = (p: Piece): Piece => {
      p.swarms[0]!.dials.opacity = 0;
      return p;
    };
    expect(picture(still(named(id)))).toBe(picture(still(named('motes'))));
  },
);

test('what a kind keeps under a purpose stays apart from a dial of that name', () => {
  addKind(
    'forces',
    force({
      kind: 'toyNamesake',
      title: 'Toy namesake',
      help: 'Pushes by its dial, and by a number of its own with the same name.',
      icon: 'M4 12h16',
      dials: { amount: number('Amount', 1, [0, 10], 'Upwards.', { unit: 'm/s²' }) },
      build(dial) {
        const own = dial.changing('amount', () => 3);
        return { push: new Vec3(own, dial.number('amount'), dial.constant('felt', 5)) };
      },
    }),
  );
  const piece = smallPiece((p) => {
    p.forces = [makePart('forces', 'toyNamesake', [])];
    Object.assign(p.swarms[0]!.dials, { rate: 0, burst: 8, lifetime: 60 });
    p.swarms[0]!.launch.dials.speed = 0;
  });
  picture(piece, 29);
  const velocity = (axis: string): number => engine.state('motes', axis)[0]!;
  expect(velocity('vx')).toBeCloseTo(3, 4);
  expect(velocity('vy')).toBeCloseTo(1, 4);
  expect(velocity('vz')).toBeCloseTo(5, 4);
});
