import { fedBy, parsePiece, pieceText } from '@vast-swarm/core/piece';
import { formulaMaps, formulaWith, LiveTake } from '@vast-swarm/core/feeds';
import { Scene } from '@vast-swarm/core/plan';
import type { DialValues } from '@vast-swarm/core/kinds';
import { smallPiece } from '../../../tests/support/pieces';
import { piece, scene } from './support/tones';

/** Signals that are made from others, against closed forms. */

const keys = (...points: [number, number][]): DialValues => ({
  keys: points.map(([at, value]) => ({ at, value, ease: 'straight' as const })),
});
/** Up to 1 and down again at once, at a time and so many seconds later. */
const gate = (from: number, to: number): DialValues =>
  keys([0, 0], [from, 0], [from + 1e-6, 1], [to, 1], [to + 1e-6, 0]);

const ENVELOPE = { attack: 0.2, hold: 0.1, decay: 0.4, sustain: 0.3, release: 0.5 };

test('the five stages of an envelope', () => {
  const made = piece([
    ['keyframes', 'k', gate(1, 2.5)],
    ['strike', 's', { signal: 'k', ...ENVELOPE, low: 10, high: 20 }],
    ['strike', 'late', { signal: 'k', delay: 0.7, ...ENVELOPE }],
  ]);
  const { signal } = { signal: (id: string, t: number) => scenes.signal(id, t) };
  const scenes = scene(made);
  const expected: [number, number][] = [
    ...([
      [0.5, 0],
      [1.1, 0.5],
      [1.2, 1],
      [1.25, 1],
      [1.3, 1],
    ] as [number, number][]),
    ...([
      [1.5, 0.65],
      [1.7, 0.3],
      [2.4, 0.3],
      [2.75, 0.15],
      [3, 0],
      [9, 0],
    ] as [number, number][]),
  ];
  for (const [time, value] of expected) {
    expect(signal('s', time)).toBeCloseTo(10 + 10 * value, 3);
    expect(signal('late', time + 0.7)).toBeCloseTo(value, 3);
  }
});

test('a strike fires again or waits, and not too soon', () => {
  // Over the threshold at 1, 1.2, 1.4 … 2.8 s, a tenth of a second each.
  const points: [number, number][] = [[0, 0]];
  for (let i = 0; i < 10; i++) {
    const at = 1 + i * 0.2;
    points.push([at, 0], [at + 1e-6, 1], [at + 0.1, 1], [at + 0.1 + 1e-6, 0]);
  }
  const envelope = { attack: 0, hold: 0, decay: 0.5, sustain: 0, release: 0 };
  const made = piece([
    ['keyframes', 'k', keys(...points)],
    ['strike', 'again', { signal: 'k', ...envelope, least: 0 }],
    ['strike', 'once', { signal: 'k', ...envelope, least: 0, fires: 'once' }],
    ['strike', 'seldom', { signal: 'k', ...envelope, least: 0.75 }],
  ]);
  const scenes = scene(made);
  const fired = (id: string): number[] => {
    const found: number[] = [];
    for (let t = 0.9; t < 3.2; t += 0.005) {
      if (scenes.signal(id, t + 0.005) > scenes.signal(id, t) + 0.05) found.push(t + 0.005);
    }
    return found.map((t) => Math.round((t - 1) / 0.2));
  };
  expect(fired('again')).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8, 9]);
  expect(fired('once')).toEqual([0, 3, 6, 9]);
  expect(fired('seldom')).toEqual([0, 4, 8]);
});

test('a beat in all its shapes, with swing', () => {
  const common = { tempo: 90, first: 0.25 };
  const made = piece([
    ['beat', 'pulse', { ...common, width: 0.25 }],
    ['beat', 'saw', { ...common, shape: 'saw' }],
    ['beat', 'triangle', { ...common, shape: 'triangle', every: 2 }],
    ['beat', 'steps', { ...common, shape: 'steps', count: 5, low: 2, high: 10 }],
    ['beat', 'swing', { ...common, shape: 'saw', swing: 0.5 }],
  ]);
  const scenes = scene(made);
  const beat = 60 / 90;
  for (let n = -3; n < 40; n++) {
    const at = 0.25 + n * beat;
    expect(scenes.signal('pulse', at)).toBe(1);
    expect(scenes.signal('pulse', at + 0.3 * beat)).toBe(0);
    expect(scenes.signal('saw', at + 0.4 * beat)).toBeCloseTo(0.6, 6);
    expect(scenes.signal('steps', at + 0.5 * beat)).toBeCloseTo(2 + 2 * (((n % 5) + 5) % 5), 6);
    if (n % 2 === 0) expect(scenes.signal('triangle', at + beat)).toBeCloseTo(1, 6);
    // Every other comes half a beat too late.
    const late = n % 2 === 0 ? at : at + 0.5 * beat;
    expect(scenes.signal('swing', late)).toBeCloseTo(1, 6);
  }
});

test.each([24, 30, 60])('what follows goes by its time constants at %d frames a second', (rate) => {
  const made = piece(
    [
      ['keyframes', 'k', gate(1, 3)],
      ['follow', 'f', { signal: 'k', delay: 0.5, rise: 0.4, fall: 0.2, gain: 4, offset: 1 }],
    ],
    {},
    rate,
  );
  const scenes = scene(made);
  for (const d of [0.1, 0.4, 1.3]) {
    expect(scenes.signal('f', 1.5 + d)).toBeCloseTo(1 + 4 * (1 - Math.exp(-d / 0.4)), 1);
    const top = 1 - Math.exp(-2 / 0.4);
    expect(scenes.signal('f', 3.5 + d)).toBeCloseTo(1 + 4 * top * Math.exp(-d / 0.2), 1);
  }
});

test('limits stop, wrap and fold', () => {
  const line = keys([0, -3], [10, 7]);
  const at = (limit: string, time: number): number =>
    scene(
      piece([
        ['keyframes', 'k', line],
        ['follow', 'f', { signal: 'k', limit, low: 1, high: 3 }],
      ]),
    ).signal('f', time);
  for (let v = -3; v < 7; v += 0.37) {
    const time = v + 3;
    const into = (((v - 1) % 4) + 4) % 4;
    expect(at('none', time)).toBeCloseTo(v, 6);
    expect(at('clamp', time)).toBeCloseTo(Math.min(3, Math.max(1, v)), 6);
    expect(at('wrap', time)).toBeCloseTo(1 + ((((v - 1) % 2) + 2) % 2), 6);
    expect(at('fold', time)).toBeCloseTo(1 + (into <= 2 ? into : 4 - into), 6);
  }
});

test('a tally is the sum, set back and wrapped', () => {
  const made = piece(
    [
      ['keyframes', 'k', keys([0, 0], [4, 2])],
      ['keyframes', 'back', gate(3, 3.1)],
      ['tally', 't', { signal: 'k', gain: 3 }],
      ['tally', 'set', { signal: 'k', reset: 'back' }],
      ['tally', 'wheel', { signal: 'k', wrap: 0.7 }],
    ],
    {},
    25,
    50,
  );
  const scenes = scene(made);
  for (const t of [0.5, 1, 2.2, 2.9, 3.7]) {
    const sum = (t * t) / 4;
    expect(scenes.signal('t', t)).toBeCloseTo(3 * sum, 3);
    expect(scenes.signal('set', t)).toBeCloseTo(t < 3 ? sum : sum - 9 / 4, 1);
    expect(scenes.signal('wheel', t)).toBeCloseTo(sum % 0.7, 3);
  }
});

test('a formula names other signals, and their parts', () => {
  const made = piece([
    ['formula', 'f', { text: "2 * signal(later) + signal('b.2')" }],
    ['keyframes', 'later', keys([0, 0], [10, 10])],
    ['bands', 'b', { lowest: 0.5 }],
  ]);
  expect(scene(made).signal('f', 3)).toBeCloseTo(6.5, 6);
  const feed = { feed: 'formula' as const, text: 'signal(later) / 2', from: 0, to: 9 };
  expect(scene(made).number(feed, 4)).toBeCloseTo(2, 6);
});

function problems(signals: Parameters<typeof piece>[0]): string {
  try {
    parsePiece(pieceText(smallPiece((p) => (p.signals = piece(signals).signals))));
    return '';
  } catch (error) {
    return (error as Error).message;
  }
}

test('loops and names that are not there are refused by name', () => {
  expect(
    problems([
      ['follow', 'a', { signal: 'b' }],
      ['formula', 'b', { text: '1 + signal(c)' }],
      ['tally', 'c', { reset: 'a' }],
    ]),
  ).toContain('in a circle: a → b → c → a');
  expect(problems([['follow', 'a', { signal: 'a' }]])).toContain('in a circle: a → a');
  expect(problems([['follow', 'a', { signal: 'z' }]])).toContain("there is no signal 'z'");
  expect(problems([['formula', 'a', { text: 'signal(z)' }]])).toContain("there is no signal 'z'");
  expect(problems([['formula', 'a', { text: 'signal()' }]])).toContain(
    'signal takes the id of one',
  );
  expect(problems([['level', 'a', { sound: 'z' }]])).toContain("there is no sound 'z'");
  const parts: Parameters<typeof piece>[0] = [['bands', 'b', { count: 3, sound: '' }]];
  expect(problems([...parts, ['follow', 'f', { signal: 'b.3' }]])).toBe('');
  expect(problems([...parts, ['follow', 'f', { signal: 'b.9' }]])).toContain("no signal 'b.9'");
});

test('what hangs on a live take is what it will be when it is played back', () => {
  const made = piece([
    ['byHand', 'hand'],
    ['follow', 'f', { signal: 'hand', rise: 0.2, fall: 0.5, delay: 0.05 }],
    ['strike', 's', { signal: 'f', threshold: 0.4 }],
    ['tally', 't', { signal: 's' }],
  ]);
  const take = new LiveTake({ rate: 30, first: 0, values: [] }, 30, 0);
  const driven = new Scene(made, new Map(), new Map([['hand', take]]));
  const seen: number[] = [];
  const read = (s: Scene, frame: number): number[] =>
    ['f', 's', 't'].map((id) => s.signal(id, (frame + 1) / 30));
  const drive = (frame: number): void => {
    take.write(frame, 0.5 + 0.5 * Math.sin(frame * 0.7));
    seen[frame] = read(driven, frame)[2]!;
  };
  for (let frame = 0; frame < 60; frame++) drive(frame);
  // And once more over a stretch in the middle.
  for (let frame = 20; frame < 60; frame++) drive(frame);
  const recorded = structuredClone(made);
  recorded.signals[0]!.dials.take = take.copy();
  const played = scene(recorded);
  for (let frame = 0; frame < 60; frame++) expect(read(played, frame)[2]).toBe(seen[frame]);
});

test('what a signal feeds is told wherever it stands, and a formula takes another in its place', () => {
  const made = piece([
    ['wave', 'tide'],
    ['bands', 'parts'],
    ['strike', 'hit', { signal: 'tide' }],
    ['formula', 'sum', { text: "signal(tide) + signal('parts.2') * 2" }],
    ['follow', 'late', { signal: 'parts.3' }],
  ]);
  const places = (id: string): string[] => fedBy(made, id).map(({ path }) => path.join('.'));
  expect(places('tide')).toEqual(['signals.2.dials.signal', 'signals.3.dials.text']);
  expect(places('parts')).toEqual(['signals.3.dials.text', 'signals.4.dials.signal']);
  expect(places('late')).toEqual([]);
  const text = made.signals[3]!.dials.text as string;
  expect(formulaWith(text, 'signal', 'parts', "signal('hit')")).toBe(
    "signal(tide) + signal('hit') * 2",
  );
  expect(formulaWith(text, 'signal', 'tid', '0')).toBe(text);
  const read = `map(tide, fract(x * (2 + y)), 0.5) + 2 * map( "tide" ) - map(tides) + map('tide')`;
  expect(formulaMaps(read)).toEqual(['tide', 'tide', 'tides', 'tide']);
  expect(formulaWith(read, 'map', 'tide', '0')).toBe('0 + 2 * 0 - map(tides) + 0');
});
