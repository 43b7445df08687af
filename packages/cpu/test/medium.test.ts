import { makePart } from '@vast-swarm/core/piece';
import type { DialValues } from '@vast-swarm/core/kinds';
import { Water, waterPiece } from '../../../tests/support/media';
import { swept } from '../../../tests/support/sweep';

let water: Water;

const begin = async (dials: DialValues, rate?: number, threads?: number): Promise<Water> => {
  water = await Water.of(waterPiece(dials, rate), threads);
  return water;
};

afterEach(() => {
  water.close();
});

/** A round spot of light, 1 in its middle. */
const spotAt = (cx: number, cy: number, size: number) => (x: number, y: number) =>
  Math.exp(-((x - cx) ** 2 + (y - cy) ** 2) / size ** 2);

/** Full of eddies and of what squeezes, and the same again 2 m further. */
const noise = (seed: number) => (x: number, y: number) => {
  const [a, b] = [Math.PI * x, Math.PI * y];
  return Math.sin(3 * a * seed + b) + Math.cos(4 * b * seed - 2 * a) * Math.sin(5 * a + seed);
};

const DECAYS = [
  ['wrap', 0.5, 60],
  ['wrap', 2, 120],
  ['closed', 1, 60],
] as const;

test.each(swept(DECAYS, 0.25))(
  'an array of vortices decays as its closed form (%s edges, viscosity %d cm²/s)',
  async (edges, centi, rate) => {
    // G. I. Taylor and A. E. Green, 1937: u = sin x cos y, v = -cos x sin y, times e^(-2 ν t).
    const thickness = centi * 0.01;
    const size = 2 * Math.PI;
    await begin({ edges, lines: 256, width: size, thickness }, rate);
    const half = size / 2;
    const u = (x: number, y: number) => Math.sin(x + half) * Math.cos(y + half);
    const v = (x: number, y: number) => -Math.cos(x + half) * Math.sin(y + half);
    water.flow(u, v);
    water.step(100);
    const left = Math.exp(-2 * thickness * (100 / rate));
    const [across, h] = [water.plane('u'), water.cell];
    let [wrong, all] = [0, 0];
    water.each((x, y, at) => {
      const wanted = u(x - h / 2, y) * left;
      wrong += (across[at]! - wanted) ** 2;
      all += wanted ** 2;
    });
    expect(left).toBeLessThan(0.99);
    expect(Math.sqrt(wrong / all)).toBeLessThan(0.02);
  },
  60_000,
);

test.each(['closed', 'open', 'wrap'] as const)(
  'nothing is squeezed: what flows out of a cell is next to nothing, %s edges',
  async (edges) => {
    for (const lines of [64, 100, 156]) {
      await begin({ edges, lines });
      water.flow(noise(1), noise(2));
      water.step();
      expect(water.outflow()).toBeLessThan(1e-3);
      water.step(20);
      expect(water.outflow()).toBeLessThan(1e-3);
      water.close();
    }
    await begin({});
  },
);

test('nor beside solids, on odd grids, and where a solid moves', async () => {
  const piece = waterPiece({ lines: 68, aspect: 1.37, edges: 'open' });
  const ball = makePart('colliders', 'sphere', []);
  piece.signals = [makePart('signals', 'wave', [])];
  Object.assign(ball.dials, {
    radius: 0.25,
    centre: [{ feed: 'signal', signal: 'wave', from: -0.4, to: 0.4 }, 0.1, 0],
  });
  piece.colliders = [ball];
  water = await Water.of(piece);
  water.flow(noise(1), noise(3));
  for (let i = 0; i < 12; i++) {
    water.step();
    const free = water.plane('free');
    expect(water.outflow((at) => free[at]! > 0)).toBeLessThan(1e-3);
  }
});

test.each(['closed', 'wrap'] as const)(
  'light and amount are kept where nothing can leave, %s edges',
  async (edges) => {
    await begin({ edges, lines: 96, spreading: 0.002 });
    water.flow(noise(1), noise(2));
    water.fill('amount', spotAt(0.2, -0.1, 0.15));
    water.fill('green', spotAt(-0.4, 0.3, 0.1));
    const before = [water.sum('amount'), water.sum('green')];
    water.step(200);
    expect(water.sum('amount') / before[0]!).toBeCloseTo(1, 2);
    expect(water.sum('green') / before[1]!).toBeCloseTo(1, 2);
    // It has gone somewhere else meanwhile.
    expect(Math.max(...water.plane('amount'))).toBeLessThan(0.9);
  },
);

test('fading takes away as it says, at any rate', async () => {
  for (const rate of [24, 60, 120]) {
    await begin({ fading: 1.5 }, rate);
    water.fill('amount', () => 1);
    water.step(rate);
    expect(water.sum('amount') / 64 ** 2).toBeCloseTo(Math.exp(-1.5), 4);
    water.close();
  }
  await begin({});
});

test('a still medium stays still, whatever is in it, and nothing comes from nothing', async () => {
  await begin({ swirl: 20, thickness: 0.01, spreading: 0.01 });
  water.fill('red', spotAt(0, 0, 0.2));
  water.step(50);
  for (const name of ['u', 'v', 'blue']) {
    expect(Math.max(...water.plane(name).map(Math.abs))).toBe(0);
  }
});

test('spreading is that of the heat equation', async () => {
  const spreading = 0.003;
  await begin({ lines: 128, spreading }, 60);
  const size = 0.2;
  water.fill('amount', spotAt(0, 0, size));
  water.step(60);
  // A Gaussian stays one: its square size grows by 4 D t, and its height falls as it grows.
  const grown = size ** 2 + 4 * spreading;
  const amount = water.plane('amount');
  let worst = 0;
  water.each((x, y, at) => {
    const wanted = (size ** 2 / grown) * Math.exp(-(x * x + y * y) / grown);
    worst = Math.max(worst, Math.abs(amount[at]! - wanted));
  });
  expect(worst).toBeLessThan(5e-3);
});

test('a spot that is carried along keeps its shape, and goes as far as it should', async () => {
  await begin({ edges: 'wrap', lines: 128 }, 60);
  water.flow(
    () => 0.5,
    () => -0.25,
  );
  water.fill('red', spotAt(-0.25, 0.125, 0.2));
  water.step(60);
  const wanted = spotAt(0.25, -0.125, 0.2);
  const red = water.plane('red');
  let worst = 0;
  water.each((x, y, at) => (worst = Math.max(worst, Math.abs(red[at]! - wanted(x, y)))));
  expect(worst).toBeLessThan(0.03);
});

test('a wall lets nothing through, however fast it is driven against it', async () => {
  for (const turn of [0, 17, 45]) {
    const piece = waterPiece({ lines: 96 });
    const wall = makePart('colliders', 'box', []);
    // Thinner than a cell, and longer than the medium.
    Object.assign(wall.dials, { size: [0.004, 6, 6], turn: [0, 0, turn] });
    const wind = makePart('forces', 'wind', []);
    Object.assign(wind.dials, { direction: [2, 1, 0], speed: 67, grip: 40 });
    piece.colliders = [wall];
    piece.forces = [wind];
    water = await Water.of(piece);
    const angle = (turn * Math.PI) / 180;
    const side = (x: number, y: number): number => x * Math.cos(angle) + y * Math.sin(angle);
    water.fill('amount', (x, y) => (side(x, y) < -0.06 ? 1 : 0));
    water.flow(
      (x, y) => (side(x, y) < 0 ? 40 : 0),
      () => 10,
    );
    water.step(60);
    expect(water.sum('amount', (x, y) => side(x, y) < 0)).toBeGreaterThan(100);
    expect(water.sum('amount', (x, y) => side(x, y) > 0.06)).toBe(0);
    water.close();
  }
  await begin({});
});

test('a wall that moves takes the medium with it', async () => {
  const piece = waterPiece({ lines: 96 });
  const ball = makePart('colliders', 'sphere', []);
  const speed = makePart('signals', 'formula', []);
  speed.dials.text = 'time';
  piece.signals = [speed];
  const centre = [{ feed: 'signal' as const, signal: 'formula', from: -0.5, to: 0.5 }, 0, 0];
  Object.assign(ball.dials, { radius: 0.2, centre });
  piece.colliders = [ball];
  water = await Water.of(piece);
  water.step(6);
  const u = water.plane('u');
  // One metre a second, in front of it and behind.
  const at = (x: number): number => {
    const column = Math.round(x / water.cell + 48.5);
    return u[water.at(column, 48)]!;
  };
  const front = -0.5 + 6 / 60 + 0.2;
  expect(at(front + 0.03)).toBeGreaterThan(0.7);
  expect(at(front - 0.45)).toBeGreaterThan(0.7);
  // At its sides it flows back.
  let back = 0;
  water.each((x, y, i) => {
    if (Math.abs(x - front + 0.2) < 0.05 && Math.abs(y) > 0.26) back = Math.min(back, u[i]!);
  });
  expect(back).toBeLessThan(-0.1);
});

test('it feels forces as particles do: wind to its speed, and a limit of speed', async () => {
  for (const [limit, wanted] of [
    [100, 2],
    [0.5, 0.5],
  ] as const) {
    const piece = waterPiece({ edges: 'wrap', slowing: 0 });
    const wind = makePart('forces', 'wind', []);
    Object.assign(wind.dials, { direction: [1, 0, 0], speed: 2, grip: 30 });
    const slow = makePart('forces', 'speedLimit', [wind]);
    slow.dials.most = limit;
    piece.forces = [wind, slow];
    water = await Water.of(piece);
    water.step(60);
    water.each((_, __, at) => {
      expect(water.plane('u')[at]!).toBeCloseTo(wanted, 3);
    });
    water.close();
  }
  await begin({});
});

test('swirl keeps eddies turning that would die down', async () => {
  const spins: number[] = [];
  for (const swirl of [0, 8]) {
    await begin({ edges: 'wrap', lines: 64, swirl });
    water.flow(noise(4), noise(5));
    water.step(150);
    const [u, v] = [water.plane('u'), water.plane('v')];
    let energy = 0;
    water.each((_, __, at) => (energy += u[at]! ** 2 + v[at]! ** 2));
    spins.push(energy);
    water.close();
  }
  expect(spins[1]).toBeGreaterThan(1.2 * spins[0]!);
  await begin({});
});

test('twice the lines show the same picture', async () => {
  const pictures: Float32Array[] = [];
  for (const lines of [64, 128]) {
    await begin({ lines, slowing: 0.1 });
    water.flow(
      (x, y) => Math.sin(Math.PI * x) * Math.cos(Math.PI * y),
      (x, y) => -Math.cos(Math.PI * x) * Math.sin(Math.PI * y),
    );
    water.fill('red', spotAt(0.3, 0.4, 0.25));
    water.step(60);
    const red = water.plane('red');
    const means = new Float32Array(32 * 32);
    const per = lines / 32;
    water.each((x, y, at) => {
      const [i, j] = [x, y].map((c) => Math.floor((c + 1) * 16)) as [number, number];
      means[j * 32 + i]! += red[at]! / per ** 2;
    });
    pictures.push(means);
    water.close();
  }
  const apart = pictures[0]!.map((v, i) => Math.abs(v - pictures[1]![i]!));
  const mean = apart.reduce((a, b) => a + b) / apart.length;
  expect(mean).toBeLessThan(0.004);
  expect(Math.max(...apart)).toBeLessThan(0.08);
  await begin({});
});

test('one, two and four threads have the same bits', async () => {
  const texts: string[] = [];
  for (const threads of [1, 2, 4]) {
    await begin({ lines: 200, edges: 'open', swirl: 5, spreading: 0.01 }, 60, threads);
    water.flow(noise(1), noise(2));
    water.fill('red', spotAt(0, 0, 0.3));
    water.step(5);
    const planes = ['u', 'v', 'red'].map((name) => Buffer.from(water.plane(name).slice().buffer));
    texts.push(Buffer.concat(planes).toString('base64'));
    water.close();
  }
  expect(texts[1] === texts[0]).toBe(true);
  expect(texts[2] === texts[0]).toBe(true);
  await begin({});
});
