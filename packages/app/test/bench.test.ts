import { kindOf } from '@vast-swarm/core/kinds';
import { makePart, makePiece, type Piece } from '@vast-swarm/core/piece';
import type { SoundExtent } from '../src/engine/hearing';
import { pieceActions, pieceReducer } from '../src/store/pieceSlice';
import { cornersOf, movedTo, widthFor, type Stages } from '../src/sheet/bench/envelope';
import { heightOf, rangeWith, valueAtHeight, HIGH } from '../src/sheet/bench/lanes';
import { tempoOfTaps } from '../src/sheet/bench/taps';
import { beatsIn } from '../src/strip/beats';
import { clipExtent, GRIPS, gripped, placesOf } from '../src/strip/trims';
import { panned, snapped, spacing, withFrame, wholeOf, zoomed } from '../src/strip/view';

/** What is dragged on the bench of a signal and on the timing strip, without the interface around it. */

test('taps give their tempo, whatever one of them is off; a pause begins anew', () => {
  let taps: number[] = [];
  let tempo: number | null = null;
  for (let i = 0; i < 9; i++) {
    ({ taps, tempo } = tempoOfTaps(taps, 20 + i * 0.5 + (i === 8 ? 0.06 : i % 2 ? 0.02 : -0.02)));
    expect(tempo === null).toBe(i < 2);
  }
  expect(Math.abs(tempo! - 120)).toBeLessThan(2.5);
  expect(tempoOfTaps(taps, 40)).toEqual({ taps: [40], tempo: null });
});

const stages: Stages = { attack: 0.1, hold: 0.2, decay: 0.3, sustain: 0.4, release: 0.5 };

test('a corner of the envelope that is put where it stands changes nothing, elsewhere its own stage', () => {
  const seconds = widthFor(stages);
  const corners = cornersOf(stages, seconds);
  corners.forEach((corner, i) => {
    for (const [key, value] of Object.entries(movedTo(i, corner, stages, seconds))) {
      expect(value).toBeCloseTo(stages[key as keyof Stages], 2);
    }
  });
  const second = corners[0][0] / 0.1;
  expect(movedTo(0, [second * 0.7, 0], stages, seconds)).toEqual({ attack: 0.7 });
  expect(movedTo(1, [0, 0], stages, seconds)).toEqual({ hold: 0 });
  expect(movedTo(2, [second, -50], stages, seconds)).toEqual({ decay: 0.7, sustain: 1 });
  expect(movedTo(3, [corners[2][0], 0], stages, seconds)).toEqual({ release: 0 });
  expect(corners[3][0]).toBeLessThanOrEqual(400);
});

test('a value and its height in a lane are one and the other', () => {
  const range = rangeWith([0.2, 3, -1], 4);
  expect(range).toEqual({ low: -1, high: 4 });
  for (const v of [-1, 0, 2.5, 4]) {
    expect(valueAtHeight(heightOf(v, range) / HIGH, range)).toBeCloseTo(v, 9);
  }
  expect(rangeWith([])).toEqual({ low: 0, high: 1 });
  expect(rangeWith([2, 2])).toEqual({ low: 1.5, high: 2.5 });
});

test('the strip zooms round a frame, down to single frames, and never beyond the piece', () => {
  const whole = wholeOf(719);
  const near = zoomed(whole, 4, 300, 719);
  expect(near.to - near.from).toBeCloseTo(719 / 4);
  expect((300 - near.from) / (near.to - near.from)).toBeCloseTo(300 / 719);
  const closest = zoomed(whole, 1e6, 717, 719);
  expect(closest.to - closest.from).toBe(8);
  expect(spacing(9)).toBe(1);
  expect(zoomed(near, 1e-6, 300, 719)).toEqual(whole);
  expect(panned(near, 1e6, 719).to).toBe(719);
  expect(panned(near, -1e6, 719).from).toBe(0);
  expect(withFrame(near, 320, 719)).toBe(near);
  expect(withFrame(near, 600, 719).to).toBe(719);
  expect(zoomed(wholeOf(3), 2, 1, 3)).toEqual(wholeOf(3));
});

test('beats fall where their tempo says, and draw what comes near', () => {
  const beat = (dials: object, on = true) =>
    ({ ...makePart('signals', 'beat', []), dials, on }) as never;
  const signals = [beat({ tempo: 90, first: 0.5 }), beat({ tempo: 60, first: 0 }, false)];
  expect(beatsIn(signals, 30, { from: 0, to: 60 })).toEqual([15, 35, 55]);
  expect(beatsIn(signals, 30, { from: 36, to: 54 })).toEqual([]);
  expect(snapped(33, [15, 35, 55], 2)).toBe(35);
  expect(snapped(32, [15, 35, 55], 2)).toBe(32);
});

const extent: SoundExtent = {
  whole: 10,
  start: 2,
  from: 1,
  to: 9,
  fadeIn: 0.5,
  fadeOut: 1,
  repeats: false,
};

test('handles of a sound: what is heard stays where it is', () => {
  const places = placesOf(extent);
  expect(places).toEqual({ from: 2, to: 10, fadeIn: 2.5, fadeOut: 9 });
  const at = (grip: (typeof GRIPS)[number], second: number) => gripped(grip, second, extent, 30);
  // A second of the piece has the same second of the sound, before and after.
  for (const second of [1.3, 2.7, 4]) {
    const { from, start } = at('from', second);
    expect(start! / 30 - from!).toBeCloseTo(extent.start - extent.from, 4);
  }
  // Not before its own beginning, nor behind its end.
  expect(at('from', -5)).toEqual({ from: 0, start: 30 });
  expect(at('from', 50).from).toBeLessThan(9);
  expect(at('to', 5)).toEqual({ to: 4 });
  expect(at('to', 50)).toEqual({ to: 0 });
  expect(at('to', 0).to).toBeCloseTo(1.02);
  expect(at('fadeIn', 4)).toEqual({ fadeIn: 2 });
  expect(at('fadeIn', 50)).toEqual({ fadeIn: 7 });
  expect(at('fadeOut', 4)).toEqual({ fadeOut: 6 });
  expect(at('fadeOut', 20)).toEqual({ fadeOut: 0 });
});

test.each([1, 2, 0.5])('a clip at %d times its speed is trimmed where it is seen', (speed) => {
  const { strip } = kindOf('pictures', 'played');
  const dials = { start: 45, from: 1, to: 9, speed };
  const extent = clipExtent(dials, strip!, { times: Float64Array.of(0, 5, 12) }, 30)!;
  // Eight seconds of it, from the second 1.5 of the piece on.
  expect(placesOf(extent)).toMatchObject({ from: 1.5, to: 1.5 + 8 / speed });
  const seen = (second: number, d: { start: number; from: number }): number =>
    d.from + (second - d.start / 30) * speed;
  const cut = { ...dials, ...gripped('from', 2.5, extent, 30) };
  expect(cut.start).toBe(75);
  // The same second of it at the same second of the piece, before and after.
  expect(seen(3, cut)).toBeCloseTo(seen(3, dials), 4);
  expect(gripped('to', 1.5 + 3 / speed, extent, 30).to).toBeCloseTo(4, 4);
  expect(gripped('to', 1e6, extent, 30)).toEqual({ to: 0 });
  expect(gripped('from', -1e6, extent, 30).from).toBeCloseTo(0, 1);
  expect(
    clipExtent({ ...dials, speed: -speed }, strip!, { times: Float64Array.of(0, 5) }, 30),
  ).toBeNull();
});

/** A wave and a level that feed a force, a colour, a formula and a strike. */
function fedPiece(): Piece {
  const piece = makePiece('Fed');
  const signal = (kind: string, dials: object = {}) => {
    const part = makePart('signals', kind, piece.signals);
    Object.assign(part.dials, dials);
    piece.signals.push(part);
    return part;
  };
  signal('wave');
  signal('level');
  signal('strike', { signal: 'wave' });
  signal('formula', { text: '1 + 2 * signal(wave)' });
  const wind = makePart('forces', 'wind', []);
  wind.dials.speed = { feed: 'signal', signal: 'wave', from: 1, to: 3 };
  wind.dials.direction = [0, { feed: 'signal', signal: 'wave', from: 0, to: 1 }, 0];
  piece.forces.push(wind);
  return piece;
}

test('dials that follow a signal follow another one in one step, and back', () => {
  const opened = pieceReducer(undefined, pieceActions.opened({ id: 'x', piece: fedPiece() }));
  const paths = [
    ['forces', 0, 'dials', 'speed'],
    ['forces', 0, 'dials', 'direction'],
    ['signals', 3, 'dials', 'text'],
  ];
  const swap = { paths, signal: 'wave', other: 'level', name: 'Level' };
  const after = pieceReducer(opened, pieceActions.swapped(swap));
  const { forces, signals } = after.piece!;
  expect(forces[0]!.dials.speed).toEqual({ feed: 'signal', signal: 'level', from: 1, to: 3 });
  expect(forces[0]!.dials.direction).toMatchObject([0, { signal: 'level' }, 0]);
  expect(signals[3]!.dials.text).toBe("1 + 2 * signal('level')");
  // What was not chosen stays.
  expect(signals[2]!.dials.signal).toBe('wave');
  expect(after.past.map((s) => s.label)).toEqual(['Follow Level']);
  expect(pieceReducer(after, pieceActions.undone()).piece).toEqual(opened.piece);
});

test('a take is in the stock and counts, in one step', () => {
  const piece = makePiece('Live');
  piece.sounds.push(makePart('sounds', 'live', []));
  const opened = pieceReducer(undefined, pieceActions.opened({ id: 'x', piece }));
  const source = { file: 'a.wav', hash: 'c'.repeat(16) };
  const entry = { id: 'take', name: 'Take', type: 'sound' as const, source };
  const recorded = pieceActions.recorded({ list: 'sounds', id: 'live', entry, start: 12 });
  const after = pieceReducer(opened, recorded);
  expect(after.piece!.sounds[0]!.dials).toMatchObject({ take: 'take', start: 12 });
  expect(after.piece!.stock).toContainEqual(entry);
  expect(pieceReducer(after, pieceActions.undone()).piece).toEqual(opened.piece);
});
