import { addSection, number, signal, stockDial, type Section } from '@vast-swarm/core/kinds';
import {
  dialsOf,
  gathered,
  makePart,
  makePiece,
  newPart,
  parseParts,
  parsePiece,
  partsText,
  pasted,
  pieceText,
  PieceError,
  type Part,
  type PartList,
  type Piece,
} from '@vast-swarm/core/piece';
import { setDial } from '../src/piece/setDial';
import { placeNamed } from '../src/piece/places';
import { kindList } from '../src/formats/kindList';
import { smallPiece } from '../../../tests/support/pieces';

/** A section from outside is gone over by all that goes over the lists of a piece. */

const section: Section = { list: 'kites', one: 'kite', most: 2, place: 'end' };
const list = section.list as Exclude<PartList, 'swarms'>;

beforeAll(() => {
  const box = signal({
    kind: 'boxKite',
    title: 'Box kite',
    help: 'Stands in the wind.',
    icon: 'M4 12h16',
    dials: {
      span: number('Span', 2, [0.1, 10], 'From tip to tip.', { unit: 'm' }),
      sail: stockDial('Sail', ['picture'], 'What is on it.'),
    },
    follow: () => () => 0,
  });
  addSection(section, [box]);
});

/** A piece with one kite, whose sail is a picture. */
function flown(): Piece {
  return smallPiece((p) => {
    const kite = newPart(p, list, 'boxKite');
    kite.dials.sail = 'chart';
    p[list].push(kite);
  });
}

test('a new piece has its list, and one of an older file has it empty', () => {
  expect(makePiece('New')[list]).toEqual([]);
  const { kites, ...older } = JSON.parse(pieceText(makePiece('Old'))) as { kites: unknown };
  expect(kites).toEqual([]);
  expect(parsePiece(JSON.stringify(older))[list]).toEqual([]);
});

test('its parts are read and written, with the limits of their dials and of their number', () => {
  const piece = flown();
  expect(parsePiece(pieceText(piece))).toEqual(piece);
  const wide = structuredClone(piece);
  wide[list][0]!.dials.span = 11;
  expect(() => parsePiece(JSON.stringify(wide))).toThrow(PieceError);
  const three = structuredClone(piece);
  for (const id of ['b', 'c']) three[list].push({ ...piece[list][0]!, id });
  expect(() => parsePiece(JSON.stringify(three))).toThrow(/kites/);
});

test('its ids differ, and what its dials name has to be there', () => {
  const twice = flown();
  twice[list].push(structuredClone(twice[list][0]!));
  expect(() => parsePiece(JSON.stringify(twice))).toThrow("the id 'boxKite' is used twice");
  const torn = flown();
  torn[list][0]!.dials.sail = 'gone';
  expect(() => parsePiece(JSON.stringify(torn))).toThrow("the stock has no 'gone'");
});

test('its dials are among all dials, have addresses, and are set by them', () => {
  const piece = flown();
  const paths = [...dialsOf(piece)].map((d) => d.path.join('.'));
  expect(paths).toContain('kites.0.dials.span');
  expect(placeNamed(piece, 'kites.boxKite.span').path).toEqual(['kites', 0, 'dials', 'span']);
  expect(setDial(piece, 'boxKite.span=3')[list][0]!.dials.span).toBe(3);
});

test('a part of it travels with what it names, and gets an id of its own where it comes to', () => {
  const piece = flown();
  const parts = gathered(piece, [{ list, id: 'boxKite' }], 'A kite')!;
  const target = flown();
  target[list][0]!.dials.span = 5;
  const { piece: next, added } = pasted(target, parseParts(partsText(parts)));
  expect(added).toEqual([{ list, id: 'boxKite-2' }]);
  expect(next[list].map((k: Part) => [k.id, k.dials.span])).toEqual([
    ['boxKite', 5],
    ['boxKite-2', 2],
  ]);
  const bare = pasted(makePiece('Bare'), parseParts(partsText(parts))).piece;
  expect(bare.stock.map((s) => s.id)).toEqual(['chart']);
});

test('it is in the docs, and its name is taken', () => {
  expect(kindList()).toContain('### kites');
  expect(() => {
    addSection(section, []);
  }).toThrow("There is a section 'kites' already");
  expect(makePart(list, 'boxKite', []).name).toBe('Box kite');
});
