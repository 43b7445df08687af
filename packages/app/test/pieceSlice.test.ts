import { DEMO_SHOW } from '@vast-swarm/core/demo';
import { made, type Cloud } from '@vast-swarm/core/stock';
import {
  gathered,
  makeChoice,
  makePart,
  parsePiece,
  pasted,
  pieceText,
  swarmFrom,
  variationOf,
  type Piece,
} from '@vast-swarm/core/piece';
import { spacingOf } from '@vast-swarm/core/stock/places/spacing';
import { wornPiece } from '../../../tests/support/wornWays';
import { readersOf } from '../src/store/pieceEdits';
import type { PieceState } from '../src/store/history';
import { pieceActions, pieceReducer } from '../src/store/pieceSlice';

const { opened, set, settled, undone, redone } = pieceActions;
type Action = Parameters<typeof pieceReducer>[1];

function start(change: (piece: Piece) => void = () => undefined): PieceState {
  const piece = wornPiece((p) => {
    p.signals = [makePart('signals', 'wave', [])];
    p.swarms[0]!.dials.size = { feed: 'signal', signal: 'wave', from: 0.1, to: 0.4 };
    change(p);
  });
  return pieceReducer(undefined, opened({ id: 'a', piece }));
}

const run = (state: PieceState, ...actions: Action[]): PieceState =>
  actions.reduce((s, action) => pieceReducer(s, action), state);

const rate = (value: number, merge?: string): Action =>
  set({ path: ['swarms', 0, 'dials', 'rate'], value, label: 'Rate', merge });

function fromFile(): Action {
  const entry = { id: 'quay', name: 'Quay', type: 'cloud' as const, source: { made: 'lamps' } };
  return pieceActions.bornFrom({ entry, swarm: swarmFrom('quay', made('lamps'), [])! });
}

test('a frame rate that was typed with a few digits is the fraction that is meant', () => {
  const typed = set({ path: ['frame', 'rate'], value: 29.97, label: 'Frame rate' });
  expect(run(start(), typed).piece!.frame.rate).toBe(30000 / 1001);
});

const { added, duplicated, moved, played, putForward, removed, takenBack } = pieceActions;
const RATE = ['swarms', 0, 'dials', 'rate'];
const FORWARD = putForward({ path: RATE });
const FIRED = set({
  path: ['cues', 0, 'dials', 'sets'],
  label: 'Sets',
  value: [{ control: 'motes-rate', to: 5 }],
});
const CUED = [FORWARD, added({ list: 'cues', kind: 'cue' }), FIRED];

const EDITS: [string, Action[]][] = [
  ['a dial put forward', [FORWARD]],
  ['a dial taken back', [FORWARD, takenBack('swarms.motes.rate')]],
  [
    'one control for two dials',
    [FORWARD, putForward({ path: ['swarms', 1, 'dials', 'rate'], control: 'motes-rate' })],
  ],
  ['a switch put forward', [putForward({ path: ['forces', 0, 'on'] })]],
  ['a colour put forward', [putForward({ path: ['swarms', 0, 'dials', 'colour'] })]],
  ['a choice put forward', [putForward({ path: ['swarms', 0, 'dials', 'when'] })]],
  [
    'a part of a vector put forward',
    [putForward({ path: ['swarms', 0, 'emitter', 'dials', 'centre', 1] })],
  ],
  ['a cue that sets a control', CUED],
  ['a control that a cue sets removed', [...CUED, removed({ list: 'controls', id: 'motes-rate' })]],
  ['a held swarm removed', [...CUED, removed({ list: 'swarms', id: 'motes' })]],
  [
    'a control under a played one removed',
    [
      ...CUED,
      played([
        { at: 1, control: 'motes-rate', to: 3 },
        { at: 2, cue: 'cue' },
      ]),
      removed({ list: 'cues', id: 'cue' }),
    ],
  ],
  ['a control doubled', [FORWARD, duplicated({ list: 'controls', id: 'motes-rate' })]],
  [
    'cues in another order',
    [...CUED, added({ list: 'cues', kind: 'cue' }), moved({ list: 'cues', from: 0, to: 1 })],
  ],

  ['a dial', [rate(7)]],
  ['a part added', [pieceActions.added({ list: 'forces', kind: 'gravity' })]],
  ['a swarm added', [pieceActions.added({ list: 'swarms', kind: 'disc' })]],
  ['a force removed', [pieceActions.removed({ list: 'forces', id: 'ways' })]],
  ['a swarm removed', [pieceActions.removed({ list: 'swarms', id: 'motes' })]],
  ['a signal removed', [pieceActions.removed({ list: 'signals', id: 'wave' })]],
  ['a swarm doubled', [pieceActions.duplicated({ list: 'swarms', id: 'sparks' })]],
  ['a follower', [pieceActions.duplicated({ list: 'swarms', id: 'motes', following: true })]],
  ['another order', [pieceActions.moved({ list: 'swarms', from: 0, to: 1 })]],
  [
    'another kind',
    [pieceActions.kindChanged({ path: ['swarms', 0, 'emitter'], shelf: 'emitters', kind: 'box' })],
  ],
  ['a swarm shown whole', [pieceActions.added({ list: 'swarms', kind: 'lattice' })]],
  [
    'a kind shown whole',
    [
      pieceActions.kindChanged({
        path: ['swarms', 0, 'emitter'],
        shelf: 'emitters',
        kind: 'cloud',
      }),
    ],
  ],
  ['a swarm from a file', [fromFile()]],
  ['shown alone', [pieceActions.alone({ list: 'swarms', id: 'motes' })]],
  [
    'a new wave',
    [pieceActions.signalled({ path: ['swarms', 1, 'dials', 'size'], from: 0, to: 1 })],
  ],
  ['a take', [pieceActions.added({ list: 'signals', kind: 'byHand' })]],
];

test.each(EDITS)('%s can be undone to the very piece, and redone', (_, actions) => {
  const before = start();
  const after = run(before, ...actions);
  expect(after.piece).not.toEqual(before.piece);
  let back = after;
  while (back.past.length > 0) back = run(back, undone());
  expect(back.piece).toEqual(before.piece);
  let again = back;
  while (again.future.length > 0) again = run(again, redone());
  expect(again.piece).toEqual(after.piece);
});

test('all edits in a row, taken back one by one, pass through every piece there was', () => {
  let state = start();
  const pieces = [state.piece];
  // What is removed last cannot be missed by those before.
  const gone = (name: string): boolean => name.includes('removed');
  const inOrder = [...EDITS].sort(([a], [b]) => Number(gone(a)) - Number(gone(b)));
  for (const action of inOrder.flatMap(([, actions]) => actions)) {
    state = run(state, action);
    if (state.past.length === pieces.length) pieces.push(state.piece);
  }
  expect(pieces.length).toBeGreaterThan(9);
  for (const piece of pieces.reverse()) {
    expect(state.piece).toEqual(piece);
    state = run(state, undone());
  }
});

test('a drag is one step until it settles, and another dial is a step of its own', () => {
  let state = run(start(), rate(1, 'r'), rate(2, 'r'), rate(3, 'r'));
  expect(state.past).toHaveLength(1);
  state = run(state, settled(), rate(4, 'r'));
  expect(state.past).toHaveLength(2);
  state = run(state, undone());
  expect(state.piece!.swarms[0]!.dials.rate).toBe(3);
  state = run(state, rate(5, 'r'));
  expect(state.future).toEqual([]);
  expect(run(state, rate(5, 'r')).past).toBe(state.past);
});

test('what names a part that goes is cleared with it', () => {
  const withoutSwarm = run(start(), pieceActions.removed({ list: 'swarms', id: 'motes' }));
  expect(withoutSwarm.piece!.forces[0]!.dials.swarm).toBe('');
  expect(withoutSwarm.piece!.influence).toEqual({ ways: {}, turn: { sparks: 0 } });
  const withoutForce = run(start(), pieceActions.removed({ list: 'forces', id: 'turn' }));
  expect(withoutForce.piece!.influence).toEqual({ ways: { motes: 0 } });
  const withoutSignal = run(start(), pieceActions.removed({ list: 'signals', id: 'wave' }));
  expect(withoutSignal.piece!.swarms[0]!.dials.size).toBe(0.4);
});

test('a copy is felt as the first is, and is selected', () => {
  const state = run(start(), pieceActions.duplicated({ list: 'swarms', id: 'motes' }));
  const [, copy] = state.piece!.swarms;
  expect(state.selection).toEqual({ list: 'swarms', id: copy!.id });
  expect(copy!.id).not.toBe('motes');
  expect(state.piece!.influence.ways![copy!.id]).toBe(0);
});

test('a follower has what its leader has until it is changed, and keeps it when the leader goes', () => {
  let state = run(
    start(),
    pieceActions.duplicated({ list: 'swarms', id: 'motes', following: true }),
    set({ path: ['swarms', 1, 'dials', 'light'], value: 9, label: 'Light' }),
    rate(123),
  );
  expect(state.piece!.swarms[1]!.own).toEqual(['light']);
  state = run(state, pieceActions.removed({ list: 'swarms', id: 'motes' }));
  const [left] = state.piece!.swarms;
  expect(left!.follows).toBeUndefined();
  expect([left!.dials.rate, left!.dials.light]).toEqual([123, 9]);
});

test('a kind changed for another keeps the dials that both have', () => {
  const box: Action = pieceActions.kindChanged({
    path: ['swarms', 0, 'emitter'],
    shelf: 'emitters',
    kind: 'box',
  });
  const centre: Action = set({
    path: ['swarms', 0, 'emitter', 'dials', 'centre'],
    value: [1, 2, 3],
    label: 'Middle',
  });
  const { emitter } = run(start(), centre, box).piece!.swarms[0]!;
  expect(emitter.kind).toBe('box');
  expect(emitter.dials.centre).toEqual([1, 2, 3]);
});

test('a piece that is closed and opened as it was has its steps still; a changed one has none', () => {
  const state = run(start(), rate(7), pieceActions.closed());
  const piece = state.left!.piece!;
  expect(state.piece).toBeNull();
  const reopened = run(state, opened({ id: 'a', piece }));
  expect(run(reopened, undone()).piece).toEqual(start().piece);
  // A view that is mounted twice closes twice.
  const twice = run(state, pieceActions.closed());
  expect(run(twice, opened({ id: 'a', piece }), undone()).piece).toEqual(start().piece);
  const other = { ...piece, seed: 99 };
  expect(run(state, opened({ id: 'a', piece: other })).past).toEqual([]);
});

test('a take is kept with its signal, and nothing else is touched', () => {
  const recording = start((p) => p.signals.push(makePart('signals', 'byHand', p.signals)));
  const take = { rate: 30, first: 2, values: [0.5, 0.75] };
  const state = run(recording, pieceActions.took({ signal: 'byHand', take }));
  expect(state.piece!.signals[1]!.dials.take).toEqual(take);
  expect(state.piece!.signals[0]).toBe(recording.piece!.signals[0]);
  expect(run(recording, pieceActions.took({ signal: 'wave', take })).piece).toBe(recording.piece);
});

test('what is born from coloured points begins with all of them, as they are in the file', () => {
  const { piece } = run(start(), fromFile());
  const { dials, emitter, launch, bodies } = piece!.swarms.at(-1)!;
  expect(emitter).toMatchObject({ kind: 'cloud', dials: { cloud: 'quay' } });
  expect(dials).toMatchObject({
    when: 'once',
    lasts: 'ever',
    opacity: 1,
    colour: { feed: 'place' },
  });
  expect(launch.dials.speed).toBe(0);
  expect(bodies[0]!.dials.mode).toBe('opaque');
  const spacing = spacingOf((made('lamps') as Cloud).positions);
  expect(dials.size).toBeGreaterThan(spacing);
  expect(dials.size).toBeLessThan(2 * spacing);
});

test.each([
  ['buoy', 'mesh'],
  ['chart', 'picture'],
  ['harbourMark', 'outline'],
  ['lamps', 'cloud'],
])('of %s a swarm is born from its %s', (name, kind) => {
  const swarm = swarmFrom('thing', made(name), [])!;
  expect(swarm.emitter.kind).toBe(kind);
  expect(swarm.emitter.dials[kind]).toBe('thing');
});

test('a swarm that goes from all places of a lattice to a sphere is born steadily again', () => {
  const emitter = { path: ['swarms', 0, 'emitter'], shelf: 'emitters' as const };
  const lattice = run(start(), pieceActions.kindChanged({ ...emitter, kind: 'lattice' }));
  expect(lattice.piece!.swarms[0]!.dials).toMatchObject({ when: 'once', lasts: 'ever' });
  const sphere = run(lattice, pieceActions.kindChanged({ ...emitter, kind: 'sphere' }));
  expect(sphere.piece!.swarms[0]!.dials).toMatchObject({ when: 'steadily', lasts: 'time' });
});

test('what is made to live for ever is not left where it fades in', () => {
  const fading = start((piece) => {
    const { dials } = piece.swarms[1]!;
    const over = [
      { x: 0, y: 0 },
      { x: 0.5, y: 1 },
    ];
    dials.opacity = { feed: 'fixed', value: 0.7, over };
    dials.size = { feed: 'spread', from: 0.1, to: 0.2, over };
    dials.light = { feed: 'fixed', value: 2, over: [{ x: 0, y: 0.5 }] };
  });
  const path = ['swarms', 1, 'dials', 'lasts'];
  const state = run(fading, set({ path, value: 'ever', label: 'How long' }));
  const { dials } = state.piece!.swarms[1]!;
  expect(dials.opacity).toBe(0.7);
  expect(dials.size).toEqual({ feed: 'spread', from: 0.1, to: 0.2 });
  expect(dials.light).toMatchObject({ value: 2 });
  expect(run(state, undone()).piece).toEqual(fading.piece);
});

/** A piece with a sound, and signals on it and on each other. */
function sounding(): PieceState {
  const entry = { id: 'fog', name: 'Fog', type: 'sound' as const, source: { made: 'fogSignal' } };
  return run(
    start(),
    pieceActions.heard(entry),
    pieceActions.added({ list: 'signals', kind: 'bands' }),
    pieceActions.added({ list: 'signals', kind: 'strike' }),
    pieceActions.added({ list: 'signals', kind: 'tally' }),
  );
}

test('a sound comes with its thing of the stock, and new signals hang on what is selected', () => {
  const { piece, selection } = sounding();
  const [sound] = piece!.sounds;
  expect(sound).toMatchObject({ name: 'Fog', dials: { sound: 'fog' } });
  expect(selection).toEqual({ list: 'signals', id: 'tally' });
  const [, bands, strike, tally] = piece!.signals;
  expect(bands!.dials.sound).toBe(sound!.id);
  expect(strike!.dials.signal).toBe('bands');
  expect(tally!.dials).toMatchObject({ signal: 'strike', reset: '' });
});

test('what named a signal or a sound that is removed names none, and the piece stays whole', () => {
  const state = run(
    sounding(),
    pieceActions.added({ list: 'signals', kind: 'formula' }),
    set({
      path: ['signals', 4, 'dials', 'text'],
      value: "1 + signal('bands.2') * signal(strike)",
      label: 'Formula',
    }),
    set({
      path: ['swarms', 0, 'dials', 'rate'],
      value: { feed: 'signal', signal: 'bands.2', from: 0, to: 90 },
      label: 'Rate',
    }),
    set({
      path: ['swarms', 0, 'dials', 'colour'],
      value: {
        feed: 'gradient',
        by: 'signal',
        signal: 'bands.3',
        text: 'speed / 3',
        stops: [
          { at: 0, colour: '#000000' },
          { at: 1, colour: '#ffffff' },
        ],
      },
      label: 'Colour',
    }),
  );
  const without = run(
    state,
    pieceActions.removed({ list: 'signals', id: 'bands' }),
    pieceActions.removed({ list: 'sounds', id: state.piece!.sounds[0]!.id }),
  );
  const { signals, swarms } = without.piece!;
  expect(signals.find((s) => s.id === 'strike')!.dials.signal).toBe('');
  expect(signals.find((s) => s.id === 'formula')!.dials.text).toBe('1 + 0 * signal(strike)');
  expect(swarms[0]!.dials.rate).toBe(90);
  expect(swarms[0]!.dials.colour).toMatchObject({ by: 'life' });
  expect(() => parsePiece(pieceText(without.piece!))).not.toThrow();
  expect(run(without, undone(), undone()).piece).toEqual(state.piece);
});

test('a performer takes over from another all that reads their joints, in one step', () => {
  const dancers = DEMO_SHOW.pieces.find((p) => p.id === 'pier-dancers')!.piece;
  const [old] = dancers.performers;
  const fresh = { ...makePart('performers', 'live', []), id: 'fresh' };
  const piece = { ...dancers, performers: [...dancers.performers, fresh] };
  const before = pieceReducer(undefined, opened({ id: 'b', piece }));
  const after = run(before, pieceActions.recast({ from: old!.id, to: 'fresh' }));
  expect(readersOf(piece, old!.id).length).toBeGreaterThan(3);
  expect(readersOf(after.piece!, old!.id)).toEqual([]);
  expect(readersOf(after.piece!, 'fresh')).toEqual(readersOf(piece, old!.id));
  expect(parsePiece(pieceText(after.piece!))).toEqual(after.piece);
  expect(run(after, undone()).piece).toEqual(piece);
});

test('a variation is taken in one step, undone, and taken again the same', () => {
  const before = start();
  const piece = variationOf(before.piece!, 4, { reach: 0.8, groups: ['motion', 'look', 'colour'] });
  const take = pieceActions.varied({ piece, label: 'Variation 4' });
  const taken = run(before, take);
  expect(taken.piece).toEqual(piece);
  expect(taken.past.map((s) => s.label)).toEqual(['Variation 4']);
  const back = run(taken, undone());
  expect(back.piece).toEqual(before.piece);
  const again = variationOf(back.piece!, 4, { reach: 0.8, groups: ['motion', 'look', 'colour'] });
  expect(run(back, pieceActions.varied({ piece: again, label: 'Variation 4' })).piece).toEqual(
    piece,
  );
});

test('letters that are typed are one step until they settle', () => {
  const typed = (words: string): Action =>
    pieceActions.stocked({
      entry: { id: 'title', name: 'Title', type: 'outline', source: { words } },
    });
  const path = ['swarms', 0, 'emitter', 'dials', 'outline'];
  const first = pieceActions.stocked({
    entry: { id: 'title', name: 'Title', type: 'outline', source: { words: 'A' } },
    path,
  });
  let state = run(start(), first, typed('AB'), typed('ABC'), settled(), typed('ABCD'));
  const words = (): unknown => state.piece!.stock.find((s) => s.id === 'title')?.source;
  expect(state.past).toHaveLength(3);
  state = run(state, undone());
  expect(words()).toEqual({ words: 'ABC' });
  state = run(state, undone());
  expect(words()).toEqual({ words: 'A' });
});

test('parts that are selected together are turned together, and undone in one step', () => {
  const { alsoSelected, selected } = pieceActions;
  const before = run(
    start((p) => {
      p.swarms.push({ ...structuredClone(p.swarms[0]!), id: 'third', name: 'Third' });
    }),
    selected({ list: 'swarms', id: 'motes' }),
    alsoSelected({ list: 'swarms', id: 'third' }),
  );
  const turned = run(before, set({ path: RATE, value: 77, label: 'Rate' }));
  const rates = (state: PieceState): unknown[] => state.piece!.swarms.map((s) => s.dials.rate);
  const [, sparks] = before.piece!.swarms;
  expect(rates(turned)).toEqual([77, sparks!.dials.rate, 77]);
  expect(rates(run(turned, undone()))).toEqual(rates(before));
  // A dial of a part that is not selected is its own; and so is a name.
  const other = ['swarms', 1, 'dials', 'rate'];
  expect(rates(run(before, set({ path: other, value: 5, label: 'Rate' })))[2]).not.toBe(5);
  const named = run(before, set({ path: ['swarms', 0, 'name'], value: 'One', label: 'Rename' }));
  expect(named.piece!.swarms[2]!.name).toBe('Third');
  // Taken out again, it is left alone.
  const alone = run(before, alsoSelected({ list: 'swarms', id: 'third' }));
  expect(rates(run(alone, set({ path: RATE, value: 9, label: 'Rate' })))[2]).not.toBe(9);
});

test('dials of another kind are not turned along', () => {
  const before = run(
    start((p) => {
      p.swarms.push({ ...structuredClone(p.swarms[0]!), id: 'third', name: 'Third' });
      p.swarms[2]!.emitter = makeChoice('emitters', 'point');
    }),
    pieceActions.selected({ list: 'swarms', id: 'motes' }),
    pieceActions.alsoSelected({ list: 'swarms', id: 'third' }),
  );
  const path = ['swarms', 0, 'emitter', 'dials', 'radius'];
  const turned = run(before, set({ path, value: 3, label: 'Radius' }));
  expect(turned.piece!.swarms[2]!.emitter).toEqual(before.piece!.swarms[2]!.emitter);
});

test('pasted parts are one step, and selected', () => {
  const before = start();
  const parts = gathered(before.piece!, [{ list: 'swarms', id: 'motes' }], 'Motes')!;
  const { piece, added } = pasted(before.piece!, parts);
  const after = run(before, pieceActions.pasted({ piece, added, label: 'Paste Motes' }));
  expect(after.selection).toMatchObject({ list: 'swarms', id: added[0]!.id });
  expect(run(after, undone()).piece).toEqual(before.piece);
});
