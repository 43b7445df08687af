import { parsePiece, PieceError, pieceText, rateAsFraction, setDial } from '@vast-swarm/core/piece';
import { smallPiece } from '../../../tests/support/pieces';

const piece = smallPiece();
const withRate = (rate: unknown): string =>
  JSON.stringify({ ...piece, frame: { ...piece.frame, rate } });

test.each([
  [24, 24],
  ['24000/1001', 24000 / 1001],
  ['30000/1001', 30000 / 1001],
  ['60000/1001', 60000 / 1001],
  ['25/1', 25],
  ['50/4', 12.5],
  // Typed with a few digits: what is meant.
  [23.976, 24000 / 1001],
  [29.97, 30000 / 1001],
  [59.94, 60000 / 1001],
  [59.9401, 60000 / 1001],
  [12.5, 12.5],
])('a rate of %p in a file is %p frames a second', (written, rate) => {
  expect(parsePiece(withRate(written)).frame.rate).toBe(rate);
});

test.each([
  [30, 30],
  [30000 / 1001, '30000/1001'],
  [24000 / 1001, '24000/1001'],
  [12.5, '12500/1000'],
])('a rate of %p is written as %p, and read as it was', (rate, written) => {
  const text = pieceText({ ...piece, frame: { ...piece.frame, rate } });
  expect((JSON.parse(text) as typeof piece).frame.rate).toBe(written);
  expect(parsePiece(text).frame.rate).toBe(rate);
});

test.each(['0/1', '1/0', '30000/', 'thirty', '-30/1', '1000/1', 0, 241, 1e9, null])(
  'a rate of %p is refused, with its place',
  (rate) => {
    const read = (): unknown => parsePiece(withRate(rate));
    expect(read).toThrow(PieceError);
    expect(read).toThrow(/frame\.rate: .*(240|fraction|number)/);
  },
);

test('a rate is set by name as well', () => {
  expect(setDial(piece, 'frame.rate=29.97').frame.rate).toBe(30000 / 1001);
  expect(setDial(piece, 'frame.rate=30000/1001').frame.rate).toBe(30000 / 1001);
});

test.each([
  [24, [24, 1]],
  [23.976, [24000, 1001]],
  [29.97, [30000, 1001]],
  [59.94, [60000, 1001]],
  [119.88, [120000, 1001]],
  [12.5, [12500, 1000]],
] as const)('%f frames a second are a fraction', (rate, fraction) => {
  expect(rateAsFraction(rate)).toEqual(fraction);
});
