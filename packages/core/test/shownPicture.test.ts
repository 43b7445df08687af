import { compilePiece, finderIn, type Looker } from '@vast-swarm/core/plan';
import { DEMO_SHOW } from '@vast-swarm/core/demo';
import { TrackReader } from '@vast-swarm/core/play';
import type { Piece } from '@vast-swarm/core/piece';
import { bytesHash } from '../../../tests/support/frameHash';
import { smallPiece } from '../../../tests/support/pieces';

const ferryWindows = DEMO_SHOW.pieces.find(({ piece }) => piece.name === 'Ferry Windows')!.piece;

/** As a worker does it: all that goes there and comes back is copied. */
function elsewhere(asked: string[] = []): Looker {
  const find = finderIn(new Map());
  return (shown) => ({
    find: async (states, look) => {
      asked.push(look.find);
      return structuredClone(
        await find(structuredClone(shown), [...states], structuredClone(look)),
      );
    },
    back: () => undefined,
  });
}

/** All blocks of a piece's tracks in some frames, by name without what tells objects apart. */
async function blocks(piece: Piece, looker?: Looker): Promise<[string, Float32Array][]> {
  const { tracks } = compilePiece(piece, { looker });
  const reader = new TrackReader();
  const all: [string, Float32Array][] = [];
  for (const frame of [0, 1, 2, 7, 3]) {
    await reader.ready(tracks.blocks, frame);
    for (const track of tracks.blocks) all.push([track.name, reader.take(track, frame)]);
  }
  return all;
}

/** Compared number by number they would take seconds. */
const bits = (all: [string, Float32Array][]): string[] =>
  all.map(([name, values]) => `${name} ${bytesHash(values)}`);

test('what is found elsewhere is bit for bit what is found here', async () => {
  const asked: string[] = [];
  const here = await blocks(ferryWindows);
  expect(here.length).toBeGreaterThan(10);
  expect(here.some(([, values]) => values.some((v) => v !== 0))).toBe(true);
  expect(bits(await blocks(ferryWindows, elsewhere(asked)))).toEqual(bits(here));
  expect([...new Set(asked)].sort()).toEqual(['motion', 'pixels', 'spots']);
});

test('a turned dial of a moving picture is seen elsewhere too', async () => {
  const turned: Piece = structuredClone(ferryWindows);
  turned.pictures[0]!.dials.speed = -2;
  const looker = elsewhere();
  const before = await blocks(ferryWindows, looker);
  const after = await blocks(turned, looker);
  expect(bits(after)).toEqual(bits(await blocks(turned)));
  expect(bits(after)).not.toEqual(bits(before));
});

test('a piece without moving pictures asks nobody', async () => {
  const asked: string[] = [];
  await blocks(smallPiece(), elsewhere(asked));
  expect(asked).toEqual([]);
});
