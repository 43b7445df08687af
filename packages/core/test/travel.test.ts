import { DEMO_SHOW } from '@vast-swarm/core/demo';
import {
  gathered,
  influenceOf,
  makePart,
  makePiece,
  parseParts,
  partsText,
  pasted,
  pieceText,
  validatePiece,
  type PartRef,
  type Piece,
} from '@vast-swarm/core/piece';
import { MAX_BYTES } from '../src/piece/document';
import { travelling } from '../src/piece/travel/closure';
import { addFollower, smallPiece } from '../../../tests/support/pieces';

const demo = DEMO_SHOW.pieces.map(({ piece }) => piece);

/** Every part of a piece that can travel. */
const partsOf = (piece: Piece): PartRef[] =>
  travelling().flatMap((list) => piece[list].map(({ id }) => ({ list, id })));

/** Over text, as between people. */
const taken = (piece: Piece, chosen: readonly PartRef[]) =>
  parseParts(partsText(gathered(piece, chosen, 'Taken')!));

test('every part of the show goes to an empty piece and can be opened there', () => {
  for (const piece of demo) {
    for (const ref of partsOf(piece)) {
      const { piece: there, added } = pasted(
        { ...makePiece('Empty'), finish: [] },
        taken(piece, [ref]),
      );
      expect(added).toEqual([ref]);
      expect(() => validatePiece(JSON.parse(pieceText(there)))).not.toThrow();
    }
  }
});

test('a part pasted into its own piece brings nothing else along again', () => {
  for (const piece of demo) {
    for (const ref of partsOf(piece)) {
      // What rides a medium comes along with it: it would ride the first one.
      if (ref.list === 'media') continue;
      const { piece: there, added } = pasted(piece, taken(piece, [ref]));
      const more = partsOf(there).length - partsOf(piece).length;
      expect(more).toBe(1);
      expect(there.stock).toEqual(piece.stock);
      expect(added[0]!.list).toBe(ref.list);
      expect(added[0]!.id).not.toBe(ref.id);
    }
  }
});

test('what a new id stands for is named by it everywhere', () => {
  const from = smallPiece((p) => {
    p.signals = [makePart('signals', 'bands', []), makePart('signals', 'formula', [])];
    p.signals[1]!.dials.text = "signal('bands.2') + signal(bands)";
    p.pictures = [makePart('pictures', 'noise', [])];
    Object.assign(p.swarms[0]!.dials, {
      size: { feed: 'signal', signal: 'bands.3', from: 0, to: 1 },
      opacity: { feed: 'formula', text: 'map(noise, 0.5, 0.5) * age', from: 0, to: 1 },
      light: { feed: 'signal', signal: 'formula', from: 0, to: 1 },
    });
  });
  // The piece has others of these ids.
  const target = smallPiece((p) => {
    p.signals = [makePart('signals', 'wave', []), makePart('signals', 'noise', [])];
    p.signals[0]!.id = 'bands';
    p.signals[1]!.id = 'formula';
    p.pictures = [makePart('pictures', 'checks', [])];
    p.pictures[0]!.id = 'noise';
  });
  const { piece } = pasted(target, taken(from, [{ list: 'swarms', id: 'motes' }]));
  const swarm = piece.swarms.at(-1)!;
  expect(swarm.dials.size).toMatchObject({ signal: 'bands-2.3' });
  expect(swarm.dials.light).toMatchObject({ signal: 'formula-2' });
  expect(swarm.dials.opacity).toMatchObject({ text: "map('noise-2', 0.5, 0.5) * age" });
  const formula = piece.signals.find((s) => s.id === 'formula-2')!;
  expect(formula.dials.text).toBe("signal('bands-2.2') + signal('bands-2')");
  expect(piece.signals.slice(0, 2)).toEqual(target.signals);
});

test('a swarm feels what it felt, and what came along is felt by nobody else', () => {
  const from = smallPiece((p) => {
    p.forces = [makePart('forces', 'vortex', []), makePart('forces', 'gravity', [])];
    p.influence = { vortex: { motes: 0.5 }, gravity: { motes: 0 } };
  });
  const target = smallPiece((p) => {
    p.forces = [makePart('forces', 'wind', [])];
  });
  const { piece } = pasted(target, taken(from, [{ list: 'swarms', id: 'motes' }]));
  const fresh = piece.swarms.at(-1)!.id;
  expect(piece.forces.map((f) => f.id)).toEqual(['wind', 'vortex']);
  expect(influenceOf(piece, 'vortex', fresh)).toBe(0.5);
  expect(influenceOf(piece, 'vortex', 'motes')).toBe(0);
  expect(influenceOf(piece, 'wind', fresh)).toBe(0);
  expect(influenceOf(piece, 'wind', 'motes')).toBe(1);
  // One that was chosen itself is felt by all.
  const { piece: other } = pasted(target, taken(from, [{ list: 'forces', id: 'vortex' }]));
  expect(influenceOf(other, 'vortex', 'motes')).toBe(1);
});

test('a follower without its leader has what it had, and what a control drove rests', () => {
  const from = smallPiece((p) => {
    const leader = p.swarms[0]!;
    const tail = addFollower(p);
    tail.dials.rate = 5;
    tail.dials.size = 0.7;
    p.controls = [makePart('controls', 'fader', [])];
    p.controls[0]!.name = 'Fader';
    leader.dials.light = { feed: 'signal', signal: 'fader', from: 2, to: 2 };
  });
  const { piece } = taken(from, [{ list: 'swarms', id: 'tail' }]);
  expect(piece.swarms.map((s) => s.id)).toEqual(['tail']);
  const [tail] = piece.swarms;
  expect(tail!.follows).toBeUndefined();
  expect(tail!.dials.rate).toBe(5);
  expect(tail!.dials.size).toEqual(from.swarms[0]!.dials.size);
  expect(tail!.dials.light).toBe(2);
});

test('controls and cues stay with their piece', () => {
  const piece = smallPiece((p) => {
    p.controls = [makePart('controls', 'fader', [])];
  });
  expect(gathered(piece, [{ list: 'controls', id: 'fader' }], 'x')).toBeNull();
});

test('a whole piece is all of its parts', () => {
  const [piece] = demo;
  expect(parseParts(pieceText(piece!)).chosen).toEqual(partsOf(piece!));
});

const good = (): string =>
  partsText(gathered(smallPiece(), [{ list: 'swarms', id: 'motes' }], 'x')!);
const changed = (change: (parts: Record<string, unknown>) => void): string => {
  const data = JSON.parse(good()) as Record<string, unknown>;
  change(data);
  return JSON.stringify(data);
};

test.each([
  ['rubbish', 'dear diary', /holds no parts; copy a part/],
  ['nothing', '', /holds no parts/],
  ['other JSON', '{"a": 1}', /not a piece/],
  ['half of it', good().slice(0, 300), /not JSON/],
  [
    'a newer version',
    changed((p) => Object.assign(p, { version: 2 })),
    /version 2, this program reads up to 1/,
  ],
  [
    'a piece of a newer version',
    changed((p) => Object.assign(p.piece as object, { version: 99 })),
    /version 99/,
  ],
  [
    'parts that are not in it',
    changed((p) => Object.assign((p.chosen as object[])[0]!, { id: 'gone' })),
    /no 'gone' among its swarms/,
  ],
  ['none chosen', changed((p) => Object.assign(p, { chosen: [] })), /chosen/],
  ['16 MB', `{"x": "${'y'.repeat(MAX_BYTES)}"}`, /16 MB, parts have at most 8 MB/],
])('a paste of %s is refused, and says why', (_, text, message) => {
  expect(() => parseParts(text)).toThrow(message);
});

test('a piece that has no room for more says so, and is as it was', () => {
  const target = smallPiece((p) => {
    p.swarms = Array.from({ length: 64 }, (_, i) => ({
      ...structuredClone(p.swarms[0]!),
      id: `s${String(i)}`,
    }));
  });
  const text = pieceText(target);
  expect(() => pasted(target, taken(smallPiece(), [{ list: 'swarms', id: 'motes' }]))).toThrow(
    /swarms/,
  );
  expect(pieceText(target)).toBe(text);
});

test('stock that is missing comes along by name', () => {
  const from = smallPiece((p) => {
    p.stock.push({
      id: 'far',
      name: 'Far',
      type: 'mesh',
      source: { file: 'far.obj', hash: 'ab'.repeat(32) },
    });
    p.swarms[0]!.emitter = { kind: 'mesh', dials: { ...p.swarms[0]!.emitter.dials, mesh: 'far' } };
  });
  const valid = validatePiece({
    ...from,
    swarms: from.swarms.map((s) => ({ ...s, emitter: { kind: 'mesh', dials: { mesh: 'far' } } })),
  });
  const { piece } = pasted(makePiece('Empty'), taken(valid, [{ list: 'swarms', id: 'motes' }]));
  expect(piece.stock).toEqual([expect.objectContaining({ id: 'far', name: 'Far' })]);
});
