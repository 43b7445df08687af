import {
  makePiece,
  makeSwarm,
  pieceText,
  parsePiece,
  swarmFrom,
  type Piece,
} from '@vast-swarm/core/piece';
import type { Clip, StockEntry } from '@vast-swarm/core/stock';
import type { MapFeed } from '@vast-swarm/core/feeds';
import { pieceActions, pieceReducer } from '../src/store/pieceSlice';
import { colourItems, numberItems } from '../src/sheet/feedItems';
import type { ReadFile } from '../src/reading/stockWorker';
import { typesOf } from '../src/data/stock';

/** Moving pictures as the interface makes, names and forgets them, without the interface around it. */

type State = ReturnType<typeof pieceReducer>;
type Action = Parameters<typeof pieceReducer>[1];

function opened(change: (piece: Piece) => void = () => undefined): State {
  const piece = makePiece('Pictures');
  piece.swarms.push(makeSwarm('picture', []));
  change(piece);
  return pieceReducer(undefined, pieceActions.opened({ id: 'a', piece }));
}

const after = (state: State, ...actions: Action[]): State => actions.reduce(pieceReducer, state);
const hash = 'ab'.repeat(32);
const entry = (id = 'clip'): StockEntry => ({
  id,
  name: 'Dancers',
  type: 'clip',
  source: { file: 'dancers.mp4', hash },
});
const clip: Clip = {
  type: 'clip',
  width: 4,
  height: 2,
  times: Float64Array.of(0, 1),
  picture: () => ({ type: 'picture', width: 4, height: 2, pixels: new Uint8Array(32) }),
};

/** What a file of the piece would be read as: nothing in it may name what is not there. */
function valid({ piece }: State): Piece {
  return parsePiece(pieceText(piece as Piece));
}

test('a clip for a dial comes with a part that plays it, in one step', () => {
  const path = ['swarms', 0, 'emitter', 'dials', 'picture'];
  const state = after(opened(), pieceActions.pictured({ entry: entry(), path }));
  const { stock, pictures, swarms } = valid(state);
  expect(stock.map((s) => s.id)).toEqual(['clip']);
  expect(pictures).toMatchObject([{ name: 'Dancers', kind: 'played', dials: { clip: 'clip' } }]);
  expect(swarms[0]!.emitter.dials.picture).toBe(pictures[0]!.id);
  const undone = valid(after(state, pieceActions.undone()));
  expect([undone.stock, undone.pictures]).toEqual([[], []]);
});

test('the same clip can play twice; no part has the id of a thing of the stock', () => {
  const state = after(
    opened(),
    pieceActions.pictured({ entry: entry('played') }),
    pieceActions.pictured({ entry: entry('played') }),
    pieceActions.added({ list: 'pictures', kind: 'noise' }),
  );
  const { stock, pictures } = valid(state);
  expect(stock).toHaveLength(1);
  expect(pictures.map((p) => p.id)).toEqual(['played-2', 'played-3', 'noise']);
  expect(pictures.map((p) => p.name)).toEqual(['Dancers', 'Dancers 2', 'Noise map']);
  expect(state.selection).toEqual({ list: 'pictures', id: 'noise' });
  const copied = after(state, pieceActions.duplicated({ list: 'pictures', id: 'played-2' }));
  expect(new Set(valid(copied).pictures.map((p) => p.id)).size).toBe(4);
});

test('a dropped clip is born from, by what plays it', () => {
  const begun = opened();
  const swarm = swarmFrom('clip', clip, begun.piece!.swarms)!;
  const state = after(begun, pieceActions.bornFrom({ entry: entry(), swarm }));
  const { swarms, pictures } = valid(state);
  const { kind, dials } = swarms[1]!.emitter;
  expect([kind, dials.picture]).toEqual(['picture', pictures[0]!.id]);
});

test('what is removed is let go of by dials, maps, layers and masks', () => {
  const map: MapFeed = { feed: 'map', picture: 'noise', from: 0, to: 1 };
  const state = after(
    opened(),
    pieceActions.added({ list: 'pictures', kind: 'noise' }),
    pieceActions.added({ list: 'finish', kind: 'pictureLayer' }),
    ...(
      [
        [['swarms', 0, 'emitter', 'dials', 'picture'], 'noise'],
        [['swarms', 0, 'dials', 'size'], map],
        [
          ['swarms', 0, 'dials', 'colour'],
          {
            feed: 'layers',
            as: 'colours',
            stops: [0, 1].map((at) => ({ at, colour: '#ffffff' })),
            layers: [{ by: 'picture', picture: 'noise', over: 'normal', amount: 1 }],
          },
        ],
        [['finish', 2, 'dials', 'picture'], 'noise'],
        [['finish', 2, 'dials', 'maskPicture'], 'noise'],
      ] as const
    ).map(([path, value]) => pieceActions.set({ path: [...path], value, label: 'Set' })),
  );
  expect(valid(state).finish[2]!.dials.maskPicture).toBe('noise');
  const gone = after(state, pieceActions.removed({ list: 'pictures', id: 'noise' }));
  const piece = valid(gone);
  expect(JSON.stringify([piece.swarms, piece.finish])).not.toContain('"noise"');
  expect(piece.swarms[0]!.dials.size).toMatchObject({ feed: 'map', from: 0, to: 1 });
  expect(valid(after(gone, pieceActions.undone()))).toEqual(valid(state));
});

test('a zone at the edges of a flow is made and chosen', () => {
  const state = after(
    opened(),
    pieceActions.added({ list: 'forces', kind: 'clipFlow' }),
    pieceActions.edged('clipFlow'),
    pieceActions.edged('nothing'),
  );
  const { colliders } = valid(state);
  expect(colliders).toMatchObject([
    { name: 'Edge of Clip flow', kind: 'box', dials: { acts: 'zone', does: 'die' } },
  ]);
  expect(state.selection).toEqual({ list: 'colliders', id: colliders[0]!.id });
});

test('a dial can be filled by a map, keeping its range and its shape', () => {
  const spec = { type: 'number', min: 0, max: 10, varies: 'life' } as const;
  const over = [
    { x: 0, y: 0 },
    { x: 1, y: 1 },
  ];
  const lookup = { picture: 'noise' };
  const items = numberItems(spec, { feed: 'spread', from: 1, to: 4, over }, [], lookup).flat();
  const made = items.find((i) => i.title === 'Map')!.make();
  expect(made).toEqual({ feed: 'map', picture: 'noise', from: 1, to: 4, over });
  const again = numberItems(spec, made as MapFeed, []).flat();
  expect(again.filter((i) => i.chosen).map((i) => i.title)).toEqual([
    'Map',
    'Read live',
    'Shaped over life',
  ]);
  const frame = numberItems({ ...spec, varies: 'frame' }, 1, [], lookup).flat();
  expect(frame.some((i) => i.title === 'Map')).toBe(false);
  const colours = colourItems('#ffffff', [], lookup).flat();
  expect(colours.find((i) => i.title === 'Map')!.make()).toEqual({ feed: 'map', ...lookup });
});

test('a clip with a sound is either, one without is not', () => {
  const stored = { hash, name: 'a', file: 'a.mp4', bytes: new Blob(), added: 0, about: '' };
  expect(typesOf({ ...stored, type: 'clip', heard: true })).toEqual(['clip', 'sound']);
  expect(typesOf({ ...stored, type: 'clip' })).toEqual(['clip']);
  expect(typesOf({ ...stored, type: 'mesh' satisfies ReadFile['data']['type'] })).toEqual(['mesh']);
});
