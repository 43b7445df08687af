import { BirthSchedule } from '../src/plan/motion/births';
import { compilePiece } from '@vast-swarm/core/plan';
import { parsePiece, PieceError, pieceText, setDial, type Piece } from '@vast-swarm/core/piece';
import { smallPiece } from '../../../tests/support/pieces';

/** What is wrong with a small piece that was changed, or null. */
function refusal(change: (piece: Piece) => void): string | null {
  try {
    parsePiece(pieceText(smallPiece(change)));
    return null;
  } catch (error) {
    if (error instanceof PieceError) return error.message;
    throw error;
  }
}

const dial = (key: string, value: unknown) => (piece: Piece) => {
  piece.swarms[0]!.dials[key] = value as never;
};

const entry = (source: object, type = 'mesh') => ({ id: 'own', name: 'Own', type, source });

function stocked(source: object, type?: string): string | null {
  return refusal((p) => void p.stock.push(entry(source, type) as never));
}

test.each([
  ['nothing', { ghost: { motes: 0.5 } }, "influence.ghost: there is no force or collider 'ghost'"],
  ['no swarm', { FORCE: { ghost: 0.5 } }, "there is no swarm or medium 'ghost'; there are motes"],
])('influence of %s is refused', (_, influence, told) => {
  const text = pieceText(smallPiece());
  const force = parsePiece(text).forces[0]!.id;
  const row = JSON.parse(JSON.stringify(influence).replace('FORCE', force)) as Piece['influence'];
  expect(refusal((p) => (p.influence = row))).toContain(told);
});

test.each(['constructor', '__proto__', 'toString', 'hasOwnProperty'])(
  'an id that every object has already is refused: %s',
  (id) => {
    expect(refusal((p) => (p.forces[0]!.id = id))).toContain('choose another id');
  },
);

test('lists that are empty, and influence, need not be written down', () => {
  const { format, version, name, seed, frame, backdrop, camera, density, swarms } = smallPiece();
  const { bodies, copies, ...swarm } = swarms[0]!;
  expect([bodies.length > 0, copies]).toEqual([true, []]);
  const bare = { format, version, name, seed, frame, backdrop, camera, density, swarms: [swarm] };
  const piece = parsePiece(JSON.stringify(bare));
  expect(piece.swarms[0]).toMatchObject({ bodies: [], copies: [] });
  const lists = [piece.forces, piece.stock, piece.cues, piece.finish, piece.lights, piece.played];
  expect(lists.every((list) => list.length === 0)).toBe(true);
  expect(piece.influence).toEqual({});
});

test('a byte-order mark is no part of a file, and lines count as without it', () => {
  const text = pieceText(smallPiece());
  expect(parsePiece(`\ufeff${text}`)).toEqual(parsePiece(text));
  expect(() => parsePiece(`\ufeff${text.replace('"seed": 1', '"seed": x')}`)).toThrow('line 5');
});

test.each(['../notes.obj', 'a/b.obj', 'a\\b.obj', '..', 'a\u001b[31m.obj', 'a\n.obj'])(
  'a file of the stock is a plain name: %j is refused with its place',
  (file) => {
    const told = stocked({ file, hash: '0123456789abcdef' });
    expect(told).toMatch(/line \d+, stock\[\d+\]\.source\.file: is no (plain )?file name/);
  },
);

test('a file of the stock needs no hash written by hand', () => {
  expect(stocked({ file: 'a rock.obj' })).toBeNull();
  expect(stocked({ file: 'a.obj', hash: 'xyz' })).toContain('source.hash: a hash is written');
});

test('an outline that cannot be read, or draws nothing, is told by line and field', () => {
  const where = /line \d+, stock\[\d+\]\.source\.path: /;
  expect(stocked({ path: 'M0 0L1' }, 'outline')).toMatch(where);
  expect(stocked({ path: 'M0 0' }, 'outline')).toContain('holds no line');
  expect(stocked({ path: 'M0 0L1 1' }, 'outline')).toBeNull();
});

test('a thing of the stock is of the type that it says', () => {
  expect(stocked({ made: 'conch' }, 'picture')).toMatch(
    /stock\[\d+\]\.type: .*type mesh, not pict/,
  );
  expect(stocked({ path: 'M0 0L1 1' }, 'mesh')).toContain('type outline, not mesh');
});

test('ids of bodies differ within a swarm', () => {
  const told = refusal((p) => p.swarms[0]!.bodies.push({ ...p.swarms[0]!.bodies[0]! }));
  expect(told).toMatch(/swarms\[0\]\.bodies\[\d\]\.id: the id '.*' is used twice in this swarm/);
});

describe('a feed with a fault is told by its own rules', () => {
  test.each([
    ['size', { feed: 'spread', from: 'low', to: 1 }, 'size.from: expected number'],
    ['size', { feed: 'spread', from: 0.1 }, 'size.to: is missing (number wanted)'],
    ['size', { feed: 'spread', from: 0.1, to: 1, by: 'x' }, 'size.by: there is no such field'],
    [
      'size',
      { feed: 'formula', text: 'agee', from: 0, to: 1 },
      "size.text: at character 1: 'agee'",
    ],
    ['size', { feed: 'signal', from: 0, to: 1 }, 'size.signal: is missing (string wanted)'],
    ['size', { feed: 'map', from: 0, to: 1, channel: 'mud' }, 'size.channel: '],
    ['colour', { feed: 'channels', red: {}, green: {}, blue: {} }, 'colour.red.from: is missing'],
    ['colour', { feed: 'gradient', stops: [{ at: 0, colour: 'red' }] }, 'colour.stops'],
    ['colour', { feed: 'layers', as: 'greys', layers: [], stops: [] }, 'colour.layers: '],
  ])('%s: %j', (key, value, told) => {
    expect(refusal(dial(key, value))).toContain(`swarms[0].dials.${told.split(':')[0]!}`);
    expect(refusal(dial(key, value))).toContain(told.split(': ').slice(1).join(': '));
  });

  test('one that is not there says which are', () => {
    const told = refusal(dial('colour', { feed: 'gradent', stops: [] }));
    expect(told).toContain('swarms[0].dials.colour.feed: cannot be this here; there are gradient,');
    expect(told).not.toContain('expected');
    // A formula can fill a size, but not the colour.
    expect(refusal(dial('colour', { feed: 'formula', text: '1', from: 0, to: 1 }))).toContain(
      'dials.colour.feed: cannot be this here',
    );
  });
});

test('seed, density, whether a part is on, and influence are set from text too', () => {
  const piece = smallPiece();
  const { id } = piece.forces[0]!;
  expect(setDial(piece, 'seed=7').seed).toBe(7);
  expect(setDial(piece, 'density=2').density).toBe(2);
  expect(setDial(piece, 'motes.on=false').swarms[0]!.on).toBe(false);
  expect(setDial(piece, `${id}.on=false`).forces[0]!.on).toBe(false);
  expect(setDial(piece, `influence.${id}.Motes=0.5`).influence).toEqual({ [id]: { motes: 0.5 } });
  expect(() => setDial(piece, 'influence.ghost.motes=1')).toThrow("force or collider 'ghost'");
  expect(() => setDial(piece, `influence.${id}.motes=1000`)).toThrow('100');
  expect(() => setDial(piece, 'density=0')).toThrow('0.01');
  expect(() => setDial(piece, 'name=x')).toThrow('it has seed, density');
  expect(() => setDial(piece, 'motes.constructor=1')).toThrow("has no dial 'constructor'");
  expect(() => setDial(piece, 'constructor.name=1')).toThrow("there is no part 'constructor'");
});

describe('what changes nothing is noticed', () => {
  const notices = (change: (piece: Piece) => void): string =>
    compilePiece(smallPiece(change))
      .notices.map((n) => n.message)
      .join('\n');
  const stops = [{ at: 0, colour: '#ffffff' }];
  const layer = { over: 'normal', amount: 1 };
  const layers = (by: object) => ({
    feed: 'layers',
    as: 'greys',
    layers: [{ ...layer, ...by }],
    stops,
  });

  test('nothing is said of a piece that has all it names', () => {
    expect(notices(() => undefined)).toBe('');
  });

  test.each([
    [{ feed: 'gradient', by: 'signal', stops }, 'Motes, Colour: no signal is chosen'],
    [{ feed: 'gradient', by: 'formula', stops }, 'Motes, Colour: there is no formula'],
    [layers({ by: 'picture' }), 'its layer 1 has nothing chosen'],
    [layers({ by: 'swarm' }), 'its layer 1 has nothing chosen'],
    [{ feed: 'place' }, 'Motes is to have the colour of the place it is born at'],
    [layers({ by: 'place' }), 'Motes is to have the colour of the place it is born at'],
  ])('%j', (colour, told) => {
    expect(notices(dial('colour', colour))).toContain(told);
    expect(notices((p) => (dial('colour', colour)(p), (p.swarms[0]!.on = false)))).not.toContain(
      'Motes, Colour',
    );
  });

  test('a setting of its own that no swarm has', () => {
    const own = notices((p) => (p.swarms[0]!.own = ['emitter', 'rate', 'glitter']));
    expect(own).toBe("Motes is to have 'glitter' of its own, which no swarm has.");
  });
});

test('a chain of a million million copies is held without being made', () => {
  const copies = { count: 1000, offset: [1, 2, 3] as [number, number, number], scale: 1 };
  const chain = Array.from({ length: 4 }, () => ({ ...copies, turn: [0, 5, 0] as [0, 5, 0] }));
  const plan = compilePiece(smallPiece((p) => (p.swarms[0]!.copies = chain)));
  expect(plan.notices[0]!.message).toContain('drawn 1,000,000,000,000 times');
  const held = plan.swarms[0]!.copies;
  expect(held.length).toBeLessThan(20_000);
  // The first of them are those of the chain's first link.
  const one = compilePiece(smallPiece((p) => (p.swarms[0]!.copies = chain.slice(0, 1))));
  expect(held.slice(0, 1000)).toEqual(one.swarms[0]!.copies);
  const two = compilePiece(
    smallPiece((p) => (p.swarms[0]!.copies = [chain[0]!, { ...chain[1]!, count: 3 }])),
  );
  expect(held.slice(1000, 3000)).toEqual(two.swarms[0]!.copies.slice(1000));
});

test.each(['burstEvery', 'loop'])('%s close to 0 is as a thousandth of a second', (key) => {
  const events = (seconds: number) => {
    const { dials } = smallPiece((p) =>
      Object.assign(p.swarms[0]!.dials, { when: 'both', burst: 3, [key]: seconds }),
    ).swarms[0]!;
    const scene = { rate: 25, density: 1, follow: () => () => 0, changes: () => 0 };
    return new BirthSchedule(dials, 0, scene).between(0.04, 0.08);
  };
  expect(events(1e-9)).toEqual(events(1e-3));
  expect(events(1e-9).length).toBeLessThan(130);
  expect(events(0).length).toBeLessThan(3);
});
