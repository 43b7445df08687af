import { compilePiece, PlanCache } from '@vast-swarm/core/plan';
import { mediumCensus } from '@vast-swarm/core/play';
import { newPart, parsePiece, pieceText, PieceError, type Piece } from '@vast-swarm/core/piece';
import { cellsFor, levelsOf } from '../src/plan/media/levels';
import { weightsFor } from '../src/plan/media/pressure';
import { passesFor } from '../src/plan/media/spreading';
import { smallPiece } from '../../../tests/support/pieces';

function problems(change: (piece: Piece) => void): string {
  const piece = smallPiece((p) => {
    p.media = [{ ...newPart(p, 'media', 'fluid'), id: 'water', name: 'Water' }];
    change(p);
  });
  try {
    parsePiece(pieceText(piece));
  } catch (error) {
    return (error as PieceError).problems.map((q) => `${q.where}: ${q.message}`).join('\n');
  }
  return '';
}

test('a medium that cannot be is refused in words, and so is what names none', () => {
  expect(problems(() => undefined)).toBe('');
  const lines = (n: number) => (p: Piece) => (p.media[0]!.dials.lines = n);
  expect(problems(lines(1))).toMatch(/media\[0\]\.dials\.lines: .*64/);
  expect(problems(lines(1081))).toMatch(/media\[0\]\.dials\.lines: .*1080/);
  expect(problems(lines(100.5))).toContain('media[0].dials.lines');
  expect(
    problems((p) => {
      for (let i = 0; i < 4; i++) p.media.push(newPart(p, 'media', 'fluid'));
    }),
  ).toContain('media');
  expect(
    problems((p) => {
      p.forces = [newPart(p, 'forces', 'ride')];
      p.forces[0]!.dials.medium = 'milk';
    }),
  ).toContain("forces[0].dials.medium: there is no medium 'milk'");
  expect(problems((p) => (p.media[0]!.id = 'motes'))).toContain("the id 'motes' is used twice");
  expect(problems((p) => (p.media[0]!.id = p.stock[0]!.id))).toContain('is used twice');
});

test('a medium is named where a picture is asked for, and only where it can be', () => {
  const layered = (kind: string) => (p: Piece) => {
    p.finish = [newPart(p, 'finish', kind)];
    p.finish[0]!.dials.picture = 'water';
    if (kind === 'displacement') p.finish[0]!.dials.by = 'picture';
  };
  expect(problems(layered('displacement'))).toBe('');
  expect(problems(layered('pictureLayer'))).toContain("the stock has no 'water'");
  const map = { feed: 'map', picture: 'water', from: 0, to: 1 } as const;
  expect(problems((p) => (p.swarms[0]!.dials.size = map))).toBe('');
});

test('grids become coarser to the end, whatever the sides', () => {
  for (const edges of ['closed', 'open', 'wrap'] as const) {
    for (const lines of [64, 68, 100, 216, 1080]) {
      for (const aspect of [0.1, 1, 16 / 9, 10]) {
        const cells = cellsFor(lines, aspect, edges);
        expect(Math.abs(cells.lines - lines)).toBeLessThanOrEqual(16);
        const levels = levelsOf(cells.columns, cells.lines, edges);
        const { columns, lines: last } = levels.at(-1)!;
        expect(Math.min(columns, last)).toBeLessThan(edges === 'wrap' ? 48 : 5);
        for (const { stride, columns: wide } of levels) {
          expect(stride % 4).toBe(0);
          expect(stride).toBeGreaterThanOrEqual(wide + 2);
        }
      }
    }
  }
});

test('what relaxing leaves of an error is what Chebyshev polynomials say', () => {
  for (const [passes, low, high] of [
    [2, 0.5, 2],
    [4, 0.5, 2],
    [8, 0.06, 2],
  ] as const) {
    const weights = weightsFor(passes, low, high);
    const left = (value: number): number =>
      weights.reduce((rest, weight) => rest * (1 - weight * value), 1);
    const most = 1 / Math.cosh(passes * Math.acosh((high + low) / (high - low)));
    for (let i = 0; i <= 200; i++) {
      const value = low + ((high - low) * i) / 200;
      expect(Math.abs(left(value))).toBeLessThanOrEqual(most * 1.0001);
    }
    // What no pass can change stays.
    expect(left(0)).toBe(1);
  }
});

test('spreading takes as many passes as it needs, an even number, and no more than are allowed', () => {
  expect(passesFor(0)).toEqual({ passes: 0, each: 0 });
  for (const share of [0.01, 0.3, 1, 2.9]) {
    const { passes, each } = passesFor(share);
    expect(passes % 2).toBe(0);
    expect(each).toBeLessThan(0.25);
    expect(passes * each).toBeCloseTo(share, 9);
  }
  expect(passesFor(100)).toEqual({ passes: 16, each: 0.22 });
});

test('a census counts cells and leaves the rim out', () => {
  const space = { columns: 2, lines: 2, stride: 4 };
  const plane = (...at: [number, number][]): Float32Array => {
    const values = new Float32Array(20);
    for (const [place, value] of at) values[place] = value;
    return values;
  };
  const planes = {
    u: plane([5, 0.02], [0, 9]),
    v: plane([10, -1]),
    red: plane([6, 0.5], [7, 9]),
    green: plane(),
    blue: plane([9, 1e-6]),
    amount: plane([5, 0.02], [6, 0.009]),
  };
  expect(mediumCensus(space, planes)).toEqual({ cells: 4, moving: 2, filled: 1, lit: 1 });
});

test('what a medium cannot do is told in numbers', () => {
  const piece = smallPiece((p) => {
    p.media = [{ ...newPart(p, 'media', 'fluid'), id: 'water', name: 'Water' }];
    Object.assign(p.media[0]!.dials, { spreading: 5, fills: 'plane', width: 4, aspect: 1 });
  });
  const told = compilePiece(piece).notices.filter((n) => n.part === 'water');
  // 3.52 cells² of 4 m / 216, 30 times a second.
  expect(told.map((n) => n.message)).toEqual([
    'Spreading of Water has no more effect above 0.036 m²/s with 216 lines. Fewer lines let it go further.',
  ]);
  piece.media[0]!.dials.spreading = 0.03;
  expect(compilePiece({ ...piece }).notices.filter((n) => n.part === 'water')).toEqual([]);
});

test('what a medium is stirred by follows the shares of the swarms, turn by turn', () => {
  const piece = smallPiece((p) => {
    p.media = [{ ...newPart(p, 'media', 'fluid'), id: 'water', name: 'Water' }];
  });
  const cache = new PlanCache();
  for (const stirs of [1, 0, 0.5]) {
    const turned = structuredClone(piece);
    turned.swarms[0]!.dials.stirs = stirs;
    const { media, swarms } = compilePiece(turned, { cache });
    const wanted = stirs === 0 ? [] : ['motes'];
    expect(media[0]!.leaving.swarms).toEqual(wanted);
    expect(swarms.filter((s) => s.gives.has('water')).map((s) => s.id)).toEqual(wanted);
  }
});
