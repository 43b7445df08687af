import { Arrivals } from '@vast-swarm/core/stock';

/** Numbers without order, the same each time. */
function numbers(seed: number): () => number {
  let state = seed;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}

interface Stream {
  rate: number;
  /** Seconds on the way, for each pose. */
  way: (random: () => number) => number;
  lost: number;
  seconds: number;
  seed: number;
}

interface Look {
  now: number;
  time: number;
}

/** On how many seconds the sender's clock is before ours. */
const AHEAD = 1000;

/**
 * Plays a stream of somebody whose x is the second by the sender's clock, as they go: what is seen tells the time that is
 * shown.
 */
function played({ rate, way, lost, seconds, seed }: Stream, fps: number): Look[] {
  const random = numbers(seed);
  const all = Array.from({ length: Math.round(seconds * rate) }, (_, i) => {
    return { sent: i / rate, arrives: i / rate + way(random), there: random() >= lost };
  });
  const sent = all.filter((p) => p.there).sort((a, b) => a.arrives - b.arrives);
  const arrivals = new Arrivals();
  const looks: Look[] = [];
  for (let frame = 0; frame < seconds * fps; frame++) {
    const now = frame / fps;
    while (sent[0] && sent[0].arrives <= now) {
      const pose = sent.shift()!;
      arrivals.take(AHEAD + pose.sent, pose.arrives, Float32Array.of(pose.sent, 0, 0));
    }
    const places = arrivals.at(now);
    if (places) looks.push({ now, time: places[0]! });
  }
  return looks;
}

const steps = (looks: Look[]): number[] => looks.slice(1).map((l, i) => l.time - looks[i]!.time);

test.each([24, 25, 30, 60])(
  'an even stream is shown one pose and its way behind, at %i frames a second',
  (fps) => {
    const looks = played({ rate: 60, way: () => 0.05, lost: 0, seconds: 4, seed: 1 }, fps);
    for (const { now, time } of looks.filter((l) => l.now > 1)) {
      expect(now - time).toBeCloseTo(0.05 + 1 / 60, 3);
    }
    for (const step of steps(looks).slice(fps)) expect(step).toBeCloseTo(1 / fps, 4);
  },
);

test.each([24, 30, 50, 60])(
  'late, out of order and with a tenth lost, time goes on evenly and never leaps, at %i frames a second',
  (fps) => {
    for (let seed = 1; seed <= 20; seed++) {
      const way = (random: () => number): number => 0.1 + 0.05 * random();
      const looks = played({ rate: 60, way, lost: 0.1, seconds: 6, seed }, fps);
      const settled = looks.filter((l) => l.now > 1);
      expect(Math.min(...steps(settled))).toBeGreaterThanOrEqual(0);
      // So much the farthest that anybody gets in a frame is: the way of two frames.
      expect(Math.max(...steps(settled))).toBeLessThanOrEqual(2 / fps + 1e-4);
      // Behind by the way, by who is late, and by the longest gap.
      const behind = settled.map(({ now, time }) => now - time);
      expect(Math.max(...behind)).toBeLessThan(0.15 + 0.1 + 5 / 60);
      const whole = settled.at(-1)!.time - settled[0]!.time;
      expect(whole / (settled.at(-1)!.now - settled[0]!.now)).toBeCloseTo(1, 1);
    }
  },
);

test('after a silence it goes on from where it was, and has made up for it within half a second', () => {
  const arrivals = new Arrivals();
  const looks: Look[] = [];
  for (let i = 0; i < 240; i++) {
    const now = i / 60;
    if (now < 1 || now >= 2) arrivals.take(now, now, Float32Array.of(now, 0, 0));
    looks.push({ now, time: arrivals.at(now)![0]! });
  }
  const at = (now: number): number => looks[Math.round(now * 60)]!.time;
  expect(at(1.9)).toBeCloseTo(59 / 60, 3);
  expect(Math.max(...steps(looks))).toBeLessThan(0.2);
  expect(Math.min(...steps(looks))).toBeGreaterThanOrEqual(0);
  expect(2.6 - at(2.6)).toBeLessThan(0.03);
});

test('a sender that begins anew is followed at once', () => {
  const arrivals = new Arrivals();
  const pose = (x: number): Float32Array => Float32Array.of(x, 0, 0);
  for (let i = 0; i < 60; i++) arrivals.take(500 + i / 60, i / 60, pose(1));
  expect(arrivals.at(1)![0]).toBe(1);
  for (let i = 0; i < 60; i++) arrivals.take(i / 60, 1 + i / 60, pose(2));
  expect(arrivals.at(2)![0]).toBe(2);
});

test('there is nobody before the first pose, and of two of one time the later counts', () => {
  const arrivals = new Arrivals();
  expect(arrivals.at(3)).toBeNull();
  arrivals.take(1, 1, Float32Array.of(5, 6, 7));
  arrivals.take(1, 1.01, Float32Array.of(8, 9, 10));
  expect([...arrivals.at(1.1)!]).toEqual([8, 9, 10]);
});

test.each([2, 3, 4])(
  'poses that come at once are in the order in which they were sent, however they lie (%i)',
  (many) => {
    const [ordered, mixed] = [new Arrivals(), new Arrivals()];
    const pose = (k: number): Float32Array => Float32Array.of(k % 2, k, k * k);
    const seen: number[] = [];
    for (let k = 0; k < 120; k += many) {
      const batch = Array.from({ length: many }, (_, i) => k + i);
      const arrived = (k + many) / 60;
      for (const one of batch) ordered.take(one / 60, arrived, pose(one));
      for (const one of batch.reverse()) mixed.take(one / 60, arrived, pose(one));
      for (let i = 0; i < many; i++) {
        const now = arrived + i / 60 + 0.004;
        const [wanted, found] = [ordered.at(now)!, mixed.at(now)!];
        expect([...found]).toEqual([...wanted]);
        seen.push(wanted[0]!);
      }
    }
    expect(Math.max(...seen) - Math.min(...seen)).toBeGreaterThan(0.5);
  },
);
