import { cameraAt, motionKeys, Scene } from '@vast-swarm/core/plan';
import { makeChoice, makePart, type Piece } from '@vast-swarm/core/piece';
import { project } from '@vast-swarm/core/play';
import { motes, Water, waterPiece } from '../../../tests/support/media';
import { swept } from '../../../tests/support/sweep';

let water: Water;
afterEach(() => {
  water.close();
});

/** A piece with particles that stand where they were born, and stir. */
function stirred(
  dials: Parameters<typeof waterPiece>[0],
  change: (piece: Piece) => void = () => undefined,
) {
  const piece = waterPiece({ edges: 'closed', stir: 20, tint: 3, give: 2, radius: 0.1, ...dials });
  const swarm = motes(400);
  Object.assign(swarm.emitter.dials, { size: [2.4, 2.4, 0.5] });
  Object.assign(swarm.dials, {
    colour: {
      feed: 'gradient',
      by: 'random',
      stops: [
        { at: 0, colour: '#ff2000' },
        { at: 1, colour: '#0040ff' },
      ],
    },
    light: { feed: 'spread', from: 0.2, to: 2 },
    stirs: { feed: 'spread', from: 0, to: 1.5 },
  });
  Object.assign(swarm.launch.dials, { speed: { feed: 'spread', from: 0.1, to: 1 } });
  piece.swarms = [swarm];
  change(piece);
  return piece;
}

test.each([
  ['closed', 0.1, 64],
  ['open', 0.013, 96],
  ['wrap', 0.27, 64],
] as const)(
  'what swarms leave is the sum over all particles: %s edges, %d m',
  async (edges, radius, lines) => {
    const piece = stirred({ edges, radius, lines }, (p) => {
      const other = structuredClone(p.swarms[0]!);
      p.swarms.push({ ...other, id: 'others', name: 'Others' });
      other.dials.burst = 90;
    });
    water = await Water.of(piece, 2);
    water.step(4);
    const { columns, stride } = water.space;
    const cell = water.cell;
    const cells = Math.max(1, radius / cell);
    const gain = Math.min(1, (radius / cell) ** 2);
    const wanted = { count: new Map<number, number>(), u: new Map<number, number>() };
    for (const id of ['motes', 'others']) {
      const state = (name: string): Float32Array => water.engine.state(id, name).slice();
      const [px, py, vx] = [state('px'), state('py'), state('vx')];
      // The last frame saw them as the frame before had left them, which was one step back.
      const share = sharesOf(water, id);
      for (let i = 0; i < water.engine.born(id); i++) {
        const at = (p: number, v: number): number => (p - v / 60) / cell + columns / 2 + 0.5;
        const [x, y] = [at(px[i]!, vx[i]!), at(py[i]!, state('vy')[i]!)];
        const near = (d: number): number => Math.max(0, 1 - (d / cells) ** 2) ** 2;
        for (let line = Math.ceil(y - cells); line <= y + cells; line++) {
          for (let column = Math.ceil(x - cells); column <= x + cells; column++) {
            const wrap = (c: number): number => ((((c - 1) % columns) + columns) % columns) + 1;
            const [c, l] = edges === 'wrap' ? [wrap(column), wrap(line)] : [column, line];
            if (c < 1 || c > columns || l < 1 || l > columns) continue;
            const weight = near(column - x) * near(line - y) * gain * share[i]!;
            const place = l * stride + c;
            wanted.count.set(place, (wanted.count.get(place) ?? 0) + weight);
            wanted.u.set(place, (wanted.u.get(place) ?? 0) + weight * vx[i]!);
          }
        }
      }
    }
    for (const name of ['count', 'u'] as const) {
      const left = water.plane(`left.${name}`);
      let worst = 0;
      water.each((_, __, at) => {
        worst = Math.max(worst, Math.abs(left[at]! - (wanted[name].get(at) ?? 0)));
      });
      expect(Math.max(...wanted[name].values())).toBeGreaterThan(0.1);
      expect(worst).toBeLessThan(5e-3);
    }
  },
);

/** The share of each particle, as the engine works it out. */
function sharesOf({ engine }: Water, id: string): Float32Array {
  return engine.state(id, 'give.share').slice();
}

test('a medium takes on the velocity of what stirs it, and never more', async () => {
  for (const stir of [2, 50, 1000]) {
    const piece = stirred({ stir, radius: 3, edges: 'wrap', lines: 64 }, (p) => {
      p.swarms[0]!.launch = makeChoice('launches', 'cone');
      const { dials } = p.swarms[0]!;
      Object.assign(p.swarms[0]!.launch.dials, { direction: [1, 0, 0], angle: 0, speed: 0.8 });
      Object.assign(dials, { stirs: 1, burst: 50 });
    });
    water = await Water.of(piece);
    for (let i = 0; i < 40; i++) {
      water.step();
      // Where it is pushed aside it may be a little faster.
      expect(Math.max(...water.plane('u'))).toBeLessThan(0.82);
    }
    expect(Math.max(...water.plane('u'))).toBeGreaterThan(0.7);
    water.close();
  }
  water = await Water.of(waterPiece());
});

test('it takes on the light of what is there, and an amount of 1, and never more', async () => {
  for (const rate of [1, 30, 1000]) {
    const piece = stirred(
      { stir: 0, tint: rate, give: rate, radius: 3, edges: 'wrap', lines: 64 },
      (p) => {
        const { dials } = p.swarms[0]!;
        Object.assign(dials, { colour: '#ffffff', light: 0.7, opacity: 0.5, stirs: 1, burst: 50 });
        p.swarms[0]!.launch.dials.speed = 0;
      },
    );
    water = await Water.of(piece);
    for (let i = 0; i < 60; i++) {
      water.step();
      expect(Math.max(...water.plane('red'))).toBeLessThan(0.3501);
      expect(Math.max(...water.plane('amount'))).toBeLessThan(1.0001);
    }
    expect(Math.max(...water.plane('red'))).toBeGreaterThan(0.34);
    expect(Math.max(...water.plane('amount'))).toBeGreaterThan(0.97);
    water.close();
  }
  water = await Water.of(waterPiece());
});

test.each(swept([[24], [60]], 0.3))(
  'particles ride round for ten turns and keep their distance, %i frames a second',
  async (rate) => {
    const piece = waterPiece({ lines: 128 }, rate);
    const swarm = motes(200);
    swarm.emitter = makeChoice('emitters', 'ring');
    Object.assign(swarm.emitter.dials, { radius: 0.3 });
    Object.assign(swarm.emitter.dials, { turn: [90, 0, 0] });
    piece.swarms = [swarm];
    const ride = makePart('forces', 'ride', []);
    ride.dials.medium = 'water';
    piece.forces = [ride];
    water = await Water.of(piece, 2);
    // Round and still at the walls, so that it stays as it is; rigid where the particles are.
    const turning = (r: number): number => 2 * Math.PI * Math.exp(-((r / 0.75) ** 8));
    water.flow(
      (x, y) => -y * turning(Math.hypot(x, y)),
      (x, y) => x * turning(Math.hypot(x, y)),
    );
    const flows = (['u', 'v'] as const).map((name) => [name, water.plane(name).slice()] as const);
    const set = (): void => {
      for (const [name, values] of flows) water.plane(name).set(values);
    };
    water.step();
    const state = (name: string): Float32Array => water.engine.state('motes', name);
    const angle = (): number => Math.atan2(state('py')[0]!, state('px')[0]!);
    let [before, turned] = [angle(), 0];
    for (let i = 0; i < 10.4 * rate; i++) {
      set();
      water.step();
      const way = angle() - before;
      turned += Math.atan2(Math.sin(way), Math.cos(way));
      before = angle();
    }
    // A step of the medium itself slows it a little.
    expect(turned / (2 * Math.PI)).toBeGreaterThan(10);
    for (let i = 0; i < 200; i++) {
      expect(Math.abs(Math.hypot(state('px')[i]!, state('py')[i]!) / 0.3 - 1)).toBeLessThan(0.01);
    }
  },
);

test('births are as many as there is of the medium', async () => {
  const piece = waterPiece();
  const swarm = motes(20_000);
  swarm.emitter = makeChoice('emitters', 'medium');
  Object.assign(swarm.emitter.dials, { medium: 'water', full: 4 });
  swarm.dials.burstAt = 0.05;
  piece.swarms = [swarm];
  water = await Water.of(piece);
  // Nothing on the right, and from below to above ever more.
  water.fill('amount', (x, y) => (x < 0 ? 1 + y : 0));
  water.step(5);
  const [px, py, life] = ['px', 'py', 'life'].map((n) => water.engine.state('motes', n));
  const born = [...px!.keys()].filter((i) => life![i]! > 0);
  expect(born.length).toBeGreaterThan(5000);
  const tenths = Array.from({ length: 10 }, () => 0);
  for (const i of born) {
    expect(px![i]!).toBeLessThan(0.02);
    tenths[Math.floor((py![i]! + 1) * 5)]!++;
  }
  // 1 + y over a tenth of the height, as parts of the whole.
  tenths.forEach((count, i) => {
    const part = (i + 0.5) / 50;
    const deviation = Math.sqrt(born.length * part);
    expect(Math.abs(count - born.length * part)).toBeLessThan(5 * deviation + 3);
  });
});

test('a snapshot brings a medium back, and a second run is the same', async () => {
  const piece = stirred({ edges: 'open', swirl: 4, spreading: 0.002 }, (p) => {
    const noise = makePart('forces', 'curlNoise', []);
    noise.dials.acts = 'carry';
    const ride = { ...makePart('forces', 'ride', []), id: 'ride' };
    ride.dials.medium = 'water';
    p.forces = [noise, ride];
  });
  water = await Water.of(piece, 2);
  const bits = (): string =>
    ['u', 'v', 'red', 'amount', 'carry.x']
      .map((name) => Buffer.from(water.plane(name).slice().buffer).toString('base64'))
      .concat(Buffer.from(water.engine.state('motes', 'px').slice().buffer).toString('base64'))
      .join();
  water.step(10);
  const kept = water.engine.save();
  const early = bits();
  water.step(15);
  const late = bits();
  water.engine.restore(kept);
  expect(bits() === early).toBe(true);
  water.step(15);
  expect(bits() === late).toBe(true);
  water.engine.reset();
  water.step(25);
  expect(bits() === late).toBe(true);
});

test('two media that stir each other, and one that is solid through and through, are defined', async () => {
  const piece = stirred({ edges: 'closed' }, (p) => {
    p.media.push({ ...structuredClone(p.media[0]!), id: 'air', name: 'Air' });
    p.forces = ['water', 'air'].map((medium, i) => {
      const force = { ...makePart('forces', 'ride', []), id: medium };
      Object.assign(force.dials, { medium, acts: i === 0 ? 'push' : 'carry' });
      return force;
    });
  });
  const speeds: number[] = [];
  for (let run = 0; run < 2; run++) {
    water = await Water.of(piece);
    water.step(40);
    speeds.push(Math.max(...water.plane('u')), Math.max(...water.engine.medium('air', 'v')));
    water.close();
  }
  expect(speeds.every((s) => Number.isFinite(s) && s > 0 && s < 5)).toBe(true);
  expect(speeds.slice(0, 2)).toEqual(speeds.slice(2));
  piece.colliders = [makePart('colliders', 'sphere', [])];
  piece.colliders[0]!.dials.radius = 50;
  water = await Water.of(piece);
  water.step(10);
  for (const name of ['u', 'v', 'red', 'amount']) {
    expect(Math.max(...water.plane(name).map(Math.abs))).toBe(0);
  }
});

test('a clip or a hand stirs and lights it', async () => {
  const piece = waterPiece({ picture: 'map', pictureTint: 4, pictureStir: 0 });
  const map = makePart('pictures', 'gradient', []);
  piece.pictures = [{ ...map, id: 'map' }];
  water = await Water.of(piece);
  await water.engine.ready();
  water.step(2);
  expect(water.sum('amount')).toBeGreaterThan(1);
  water.close();
  const formula = makePart('signals', 'formula', []);
  formula.dials.text = 'time';
  const handX = { feed: 'signal' as const, signal: 'formula', from: -0.5, to: 0.5 };
  const by = waterPiece({ hand: 1, handX, handY: 0.25, handSize: 0.15, handTint: 5 });
  by.signals = [formula];
  water = await Water.of(by);
  water.step(12);
  // From the left edge by a quarter, a metre a second.
  const column = Math.round(((-0.5 + 0.2) / 2 + 0.5) * 64 + 0.5);
  expect(water.plane('u')[water.at(column, 40)]!).toBeGreaterThan(0.5);
  expect(water.plane('red')[water.at(column, 40)]!).toBeGreaterThan(0.05);
});

test.each(['frame', 'plane'] as const)('it is seen where it is: %s', async (fills) => {
  const piece = waterPiece({
    fills,
    lines: 64,
    shown: 'behind',
    centre: [0.3, 0, 0],
    turn: [0, 30, 20],
  });
  piece.finish = [];
  piece.frame.height = 72;
  water = await Water.of(piece);
  const { engine, space } = water;
  const [column, line] = [Math.round(space.columns * 0.7), 44];
  engine.step();
  const red = water.plane('red');
  for (const dy of [-1, 0, 1])
    for (const dx of [-1, 0, 1]) red[water.at(column + dx, line + dy)] = 3;
  const { pixels } = engine.draw(128, 72);
  let [x, y, sum] = [0, 0, 0];
  for (let i = 0; i < 128 * 72; i++) {
    const light = Math.max(0, pixels[4 * i]! - pixels[4 * i + 2]! - 40);
    [x, y, sum] = [
      x + light * ((i % 128) + 0.5),
      y + light * (Math.floor(i / 128) + 0.5),
      sum + light,
    ];
  }
  const pose = space.pose(1 / 60);
  const [a, b] = water.place(column, line);
  const place = pose.centre.map((c, k) => c + a * pose.right[k]! + b * pose.up[k]!);
  const camera = cameraAt(new Scene(piece), 1 / 60);
  const wanted = project(camera, { width: 128, height: 72 }, place as [number, number, number])!;
  expect(sum).toBeGreaterThan(100);
  expect(Math.abs(x / sum - wanted[0])).toBeLessThan(1);
  expect(Math.abs(y / sum - wanted[1])).toBeLessThan(1);
});

test('what rides on a medium depends on all that stirs it', () => {
  const piece = stirred({});
  const rider = { ...motes(10), id: 'rider', name: 'Rider' };
  rider.dials.stirs = 0;
  piece.swarms.push(rider);
  const ride = makePart('forces', 'ride', []);
  ride.dials.medium = 'water';
  piece.forces = [ride];
  piece.influence = { ride: { motes: 0, water: 0 } };
  const keys = (change: (p: Piece) => void): [boolean, boolean] => {
    const other = structuredClone(piece);
    change(other);
    const [before, after] = [motionKeys(piece, new Map()), motionKeys(other, new Map())];
    return [before.get('rider') !== after.get('rider'), before.get('motes') !== after.get('motes')];
  };
  expect(keys((p) => (p.media[0]!.dials.swirl = 9))).toEqual([true, false]);
  expect(keys((p) => (p.swarms[0]!.dials.stirs = 0.1))).toEqual([true, false]);
  expect(keys((p) => (p.swarms[0]!.launch.dials.speed = 3))).toEqual([true, true]);
  expect(keys((p) => (p.media[0]!.dials.light = 9))).toEqual([false, false]);
  expect(keys((p) => (p.swarms[1]!.dials.stirs = 0.1))).toEqual([true, false]);
});

test('dials look it up as a map, and light moves aside by it', async () => {
  const piece = waterPiece({ light: 0 });
  const swarm = motes(300);
  Object.assign(swarm.emitter.dials, { size: [1.8, 1.8, 0] });
  const plane = { centre: [0, 0, 0], turn: [0, 0], width: 2, height: 2 };
  const map = { feed: 'map', picture: 'water', by: 'plane', plane, from: 0.1, to: 0.5 };
  Object.assign(swarm.dials, { size: map });
  piece.swarms = [swarm];
  piece.finish = [makePart('finish', 'displacement', [])];
  Object.assign(piece.finish[0]!.dials, { by: 'picture', picture: 'water', across: 0.2 });
  water = await Water.of(piece);
  water.step(2);
  const dark = water.engine.draw(64, 64).pixels.slice();
  // Grey that rises from the lower to the upper edge.
  for (const name of ['red', 'green', 'blue']) water.fill(name, (_, y) => (y + 1) / 2);
  const { size } = water.engine.readings('motes');
  const py = water.engine.state('motes', 'py');
  size.slice(0, 300).forEach((value, i) => {
    expect(value).toBeCloseTo(0.1 + 0.4 * ((py[i]! + 1) / 2), 3);
  });
  const bright = water.engine.draw(64, 64).pixels;
  expect(bright.some((value, i) => Math.abs(value - dark[i]!) > 30)).toBe(true);
});
