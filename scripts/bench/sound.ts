import { HEARD_AHEAD, LiveSound, peaksOf, type Sound } from '@vast-swarm/core/stock';
import { makePart, makePiece, type Piece } from '@vast-swarm/core/piece';
import { Scene } from '@vast-swarm/core/plan';
import type { DialValues } from '@vast-swarm/core/kinds';
import { best, report } from './report';

/** What hearing costs: five minutes of stereo, and the tables of many signals. */

const MINUTES = 5;
const RATE = 48_000;
const HASH = 'aaaaaaaaaaaaaaaa';

function chord(seconds: number): Sound {
  const length = seconds * RATE;
  const channels = [220, 331].map((low) =>
    Int16Array.from({ length }, (_, i) => {
      const t = i / RATE;
      return (
        9000 * Math.sin(2 * Math.PI * low * t) + 9000 * Math.sin(13 * low * t) * Math.cos(3 * t)
      );
    }),
  );
  return { type: 'sound', rate: RATE, channels };
}

function listening(...signals: [kind: string, dials: DialValues][]): Piece {
  const piece = makePiece('Hearing');
  piece.stock = [
    { id: 'file', name: 'File', type: 'sound', source: { file: 'a.wav', hash: HASH } },
  ];
  piece.sounds = [{ ...makePart('sounds', 'played', []), id: 'heard' }];
  piece.sounds[0]!.dials.sound = 'file';
  for (const [kind, dials] of signals) {
    const part = makePart('signals', kind, piece.signals);
    Object.assign(part.dials, dials);
    if ('sound' in part.dials) part.dials.sound = 'heard';
    piece.signals.push(part);
  }
  return piece;
}

/** Works out all values of a piece, frame by frame. */
function work(piece: Piece, sound: Sound, frames: number): void {
  const scene = new Scene(piece, new Map([[HASH, sound]]));
  for (const [, at] of scene.signals) {
    for (let frame = 0; frame < frames; frame++) at((frame + 1) / 30);
  }
}

const levels = [100, 400, 1600, 6400].map((low): [string, DialValues] => [
  'level',
  { low, high: low * 2 },
]);
const all = listening(...levels, ['bands', { count: 8 }]);
const whole = chord(60 * MINUTES);
// What is found of a sound is kept with it: each time another.
const heard = best(3, () => work(all, { ...whole }, 60 * MINUTES * 30));
const name = `${String(MINUTES)} minutes of stereo sound, 4 levels and 8 bands, against how long it lasts`;
report(name, heard, 'ms', MINUTES * 60_000);

const short = chord(1);
const many = listening(
  ...Array.from({ length: 20 }, (_, i): [string, DialValues] => {
    const signal = i > 0 ? 'beat' : '';
    if (i % 5 === 0) return ['beat', { tempo: 60 + i }];
    if (i % 5 === 1) return ['strike', { signal, threshold: 0.5 }];
    if (i % 5 === 2) return ['follow', { signal, rise: 0.1, fall: 0.3 }];
    return i % 5 === 3 ? ['tally', { signal }] : ['wave', {}];
  }),
);
report(
  '20 signals over 600 frames',
  best(5, () => work(many, short, 600)),
  'ms',
);

/** A second of what comes in live, frame by frame, in four levels and eight bands: milliseconds a frame. */
function live(): number {
  const input = new LiveSound(RATE, 0);
  const driven = { ...all, sounds: [{ ...makePart('sounds', 'live', []), id: 'heard' }] };
  const scene = new Scene(driven, new Map(), new Map([['heard', input]]));
  const [left] = whole.channels as [Int16Array];
  const took: number[] = [];
  for (let frame = 0; frame < 90; frame++) {
    const start = performance.now();
    const end = Math.ceil(((frame + 1) / 30 + HEARD_AHEAD) * RATE);
    input.append(left.slice(input.length, end));
    for (const [, at] of scene.signals) at((frame + 1) / 30);
    took.push(performance.now() - start);
  }
  return took.sort((a, b) => a - b)[45]!;
}
report('a frame of live analysis, 4 levels and 8 bands (median of 90)', live(), 'ms', 1);

const hour: Sound = { type: 'sound', rate: 8000, channels: [new Int16Array(3600 * 8000)] };
for (let i = 0; i < hour.channels[0]!.length; i++) hour.channels[0]![i] = (i * 7919) % 20_000;
peaksOf(hour, 0, 3600, 800);
const zoomed = best(5, () => {
  for (const seconds of [3600, 600, 60, 4]) peaksOf(hour, 1000, 1000 + seconds, 800);
});
report("an hour's waveform zoomed four times, found once", zoomed, 'ms', 50);
