import {
  Conductor,
  framesOf,
  makeEntry,
  makeShow,
  type Entry,
  type Pass,
  type Show,
} from '@vast-swarm/core/show';
import type { Frames } from '../src/show/conductor';

function show(entries: (Partial<Entry> & { piece: string })[], parts: Partial<Show> = {}): Show {
  const all = entries.map((e) => ({ ...makeEntry(e.piece, e.piece), ...e }));
  return { ...makeShow('Any'), ...parts, entries: all };
}

/** A stage on which every pass that is seen shows its frames one after the other, with what was seen. */
class Seen {
  readonly conductor: Conductor;
  readonly told: string[] = [];
  readonly frames = new Map<Pass, number>();
  /** By tick: which entries are seen, at which frames, and how much of the upper one. */
  readonly seen: { frames: Record<string, number>; mix: number }[] = [];
  private readonly playing = new Set<Pass>();

  /** @param loading ticks that it takes to make a pass ready */
  constructor(
    of: Show,
    pieces: Record<string, Frames>,
    private readonly loading = 3,
    led: (() => string | null) | null = null,
  ) {
    const named = (what: string) => (pass: Pass) => {
      this.told.push(`${what} ${pass.entry.id}`);
    };
    this.conductor = new Conductor(
      of,
      (piece) => pieces[piece] ?? null,
      {
        prepare: (pass) => {
          named('prepare')(pass);
          this.waiting.push({ pass, left: this.loading });
        },
        begin: (pass) => {
          named('begin')(pass);
          this.playing.add(pass);
          this.frames.set(pass, pass.begun - 1);
        },
        jump: (pass, frame) => {
          this.told.push(`jump ${pass.entry.id} ${String(frame)}`);
          this.frames.set(pass, frame - 1);
        },
        remove: (pass) => {
          named('remove')(pass);
          this.playing.delete(pass);
        },
      },
      led,
    );
  }

  private waiting: { pass: Pass; left: number }[] = [];

  /** One frame of all that plays. */
  tick(): void {
    for (const one of this.waiting) one.left -= 1;
    const ready = this.waiting.filter((w) => w.left <= 0);
    this.waiting = this.waiting.filter((w) => w.left > 0);
    for (const { pass } of ready) this.conductor.ready(pass.number);
    const frames: Record<string, number> = {};
    for (const pass of [...this.playing]) {
      const frame = Math.min(pass.until - 1, this.frames.get(pass)! + 1);
      this.frames.set(pass, frame);
      this.conductor.reached(pass.number, frame);
      if (this.playing.has(pass)) frames[pass.entry.id] = frame;
    }
    this.seen.push({ frames, mix: this.conductor.mix });
  }

  run(ticks: number): void {
    for (let i = 0; i < ticks; i++) this.tick();
  }

  /** From the beginning on. */
  begun(): this {
    this.conductor.open();
    this.conductor.go();
    this.run(this.loading);
    return this;
  }
}

const SECONDS = { rate: 30, length: 300 };

test.each([24, 30, 59.94])(
  'pieces follow each other by time: each next is ready before, and both are seen, frame by frame, as long as it comes in (%f a second)',
  (rate) => {
    const length = Math.round(10 * rate);
    const pieces = { a: { rate, length }, b: { rate, length }, c: { rate, length } };
    const stage = new Seen(
      show([{ piece: 'a' }, { piece: 'b', fade: 1.5 }, { piece: 'c', fade: 0 }]),
      pieces,
    ).begun();
    stage.run(3 * length);
    const fade = Math.round(1.5 * rate);
    const both = stage.seen.filter((s) => 'a' in s.frames && 'b' in s.frames);
    // Its first frame stood there, unseen: all frames of the one and the other are seen in their order.
    expect(both.length).toBeGreaterThanOrEqual(fade - 1);
    expect(both.length).toBeLessThanOrEqual(fade);
    for (const { frames, mix } of both) expect(mix).toBeCloseTo((frames.b! + 1) / fade, 9);
    for (let i = 1; i < both.length; i++) {
      expect(both[i]!.frames.a).toBe(both[i - 1]!.frames.a! + 1);
      expect(both[i]!.frames.b).toBe(both[i - 1]!.frames.b! + 1);
    }
    // It comes in as the one before it comes to its end.
    expect(Math.abs(both.at(-1)!.frames.a! - (length - 1))).toBeLessThanOrEqual(1);
    const order = stage.told.filter((t) => !t.startsWith('prepare'));
    expect(order).toEqual(['begin a', 'begin b', 'remove a', 'remove b', 'begin c']);
    for (const id of ['b', 'c']) {
      expect(stage.told.indexOf(`prepare ${id}`)).toBeLessThan(stage.told.indexOf(`begin ${id}`));
    }
    // Behind the last it rests on its last frame.
    expect(stage.seen.at(-1)!.frames).toEqual({ c: length - 1 });
    expect(stage.conductor.left).toBe(0);
  },
);

test('what is not ready is waited for: the present one goes on, and stays at its last frame', () => {
  const stage = new Seen(
    show([
      { piece: 'a', to: 2 },
      { piece: 'b', fade: 0 },
    ]),
    { a: SECONDS, b: SECONDS },
    100,
  ).begun();
  stage.run(80);
  expect(stage.told).not.toContain('begin b');
  expect(stage.seen.at(-1)!.frames).toEqual({ a: 59 });
  expect(stage.conductor.wanted).toBe(true);
  stage.run(60);
  expect(stage.told.slice(-2)).toEqual(['remove a', 'begin b']);
});

test('one that waits for a hand or a cue begins again at its end; then it goes on', () => {
  const entries = [
    { piece: 'a', from: 1, to: 2, next: 'hand' as const },
    { piece: 'b', next: 'cue' as const, cue: 'gust', to: 1, fade: 0 },
    { piece: 'c', fade: 0 },
  ];
  const stage = new Seen(show(entries), { a: SECONDS, b: SECONDS, c: SECONDS }).begun();
  stage.run(100);
  expect(stage.told.filter((t) => t === 'jump a 30').length).toBe(3);
  expect(stage.seen.every((s) => (s.frames.a ?? 30) >= 30 && (s.frames.a ?? 30) < 60)).toBe(true);
  stage.conductor.go();
  stage.run(70);
  expect(stage.told.filter((t) => t === 'jump b 0').length).toBe(2);
  stage.conductor.cued('other');
  stage.run(5);
  expect(stage.told).not.toContain('begin c');
  stage.conductor.cued('gust');
  stage.run(1);
  expect(stage.told.slice(-2)).toEqual(['remove b', 'begin c']);
});

test('any entry can be gone to or called, one that is gone is passed over, and the show may begin again', () => {
  const entries = [{ piece: 'a' }, { piece: 'lost' }, { piece: 'c' }, { piece: 'd' }];
  const pieces = { a: SECONDS, c: SECONDS, d: SECONDS };
  const stage = new Seen(show(entries, { again: true }), pieces).begun();
  expect(stage.conductor.next?.id).toBe('c');
  expect(stage.conductor.go('lost')).toBe(false);
  expect(stage.conductor.go('nobody')).toBe(false);
  stage.run(70);
  stage.conductor.call('d');
  expect(stage.told.slice(-2)).toEqual(['remove c', 'prepare d']);
  stage.run(10);
  expect(stage.told.at(-1)).toBe('prepare d');
  // What was called stays called.
  stage.conductor.setShow(show(entries, { again: true, name: 'Other' }));
  expect(stage.told.at(-1)).toBe('prepare d');
  stage.conductor.go();
  expect(stage.told.at(-1)).toBe('begin d');
  expect(stage.conductor.next?.id).toBe('a');
  stage.conductor.go('c', 120);
  stage.run(10);
  expect(stage.told).toContain('begin c');
  expect(stage.seen.at(-1)!.frames.c).toBeGreaterThanOrEqual(120);
  // Time that jumps ends what is under way.
  stage.conductor.jump(7);
  expect(stage.told.at(-1)).toBe('jump c 7');
  expect(stage.conductor.mix).toBe(1);
  stage.conductor.jump(1e9);
  expect(stage.told.at(-1)).toBe('jump c 299');
});

test('a show that changes while it runs: what is seen goes on, and what comes is what comes now', () => {
  const before = show([{ piece: 'a', next: 'hand' }, { piece: 'b' }]);
  const stage = new Seen(before, { a: SECONDS, b: SECONDS, c: SECONDS }).begun();
  stage.run(80);
  expect(stage.conductor.coming?.entry.id).toBe('b');
  // The same once more, as storage gives it, changes nothing; another piece is made ready anew.
  const length = stage.told.length;
  stage.conductor.setShow(structuredClone(before), new Set(['a']));
  expect(stage.told.length).toBe(length);
  stage.conductor.setShow(structuredClone(before), new Set(['b']));
  expect(stage.told.slice(length)).toEqual(['remove b', 'prepare b']);
  stage.conductor.setShow(show([{ piece: 'a', next: 'time' }, { piece: 'c' }, { piece: 'b' }]));
  expect(stage.told.slice(-2)).toEqual(['remove b', 'prepare c']);
  expect(stage.conductor.present?.entry.id).toBe('a');
  stage.run(250);
  expect(stage.told).toContain('begin c');
  // The one that plays is taken out: it stays to be seen, and by hand the first comes next.
  stage.conductor.setShow(show([{ piece: 'b' }]));
  expect(stage.conductor.present?.entry.id).toBe('c');
  expect(stage.conductor.next?.id).toBe('b');
});

test('where somebody else leads, nothing begins or repeats by itself', () => {
  const entries = [
    { piece: 'a', to: 1 },
    { piece: 'b', to: 1, next: 'hand' as const },
  ];
  let next: string | null = 'b';
  const stage = new Seen(show(entries), { a: SECONDS, b: SECONDS }, 3, () => next).begun();
  next = 'a';
  stage.run(100);
  expect(stage.told.filter((t) => !t.startsWith('prepare'))).toEqual(['begin b']);
  stage.conductor.go('a');
  stage.run(100);
  expect(stage.told).toContain('begin a');
  expect(stage.told.some((t) => t.startsWith('jump'))).toBe(false);
});

test.each([
  [{ from: 0, to: 0 }, [0, 300]],
  [{ from: 1, to: 2 }, [30, 60]],
  [{ from: 1.01, to: 99 }, [30, 300]],
  [{ from: 50, to: 0 }, [299, 300]],
  [{ from: 2, to: 1 }, [29, 30]],
  [{ from: 0, to: 0.001 }, [0, 1]],
])('an entry of %j has frames %j of its piece, one at the least', (given, [from, until]) => {
  expect(framesOf({ ...makeEntry('a', 'a'), ...given }, SECONDS)).toEqual({ from, until });
});
