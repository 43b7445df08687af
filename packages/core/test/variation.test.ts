import {
  addressOf,
  crossed,
  dialsOf,
  makePart,
  pieceText,
  validatePiece,
  variationOf,
  VARIED,
  type Piece,
  type Turning,
} from '@vast-swarm/core/piece';
import { compilePiece } from '@vast-swarm/core/plan';
import { DEMO_SHOW } from '@vast-swarm/core/demo';
import { addFollower, smallPiece } from '../../../tests/support/pieces';

const GROUPS = Object.keys(VARIED) as (keyof typeof VARIED)[];
const wild: Turning = { reach: 1, groups: GROUPS };

/** Names of the places in which two pieces differ. */
function differences(a: Piece, b: Piece): string[] {
  const of = (piece: Piece) =>
    new Map([...dialsOf(piece)].map(({ path, value }) => [path.join('.'), { path, value }]));
  const [here, there] = [of(a), of(b)];
  return [...here]
    .filter(([key, { value }]) => JSON.stringify(there.get(key)?.value) !== JSON.stringify(value))
    .map(([, { path }]) => addressOf(a, path)!);
}

const demo = DEMO_SHOW.pieces.map(({ piece }) => piece);

test('the same number gives the same neighbour, another number another one', () => {
  for (const piece of demo) {
    const text = pieceText(piece);
    const first = pieceText(variationOf(piece, 7, wild));
    expect(pieceText(variationOf(piece, 7, wild))).toBe(first);
    expect(pieceText(variationOf(piece, 8, wild))).not.toBe(first);
    // The piece itself is not touched; its stock is the very same.
    expect(variationOf(piece, 7, wild).stock).toBe(piece.stock);
    expect(pieceText(piece)).toBe(text);
  }
});

test.each([0.1, 0.5, 1])(
  'neighbours at a reach of %d can be opened, whatever the piece',
  (reach) => {
    for (const piece of demo) {
      for (let number = 1; number <= 12; number++) {
        const next = variationOf(piece, number, { ...wild, reach });
        expect(() => validatePiece(JSON.parse(pieceText(next)))).not.toThrow();
      }
    }
  },
);

test('no reach turns nothing, and a longer one turns further', () => {
  const piece = demo[0]!;
  expect(pieceText(variationOf(piece, 3, { ...wild, reach: 0 }))).toBe(pieceText(piece));
  const rate = (reach: number): number =>
    Math.abs(
      Math.log((variationOf(small(), 5, { ...wild, reach }).swarms[0]!.dials.rate as number) / 900),
    );
  const found = [0.2, 0.5, 0.9].map(rate);
  expect(found[0]!).toBeGreaterThan(0);
  expect(found[1]!).toBeGreaterThan(found[0]!);
  expect(found[2]!).toBeGreaterThan(found[1]!);
});

const small = (): Piece => smallPiece();

test.each(GROUPS)('only what belongs to %s is turned', (group) => {
  const piece = demo.find((p) => p.finish.length > 0 && p.forces.length > 0)!;
  const lists = {
    motion: /^(forces|colliders|media|swarms)\./,
    look: /^(swarms|lights|backdrop)\b/,
    colour: /colour|stops|backdrop|inner|outer|top|bottom/i,
    finish: /^finish\./,
  };
  const turned = new Set<string>();
  for (let n = 1; n < 20; n++) {
    differences(piece, variationOf(piece, n, { reach: 1, groups: [group] })).forEach((a) =>
      turned.add(a),
    );
  }
  expect(turned.size).toBeGreaterThan(0);
  for (const address of turned) expect(address).toMatch(lists[group]);
});

test('chosen parts alone are turned, and locked dials never', () => {
  const piece = demo.find((p) => p.swarms.length > 0 && p.forces.length > 1)!;
  const { id } = piece.forces[0]!;
  const all = new Set<string>();
  for (let n = 1; n < 30; n++) {
    differences(piece, variationOf(piece, n, { ...wild, parts: [id] })).forEach((a) => all.add(a));
  }
  expect([...all].every((a) => a.split('.')[1] === id)).toBe(true);
  const locked = [...all].slice(0, 1);
  for (let n = 1; n < 30; n++) {
    const next = variationOf(piece, n, { ...wild, parts: [id], locked });
    expect(differences(piece, next)).not.toContain(locked[0]);
  }
});

test('another part more does not change the luck of those that are there', () => {
  const before = small();
  const more = smallPiece((p) => {
    p.forces.unshift({ ...structuredClone(p.forces[0]!), id: 'first', name: 'First' });
  });
  const [a, b] = [before, more].map((p) => variationOf(p, 4, wild));
  expect(b!.swarms).toEqual(a!.swarms);
  expect(b!.forces[1]).toEqual(a!.forces[0]);
});

test('two that are crossed give each dial of the one or the other', () => {
  const piece = demo[0]!;
  const [a, b] = [variationOf(piece, 1, wild), variationOf(piece, 2, wild)];
  const child = crossed(a, b, 11);
  expect(pieceText(crossed(a, b, 11))).toBe(pieceText(child));
  const values = (p: Piece) =>
    new Map([...dialsOf(p)].map(({ path, value }) => [path.join('.'), JSON.stringify(value)]));
  const [va, vb, vc] = [a, b, child].map(values) as [
    Map<string, string>,
    Map<string, string>,
    Map<string, string>,
  ];
  let [fromA, fromB] = [0, 0];
  for (const [key, value] of vc) {
    expect([va.get(key), vb.get(key)]).toContain(value);
    if (va.get(key) === vb.get(key)) continue;
    if (value === va.get(key)) fromA++;
    else fromB++;
  }
  expect(Math.min(fromA, fromB)).toBeGreaterThan(2);
  expect(() => validatePiece(JSON.parse(pieceText(child)))).not.toThrow();
});

test('neighbours compile, and cost about as much', () => {
  const particles = (piece: Piece): number =>
    compilePiece(piece).swarms.reduce((sum, s) => sum + s.capacity, 0);
  const piece = small();
  const own = particles(piece);
  for (let n = 1; n <= 9; n++) {
    expect(particles(variationOf(piece, n, { ...wild, reach: 0.5 })) / own).toBeLessThan(5);
  }
});

test('what follows another swarm, or is held by a control, is left to it', () => {
  const piece = smallPiece((p) => {
    addFollower(p);
    const control = makePart('controls', 'fader', []);
    control.name = 'Fader';
    control.dials.moves = [{ place: 'swarms.motes.lifetime', from: 1, to: 2 }] as never;
    p.controls = [control];
  });
  const turned = new Set<string>();
  for (let n = 1; n < 40; n++) {
    differences(piece, variationOf(piece, n, wild)).forEach((a) => turned.add(a));
  }
  expect(turned).toContain('swarms.motes.rate');
  expect(turned).not.toContain('swarms.motes.lifetime');
  // Of the follower only what is its own.
  expect([...turned].filter((a) => a.startsWith('swarms.tail'))).toEqual(['swarms.tail.rate']);
});

test('what is nought in a wide range is off, and stays so; a narrow range is gone through', () => {
  const piece = smallPiece((p) => {
    p.forces = [makePart('forces', 'gravity', [])];
    Object.assign(p.forces[0]!.dials, { strength: 0 });
    p.swarms[0]!.dials.opacity = 0.5;
  });
  const seen = new Set<unknown>();
  for (let n = 1; n < 30; n++) {
    const next = variationOf(piece, n, wild);
    expect(next.forces[0]!.dials.strength).toBe(0);
    seen.add(next.swarms[0]!.dials.opacity);
    expect(next.swarms[0]!.dials.opacity).toBeGreaterThanOrEqual(0);
    expect(next.swarms[0]!.dials.opacity).toBeLessThanOrEqual(1);
  }
  expect(seen.size).toBeGreaterThan(8);
});
