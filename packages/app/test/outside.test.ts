import { DEMO_SHOW } from '@vast-swarm/core/demo';
import { learntActs, offerOf } from '@vast-swarm/core/formats';
import type { Piece } from '@vast-swarm/core/piece';
import { movedBy } from '../src/control/midi';
import { boundTo } from '../src/control/boundKeys';

function barge(change: (piece: Piece) => void = () => undefined): Piece {
  const { piece } = DEMO_SHOW.pieces.find((p) => p.id === 'ember-barge')!;
  const copy = structuredClone(piece);
  change(copy);
  return copy;
}

test('messages of MIDI say what is moved, and where it stands', () => {
  expect(movedBy([0xb0, 7, 127])).toEqual({ source: 'midi 1 control 7', value: 1 });
  expect(movedBy([0xbf, 64, 0])).toEqual({ source: 'midi 16 control 64', value: 0 });
  expect(movedBy([0x92, 36, 90])).toEqual({ source: 'midi 3 note 36', value: 1 });
  // Let go by either of the two ways there are.
  expect(movedBy([0x82, 36, 90])).toEqual({ source: 'midi 3 note 36', value: 0 });
  expect(movedBy([0x92, 36, 0])).toEqual({ source: 'midi 3 note 36', value: 0 });
  for (const other of [[0xe0, 1, 2], [0xf8], [], [0xc0, 4]]) expect(movedBy(other)).toBeNull();
});

test('what was learnt moves controls over their range, switches, and fires cues when it is pressed', () => {
  const piece = barge((p) => {
    for (const part of [p.controls[3]!, p.controls[4]!, p.cues[0]!]) part.dials.learnt = 'osc /a';
  });
  const acts = (value: number, before: number): unknown[] =>
    learntActs(piece, { source: 'osc /a', value }, before);
  expect(acts(0.75, 0)).toEqual([
    { control: 'wind', to: 2 },
    { control: 'smoke', to: true },
    { cue: 'kindle' },
  ]);
  // Held it fires nothing more; beyond its end it is kept there.
  expect(acts(3, 0.75)).toEqual([
    { control: 'wind', to: 4 },
    { control: 'smoke', to: true },
  ]);
  expect(learntActs(piece, { source: 'osc /b', value: 1 }, 0)).toEqual([]);
  piece.controls[3]!.on = false;
  expect(acts(0, 1)).toEqual([{ control: 'smoke', to: false }]);
  expect(offerOf(piece).learnt).toEqual(['osc /a', 'osc /a', 'osc /a']);
});

test('what is offered has ranges, units and options, and leaves out what is off', () => {
  const { controls, cues } = offerOf(barge((p) => (p.cues[1]!.on = false)));
  expect(controls.map((c) => c.id)).toEqual(['spread', 'sparks', 'flame', 'wind', 'smoke']);
  expect(controls[3]).toEqual({
    id: 'wind',
    name: 'Wind',
    holds: 'number',
    group: 'Air',
    unit: 'm/s',
    low: -4,
    high: 4,
  });
  expect(cues.map((c) => c.id)).not.toContain('open');
});

test('keys of the piece: cues and controls that are held, in either case', () => {
  expect(boundTo(barge(), '3')).toEqual({ cues: ['gust'], controls: [] });
  expect(boundTo(barge(), 'X')).toEqual({ cues: [], controls: [{ id: 'sparks', value: 1 }] });
  expect(boundTo(barge(), 'q')).toBeNull();
  const both = barge((p) => {
    p.cues[0]!.dials.key = 'x';
    p.cues[1]!.dials.key = 'F2';
  });
  expect(boundTo(both, 'x')).toEqual({ cues: ['kindle'], controls: [{ id: 'sparks', value: 1 }] });
  expect(boundTo(both, 'F2')).toEqual({ cues: ['open'], controls: [] });
});
