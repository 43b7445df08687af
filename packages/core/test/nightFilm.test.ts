import {
  Conductor,
  makeEntry,
  makeShow,
  NightFilm,
  type Entry,
  type NightRow,
  type Pass,
} from '@vast-swarm/core/show';

/** What a night showed, from what was written down of it. */

const RATE = 30;
const entry = (id: string, part: Partial<Entry> = {}): Entry => ({
  ...makeEntry(id, id),
  fade: 0,
  ...part,
});
const showOf = (...entries: Entry[]) => ({ ...makeShow('Any'), entries });
const frames = (length: number) => () => ({ rate: RATE, length });

const row = (time: number, stretch: number, act: NightRow['act'], id = 'a'): NightRow => {
  return { time, stretch, entry: id, at: 0, act };
};
const go = (time: number, stretch: number, id: string): NightRow =>
  row(time, stretch, { all: 'go', entry: id }, id);

test.each([0, 1, 7, 12])(
  'a night that a conductor ran is seen as it was, with a fade of %d frames',
  (fade) => {
    const show = showOf(
      entry('a', { from: 0.5, fade: 1 }),
      entry('b', { fade: fade / RATE, to: 3, next: 'hand' }),
      entry('c', { fade: fade / RATE }),
    );
    const rows: NightRow[] = [];
    const at = new Map<Pass, number>();
    let [tick, stretch] = [0, 0];
    const waiting: Pass[] = [];
    const conductor = new Conductor(show, frames(75), {
      prepare: (pass) => void waiting.push(pass),
      begin: (pass) => {
        rows.push(go(tick / RATE, stretch, pass.entry.id));
        stretch += 1;
        at.set(pass, pass.begun - 1);
      },
      jump: (pass, frame) => {
        rows.push(row(tick / RATE, stretch, { all: 'jump', to: frame }, pass.entry.id));
        stretch += 1;
        at.set(pass, frame - 1);
      },
      remove: (pass) => at.delete(pass),
    });
    conductor.open();
    const seen: { top: [string, number]; mix: number; below: number | null }[] = [];
    for (tick = 0; tick < 320; tick++) {
      for (const pass of waiting.splice(0)) conductor.ready(pass.number);
      if (tick === 0) conductor.go('a');
      if (tick === 250) conductor.go('c');
      for (const [pass, frame] of [...at]) {
        if (!at.has(pass)) continue;
        const next = Math.min(pass.until - 1, frame + 1);
        at.set(pass, next);
        conductor.reached(pass.number, next);
      }
      // What begins within a tick shows its first frame in it.
      for (const [pass, frame] of at) {
        if (pass === conductor.present && frame === pass.begun - 1) {
          at.set(pass, pass.begun);
          conductor.reached(pass.number, pass.begun);
        }
      }
      const { present, leaving, mix } = conductor;
      seen.push({
        top: [present!.entry.id, present!.at],
        mix,
        below: mix < 1 && leaving ? leaving.at : null,
      });
    }
    const film = new NightFilm(show, rows, frames(75));
    let faded = 0;
    seen.forEach(({ top, mix, below }, i) => {
      const { seen: shown } = film.at(i / RATE);
      const upper = shown.at(-1)!;
      // A jump is seen in the tick in which it is asked for.
      if (
        rows.some((r) => 'all' in r.act && r.act.all === 'jump' && Math.abs(r.time * RATE - i) < 1)
      )
        return;
      expect([i, upper.entry, upper.frame]).toEqual([i, ...top]);
      expect(upper.part).toBeCloseTo(mix, 9);
      if (below !== null) {
        faded += 1;
        expect(Math.abs(shown[0]!.frame - below)).toBeLessThanOrEqual(1);
      }
    });
    expect(faded > 0).toBe(fade > 1);
    expect(rows.map((r) => ('all' in r.act ? r.act.all : ''))).toContain('jump');
  },
);

test('speed and hold lead through the piece, brightness goes its way, dark is dark', () => {
  const show = showOf(entry('a'));
  const rows = [
    go(10, 0, 'a'),
    row(11, 1, { all: 'speed', to: 2 }),
    row(12, 1, { all: 'held', to: true }),
    row(13, 1, { all: 'brightness', to: 0.5, over: 2 }),
    row(14, 1, { all: 'blackout', to: true }),
    row(15, 1, { all: 'held', to: false }),
    row(15.5, 1, { all: 'blackout', to: false }),
  ];
  const film = new NightFilm(show, rows, frames(600));
  const frame = (second: number): number => film.at(second).seen[0]!.frame;
  expect(film.at(9.9).seen).toEqual([]);
  expect([10, 10.5, 11, 11.5, 12, 14, 15, 16].map(frame)).toEqual([0, 15, 30, 60, 90, 90, 90, 150]);
  expect([12, 13, 14, 15, 20].map((s) => film.at(s).brightness)).toEqual([1, 1, 0.75, 0.5, 0.5]);
  expect([13.9, 14, 15.4, 15.5].map((s) => film.at(s).blackout)).toEqual([
    false,
    true,
    true,
    false,
  ]);
  // 600 frames at twice the speed, with three seconds in which it stood, and one at its own.
  expect(film.seconds[0]).toBe(10);
  expect(film.seconds[1]).toBeCloseTo(15 + (600 - 90) / 60, 9);
  expect([10.5, 11.5, 13].map((s) => film.loudness(1, s))).toEqual([1, 0, 0]);
});

test('a night of nothing, of entries that are gone, and one that ends standing still', () => {
  const show = showOf(entry('a'));
  expect(new NightFilm(show, [], frames(60)).seconds).toEqual([0, 0]);
  expect(new NightFilm(show, [go(1, 0, 'gone')], frames(60)).seconds).toEqual([0, 0]);
  const held = new NightFilm(
    show,
    [go(1, 0, 'a'), row(2, 1, { all: 'held', to: true })],
    frames(60),
  );
  expect(held.seconds).toEqual([1, 2]);
});
