import { chunksOf, missingIn, turnOf, type Known } from '../src/farm/chunks';
import { Pace } from '../src/farm/pace';

/** Which chunks of a render are made when. */

const chunks = Array.from({ length: 10 }, (_, i) => ({ first: 4 * i, last: 4 * i + 3 }));
const firsts = (list: readonly { first: number }[]): number[] => list.map((c) => c.first);
const upTo = (frame: number): Set<number> => new Set(Array.from({ length: frame }, (_, f) => f));
const known = (part: Partial<Known>): Known => ({
  there: new Set(),
  states: new Set(),
  remembers: false,
  workers: 1,
  ...part,
});

test('chunks cover all frames once, few of few and never too many', () => {
  for (const [first, last] of [
    [0, 0],
    [5, 7],
    [0, 39],
    [100, 1099],
    [0, 199_999],
  ] as const) {
    const cut = chunksOf(first, last);
    expect(cut.flatMap((c) => missingIn(c, new Set()))).toEqual(
      Array.from({ length: last - first + 1 }, (_, i) => first + i),
    );
  }
  expect(chunksOf(0, 39).length).toBe(5);
  expect(chunksOf(0, 999).length).toBe(16);
  expect(chunksOf(0, 199_999).length).toBe(1000);
});

test('whoever begins says whether it remembers; until then nobody else begins', () => {
  expect(turnOf(chunks, known({ remembers: null, workers: 5 }))).toEqual({
    chunks: [chunks[0]],
    states: [],
  });
});

test('one worker goes on from what it has left; for several, motion goes ahead', () => {
  const alone = turnOf(chunks, known({}));
  expect([firsts(alone.chunks), alone.states]).toEqual([[0], []]);
  const several = turnOf(chunks, known({ workers: 2 }));
  expect([firsts(several.chunks), several.states]).toEqual([
    [0],
    [3, 7, 11, 15, 19, 23, 27, 31, 35],
  ]);
  const later = turnOf(chunks, known({ workers: 2, states: new Set([3, 7]) }));
  expect([firsts(later.chunks), later.states[0]]).toEqual([[0, 4, 8], 11]);
});

test('what is there already is not made again, and motion leads to what is missing', () => {
  const there = upTo(16);
  const alone = turnOf(chunks, known({ there }));
  expect([firsts(alone.chunks), alone.states]).toEqual([[], [15, 19, 23, 27, 31, 35]]);
  const stands = turnOf(chunks, known({ there, states: new Set([15]) }));
  expect([firsts(stands.chunks), stands.states]).toEqual([[16], []]);
  expect(turnOf(chunks, known({ there: upTo(40) }))).toEqual({ chunks: [], states: [] });
});

test('pictures that are remembered are made one chunk behind the other, again where they have to be', () => {
  const remembers = true;
  expect(firsts(turnOf(chunks, known({ remembers, workers: 3 })).chunks)).toEqual([0]);
  const on = known({ remembers, workers: 3, there: upTo(8), states: new Set([3, 7]) });
  expect(firsts(turnOf(chunks, on).chunks)).toEqual([8]);
  // Its state is lost: from the one before on.
  expect(firsts(turnOf(chunks, { ...on, states: new Set([3]) }).chunks)).toEqual([4]);
  expect(firsts(turnOf(chunks, { ...on, states: new Set() }).chunks)).toEqual([0]);
});

test('a pace is that of the last twenty seconds', () => {
  const pace = new Pace();
  for (let i = 0; i <= 100; i++) pace.one(i * 500);
  expect(pace.at(50_000)).toBeCloseTo(2, 6);
  expect(pace.at(69_000)).toBeCloseTo(2 / 20, 1);
  expect(pace.at(80_000)).toBe(0);
});
