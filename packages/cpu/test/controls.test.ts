import { compilePiece, isDrawn } from '@vast-swarm/core/plan';
import { LivePlay, makePart, PLAYED, type Piece, type Played } from '@vast-swarm/core/piece';
import { Playback } from '@vast-swarm/core/play';
import { bytesHash, frameHash } from '../../../tests/support/frameHash';
import { control, cue, EVENTS, played } from '../../../tests/support/played';
import { CpuEngine } from '../src';

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 2 });
});
afterAll(() => engine.close());

function bits(): string {
  const born = engine.born('motes');
  const states = ['px', 'vx', 'age', 'life'].map((n) => {
    const all = engine.state('motes', n);
    return bytesHash(Float32Array.from({ length: Math.min(born, all.length) }, (_, i) => all[i]!));
  });
  return [born, ...states, frameHash(engine.draw(64, 36).pixels)].join();
}

test('what was seen while it was played is what is rendered and scrubbed to, by switches, colours, bursts and resets', () => {
  const live = new LivePlay([]);
  engine.setPlan(compilePiece(played(), { live: new Map([[PLAYED, live]]) }));
  engine.reset();
  const seen: string[] = [];
  for (let frame = 0; frame < 90; frame++) {
    for (const event of EVENTS) if (Math.round(event.at * 30) === frame) live.add(event);
    engine.step();
    seen.push(bits());
  }
  expect(new Set(seen).size).toBe(90);
  const piece = played((p) => {
    p.played = live.events;
  });
  const plan = compilePiece(piece);
  const playback = new Playback(engine, 1e8);
  playback.setPlan(plan);
  playback.restart();
  for (const frame of [89, 20, 41, 12, 60]) {
    for (let left = playback.approach(frame); left > 0; left--) {
      if (isDrawn(plan, engine.frame, frame)) engine.draw(64, 36);
      playback.advance();
    }
    // Slots may lie otherwise where there was room for what might be played.
    const [born, , , , , pixels] = bits().split(',');
    const [bornThen, , , , , pixelsThen] = seen[frame]!.split(',');
    expect([frame, born, pixels]).toEqual([frame, bornThen, pixelsThen]);
  }
});

/** Light of the whole frame, drawn. */
function light(): number {
  engine.draw(64, 36);
  return [0, 1, 2].reduce(
    (sum, c) => sum + engine.lightOf(64, 36, c).reduce((a, b) => a + b, 0),
    0,
  );
}

function run(piece: Piece, frames: number, each: (frame: number) => void): void {
  engine.setPlan(compilePiece(piece));
  engine.reset();
  for (let frame = 0; frame < frames; frame++) {
    engine.step();
    each(frame);
  }
}

test('a burst is born at its moment, in full, between all others', () => {
  const born = (events: Played[], frames: number): number[] => {
    const counts: number[] = [];
    run(
      played((p) => {
        p.controls = [];
        p.cues = [cue('burst', { bursts: [{ swarm: 'motes', count: 500 }] })];
        p.played = events;
      }),
      frames,
      () => counts.push(engine.born('motes')),
    );
    return counts;
  };
  const plain = born([], 60);
  const cued = born(
    [
      { at: 0.7, cue: 'burst' },
      { at: 1.51, cue: 'burst' },
    ],
    60,
  );
  const more = cued.map((n, frame) => n - plain[frame]!);
  // In the frame that has its second in it: frame 21 begins at 0.7.
  const expected = Array.from({ length: 60 }, (_, f) => (f < 21 ? 0 : f < 45 ? 500 : 1000));
  expect(more).toEqual(expected);
});

test('a force that is switched off pushes nothing, and from the frame on in which it is switched on it does', () => {
  const speeds = (rest: 'on' | 'off', events: Played[]): number[] => {
    const found: number[] = [];
    const piece = played((p) => {
      p.controls = [control('switch', 'wind', ['forces.wind.on'], { rest })];
      p.cues = [];
      p.forces[0]!.dials.speed = 30;
      p.played = events;
    });
    run(piece, 40, () => {
      found.push(engine.state('motes', 'vx').reduce((a, b) => a + Math.abs(b), 0));
    });
    return found;
  };
  const [on, off] = [speeds('on', []), speeds('off', [])];
  const later = speeds('off', [{ at: 0.5, control: 'wind', to: true }]);
  expect(later.slice(0, 15)).toEqual(off.slice(0, 15));
  expect(later[15]).not.toBe(off[15]);
  expect(on[20]).toBeGreaterThan(2 * off[20]!);
});

test('build-up forgets at a cue what it has, and a swarm that is switched off is gone', () => {
  const piece = (events: Played[]): Piece =>
    played((p) => {
      p.finish = [makePart('finish', 'buildUp', [])];
      p.controls = [control('switch', 'motes', ['swarms.motes.on'])];
      p.cues = [cue('wipe', { resets: 'anew' })];
      p.played = events;
    });
  const lights = (events: Played[]): number[] => {
    const all: number[] = [];
    run(piece(events), 60, () => all.push(light()));
    return all;
  };
  const kept = lights([]);
  const wiped = lights([{ at: 1, cue: 'wipe' }]);
  expect(wiped.slice(0, 30)).toEqual(kept.slice(0, 30));
  expect(wiped[30]).toBeLessThan(0.8 * kept[29]!);
  const gone: number[] = [];
  const off = piece([
    { at: 1, cue: 'wipe' },
    { at: 1, control: 'motes', to: false },
    { at: 1.5, control: 'motes', to: true },
  ]);
  run(off, 60, () => gone.push([...engine.alive().values()].reduce((a, b) => a + b, 0)));
  expect(gone[29]).toBeGreaterThan(100);
  expect(gone.slice(30, 45)).toEqual(Array.from({ length: 15 }, () => 0));
  expect(gone[50]).toBeGreaterThan(0);
});

test('a colour between two is what a piece of that colour looks like, to the bit', () => {
  const tinted = (colour: string): Piece =>
    played((p) => {
      p.controls = [];
      p.cues = [];
      p.swarms[0]!.dials.colour = colour;
    });
  const faded = played((p) => {
    p.controls = [control('colour', 'tint', ['swarms.motes.colour'], { rest: '#000000' })];
    p.cues = [];
    p.played = [{ at: 0, control: 'tint', to: '#ffffff', over: 1, ease: 'straight' }];
  });
  const pictures: string[] = [];
  run(faded, 40, () => pictures.push(frameHash(engine.draw(64, 36).pixels)));
  for (const [frame, colour] of [
    [14, '#636363'],
    [29, '#ffffff'],
    [39, '#ffffff'],
  ] as const) {
    const plain: string[] = [];
    const same = tinted(colour);
    // What the frames before left stands in its own colour: here nothing is remembered.
    same.finish = [];
    faded.finish = [];
    run(faded, frame + 1, () => (pictures[0] = frameHash(engine.draw(64, 36).pixels)));
    run(same, frame + 1, () => plain.push(frameHash(engine.draw(64, 36).pixels)));
    expect(plain.at(-1)).toBe(pictures[0]);
  }
});

test('a sound that a cue starts is heard by signals from its second on', () => {
  const piece = played((p) => {
    p.stock.push({ id: 'horn', name: 'Horn', type: 'sound', source: { made: 'fogSignal' } });
    const sound = makePart('sounds', 'played', []);
    Object.assign(sound, { id: 'horn', on: false });
    sound.dials.sound = 'horn';
    p.sounds = [sound];
    p.signals = [makePart('signals', 'level', [])];
    p.signals[0]!.dials.sound = 'horn';
    p.controls = [];
    p.cues = [cue('blow', { sound: 'horn', by: 'yes', at: 1 })];
  });
  const plan = compilePiece(piece);
  const level = (frame: number): number =>
    plan.at(frame).tracks.numbers.get('level')!((frame + 1) / 30);
  expect(level(20)).toBe(0);
  expect(level(31)).toBeGreaterThan(0);
  expect([plan.at(20) === plan, plan.at(40) === plan, plan.at(40) === plan.at(80)]).toEqual([
    true,
    false,
    true,
  ]);
});
