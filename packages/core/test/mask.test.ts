import { areaDistance } from '../src/plan/finish/maskCoverage';
import { made, type Outline } from '@vast-swarm/core/stock';
import { maskBorders } from '@vast-swarm/core/plan';
import { parsePiece, pieceText } from '@vast-swarm/core/piece';
import type { MaskShape } from '@vast-swarm/core/feeds';
import { smallPiece } from '../../../tests/support/pieces';

const none = (): null => null;
const ASPECT = 16 / 9;
const OUTLINE: MaskShape = {
  shape: 'outline',
  outline: 'harbourMark',
  x: 0.5,
  y: 0.5,
  tall: 1,
  turn: 0,
};

/** Part of the frame that is inside, by looking at many places. */
function share(borders: readonly (readonly (readonly [number, number])[])[]): number {
  const [across, down] = [160, 90];
  let inside = 0;
  for (let i = 0; i < across * down; i++) {
    const x = (((i % across) + 0.5) / across) * ASPECT;
    const y = (Math.floor(i / across) + 0.5) / down;
    if (areaDistance(borders, [x, y]) < 0) inside++;
  }
  return (inside / (across * down)) * ASPECT;
}

test('distances to a square are exact, below 0 inside, and a border within it is a hole', () => {
  const square = (r: number): [number, number][] => [
    [-r, -r],
    [r, -r],
    [r, r],
    [-r, r],
  ];
  expect(areaDistance([square(1)], [0, 0.25])).toBeCloseTo(-0.75, 12);
  expect(areaDistance([square(1)], [2, 3])).toBeCloseTo(Math.hypot(1, 2), 12);
  expect(areaDistance([square(1), square(0.5)], [0, 0])).toBeCloseTo(0.5, 12);
  expect(areaDistance([square(1), square(0.5)], [0.7, 0])).toBeCloseTo(-0.2, 12);
});

test('an ellipse of a mask has the area of an ellipse, turned or not', () => {
  for (const turn of [0, 37]) {
    const shape = { shape: 'ellipse', x: 0.5, y: 0.5, wide: 0.4, high: 0.25, turn } as const;
    const area = share(maskBorders(shape, none, ASPECT));
    expect(area / (Math.PI * 0.4 * 0.25)).toBeCloseTo(1, 1);
  }
});

test('an outline stands with its middle where the mask says, as tall as it says', () => {
  const outline = made('harbourMark') as Outline;
  const shape = { ...OUTLINE, x: 0.25, y: 0.4, tall: 0.6 };
  const ends = (axis: 0 | 1): [number, number] => {
    const values = maskBorders(shape, () => outline, ASPECT).flatMap((b) => b.map((p) => p[axis]));
    return [Math.min(...values), Math.max(...values)];
  };
  const [[left, right], [top, bottom]] = [ends(0), ends(1)];
  expect((left + right) / 2).toBeCloseTo(0.25 * ASPECT, 2);
  expect([top, bottom]).toEqual([expect.closeTo(0.1, 2), expect.closeTo(0.7, 2)]);
  expect(maskBorders(shape, none, ASPECT)).toEqual([]);
});

test('the outline that masked a treatment in version 3 is a shape of its mask now', () => {
  const now = smallPiece();
  const finish = now.finish.map((part) => ({
    ...part,
    dials: { ...part.dials, maskOutline: 'harbourMark' },
  }));
  const piece = parsePiece(JSON.stringify({ ...now, version: 3, finish }));
  expect(piece.finish[0]!.dials.mask).toEqual([OUTLINE]);
  expect(piece.finish[0]!.dials).not.toHaveProperty('maskOutline');
});

test('a mask takes outlines only, and a treatment cannot take what another one gives', () => {
  const problem = (change: (dials: Record<string, unknown>) => void, kind = 'bloom'): string => {
    const piece = JSON.parse(pieceText(smallPiece())) as {
      finish: { id: string; kind: string; dials: Record<string, unknown> }[];
    };
    piece.finish = [{ ...piece.finish[0]!, id: 'own', kind, dials: {} }];
    change(piece.finish[0]!.dials);
    try {
      parsePiece(JSON.stringify(piece));
    } catch (error) {
      return String(error);
    }
    return '';
  };
  const masked = (outline: string): string =>
    problem((dials) => (dials.mask = [{ ...OUTLINE, outline }]));
  expect(masked('harbourMark')).toBe('');
  expect(masked('conch')).toContain("'conch' is a mesh; wanted is outline");
  expect(masked('nothing')).toContain("the stock has no 'nothing'");
  // The chain runs one way: by its build nothing in it can feed itself.
  expect(problem((dials) => (dials.swarm = 'own'), 'swarmLayer')).toContain("no swarm 'own'");
  expect(problem((dials) => (dials.picture = 'own'), 'pictureLayer')).toContain("no 'own'");
});
