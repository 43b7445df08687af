import { cameraAt, compilePiece, Scene } from '@vast-swarm/core/plan';
import { made, tableOfCube, type Mesh } from '@vast-swarm/core/stock';
import { makeChoice, makePart, type Piece } from '@vast-swarm/core/piece';
import { PATTERNS, patternArea, patternAt, PUFF_MEAN } from '@vast-swarm/core/kinds';
import { Playback } from '@vast-swarm/core/play';
import { frameHash } from '../../../tests/support/frameHash';
import { filled, smallPiece } from '../../../tests/support/pieces';
import { CpuEngine } from '../src';

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 2 });
});
afterAll(() => {
  engine.close();
});

const BLACK = { kind: 'flat', dials: { colour: '#000000' } };

/** One still particle in the middle of a dark frame, as a body of that kind. */
function still(body: string, change: (piece: Piece) => void = () => undefined): Piece {
  return smallPiece((p) => {
    Object.assign(p, { forces: [], finish: [], backdrop: BLACK });
    const swarm = p.swarms[0]!;
    swarm.emitter = makeChoice('emitters', 'point');
    swarm.launch.dials.speed = 0;
    swarm.bodies = [makePart('bodies', body, [])];
    Object.assign(swarm.dials, { rate: 0, burst: 1, lifetime: 60, size: 0.6, opacity: 1 });
    Object.assign(swarm.dials, { colour: '#ffffff', light: 1 });
    Object.assign(p.camera.dials, { distance: 6, elevation: 0 });
    change(p);
  });
}

function run(piece: Piece, frame: number): void {
  const plan = compilePiece(piece);
  engine.setPlan(plan);
  engine.reset();
  while (engine.frame < frame) {
    engine.step();
    if (plan.finish.remembers && engine.frame >= 0 && engine.frame < frame) engine.draw(128, 72);
  }
}

/** Linear light of the frame, red channel. */
function light(piece: Piece, frame = 3, [w, h]: [number, number] = [256, 144]): Float32Array {
  run(piece, frame);
  engine.draw(w, h);
  return engine.lightOf(w, h);
}

const sum = (values: Float32Array): number => values.reduce((a, b) => a + b, 0);

test.each([
  ['disc', 0],
  ['disc', 0.7],
  ['square', 1],
  ['spark', 0.2],
  ['ring', 0.3],
])('a %s of hardness %d keeps its light out of focus, to 1 %%', (body, hardness) => {
  const with_ = (aperture: number, blades: number): number =>
    sum(
      light(
        still(body, (p) => {
          p.swarms[0]!.bodies[0]!.dials.hardness = hardness;
          // Many, so that it does not matter where in a pixel each one stands.
          p.swarms[0]!.emitter = makeChoice('emitters', 'box');
          p.swarms[0]!.emitter.dials.size = [0.8, 0.8, 0];
          p.swarms[0]!.dials.burst = 40;
          Object.assign(p.camera.dials, { aperture, focus: 3, blades });
        }),
        3,
        [640, 360],
      ),
    );
  const sharp = with_(1e-6, 0);
  expect(sharp).toBeGreaterThan(50);
  for (const blades of [0, 5, 8]) {
    for (const aperture of [0.1, 0.5]) {
      expect(Math.abs(with_(aperture, blades) / sharp - 1)).toBeLessThan(0.01);
    }
  }
});

test('patterns have the areas that their formulas give', () => {
  // πr²(1 - 2 / 3e); a ring of half width h is a band 2h wide about 1 - h.
  expect(patternArea('disc', 1, 0)).toBeCloseTo(Math.PI / 3, 2);
  expect(patternArea('disc', 4, 0)).toBeCloseTo(Math.PI * (1 - 1 / 6), 2);
  expect(patternArea('ring', 1, 0.2)).toBeCloseTo(2 * Math.PI * 0.8 * 0.2 * (16 / 15), 2);
  for (const pattern of PATTERNS) {
    for (const [u, v] of [
      [0, 0],
      [0.5, -0.3],
      [1, 1],
    ] as const) {
      const value = patternAt(pattern, u, v, 3, 0.3);
      expect(value).toBeGreaterThanOrEqual(0);
      expect(value).toBeLessThanOrEqual(1);
    }
  }
});

test('without perspective a square is as large as its metres, at any distance', () => {
  for (const z of [-4, 0, 3]) {
    const piece = still('square', (p) => {
      p.camera = makeChoice('cameras', 'orthographic');
      Object.assign(p.camera.dials, { tall: 2, distance: 6, elevation: 0 });
      p.swarms[0]!.emitter.dials.centre = [0, 0, z];
      p.swarms[0]!.bodies[0]!.dials.hardness = 1;
    });
    const row = light(piece).slice(72 * 256, 73 * 256);
    const across = row.filter((v) => v > 0.5).length;
    // 0.6 m of 2 m over 144 lines.
    expect(across).toBeGreaterThanOrEqual(42);
    expect(across).toBeLessThanOrEqual(44);
  }
});

/** All pairs of living particles nearer than a radius. */
function pairsWithin(radius: number): [number, number][] {
  const state = (name: string): Float32Array => engine.state('motes', name);
  const [x, y, z] = [state('px'), state('py'), state('pz')];
  const [age, life] = [state('age'), state('life')];
  const alive = [...Array(engine.born('motes')).keys()].filter(
    (i) => age[i]! >= 0 && age[i]! < life[i]!,
  );
  return alive.flatMap((i) =>
    alive
      .filter((j) => j > i && Math.hypot(x[i]! - x[j]!, y[i]! - y[j]!, z[i]! - z[j]!) < radius)
      .map((j): [number, number] => [i, j]),
  );
}

const named = ([i, j]: readonly [number, number]): string => `${String(i)} ${String(j)}`;

test('links are those of a search through all pairs', () => {
  const radius = 0.45;
  const piece = smallPiece((p) => {
    const body = makePart('bodies', 'links', []);
    Object.assign(body.dials, { radius, most: 16, total: 500_000 });
    p.swarms[0]!.bodies = [body];
    Object.assign(p.swarms[0]!.dials, { rate: 90 });
  });
  run(piece, 40);
  engine.draw(128, 72);
  const wanted = new Set(pairsWithin(radius).map(named));
  expect(wanted.size).toBeGreaterThan(60);
  expect(new Set(engine.linksOf('motes', 16))).toEqual(wanted);
});

/** The place of a pair in the fixed order of all pairs. */
function rankOf(i: number, j: number): number {
  const mixed = (x: number): number => {
    let h = x;
    h = Math.imul(h ^ (h >>> 16), 0x7feb352d);
    h = Math.imul(h ^ (h >>> 15), 0x846ca68b);
    return h ^ (h >>> 16);
  };
  return mixed(mixed(i) ^ Math.imul(j, 0x9e3779b1)) >>> 0;
}

test.each([1, 2, 3, 5, 64])(
  'of %d links a particle each pair is kept that is among the first of both',
  (most) => {
    // So many in few cells that most cells are looked through four by four, with a rest.
    const radius = 0.6;
    const piece = smallPiece((p) => {
      const body = makePart('bodies', 'links', []);
      Object.assign(body.dials, { radius, most, total: 500_000 });
      p.swarms[0]!.bodies = [body];
      Object.assign(p.swarms[0]!.dials, { rate: 300, lifetime: 3 });
    });
    run(piece, 45);
    engine.draw(128, 72);
    const pairs = pairsWithin(radius);
    const first = new Map<number, number[]>();
    for (const [i, j] of pairs) {
      for (const end of [i, j]) first.set(end, [...(first.get(end) ?? []), rankOf(i, j)]);
    }
    for (const ranks of first.values()) ranks.sort((a, b) => a - b).splice(most);
    const wanted = pairs.filter(([i, j]) =>
      [i, j].every((end) => first.get(end)!.includes(rankOf(i, j))),
    );
    expect(pairs.length).toBeGreaterThan(2000);
    expect(new Set(engine.linksOf('motes', most))).toEqual(new Set(wanted.map(named)));
  },
);

test('links of a few a particle are a part of all of them, and stay while nothing moves', () => {
  const piece = (most: number, total: number): Piece =>
    smallPiece((p) => {
      const body = makePart('bodies', 'links', []);
      Object.assign(body.dials, { radius: 0.8, most, total });
      p.swarms[0]!.bodies = [body];
      p.forces = [];
      p.swarms[0]!.launch.dials.speed = 0;
      Object.assign(p.swarms[0]!.dials, { rate: 0, burst: 150, lifetime: 60 });
    });
  const at = (most: number, total: number, frame: number): string[] => {
    run(piece(most, total), frame);
    engine.draw(128, 72);
    return engine.linksOf('motes', most);
  };
  const few = at(3, 500_000, 10);
  const degree = new Map<string, number>();
  for (const end of few.flatMap((l) => l.split(' '))) degree.set(end, (degree.get(end) ?? 0) + 1);
  expect(Math.max(...degree.values())).toBeLessThanOrEqual(3);
  expect(few.length).toBeGreaterThan(50);
  expect(at(3, 500_000, 40)).toEqual(few);
  const limited = at(3, 40, 40);
  expect(limited.length).toBe(40);
  expect(few).toEqual(expect.arrayContaining(limited));
});

test('trails end where particles were', () => {
  const piece = still('trail', (p) => {
    Object.assign(p.swarms[0]!.bodies[0]!.dials, { length: 12, fade: 1, width: 1 });
    p.swarms[0]!.launch = makeChoice('launches', 'cone');
    Object.assign(p.swarms[0]!.launch.dials, { direction: [1, 0, 0], angle: 0, speed: 2 });
    p.camera = makeChoice('cameras', 'orthographic');
    Object.assign(p.camera.dials, { tall: 4, elevation: 0, target: [1, 0, 0] });
    p.swarms[0]!.dials.size = 0.2;
  });
  const row = light(piece, 24).slice(72 * 256, 73 * 256);
  const lit = [...row.keys()].filter((i) => row[i]! > 0.05);
  const metres = (pixel: number): number => ((pixel + 0.5 - 128) * 4) / 144 + 1;
  const head = engine.state('motes', 'px')[0]!;
  expect(metres(lit.at(-1)!)).toBeCloseTo(head, 1);
  // Twelve frames back at 2 m/s and 30 frames a second.
  expect(metres(lit[0]!)).toBeCloseTo(head - (12 * 2) / 30, 1);
  expect(lit.length).toBe(lit.at(-1)! - lit[0]! + 1);
});

test('feedback on a still picture is its geometric series, however the frame was reached', () => {
  const fade = 0.6;
  const piece = still('disc', (p) => {
    const part = makePart('finish', 'feedback', []);
    Object.assign(part.dials, { fade, join: 'add' });
    p.finish = [part];
  });
  const once = sum(light({ ...piece, finish: [] }, 5, [128, 72]));
  for (const frame of [0, 1, 5]) {
    const series = (1 - fade ** (frame + 1)) / (1 - fade);
    expect(sum(light(piece, frame, [128, 72])) / once / series).toBeCloseTo(1, 3);
  }
  const moving = smallPiece((p) => {
    const part = makePart('finish', 'feedback', []);
    Object.assign(part.dials, { scale: 1.05, turn: 3, soften: 0.01 });
    p.finish.unshift(part);
  });
  run(moving, 50);
  const played = frameHash(engine.draw(128, 72).pixels);
  const playback = new Playback(engine, 1e9);
  playback.setPlan(compilePiece(moving));
  playback.restart();
  const seek = (frame: number): void => {
    for (let left = playback.approach(frame); left > 0; left--) {
      playback.advance();
      if (playback.frame >= 0) engine.draw(128, 72);
    }
  };
  seek(80);
  seek(50);
  expect(frameHash(engine.draw(128, 72).pixels)).toBe(played);
  // Drawn again, it is not added again.
  expect(frameHash(engine.draw(128, 72).pixels)).toBe(played);
});

test('blur and bloom keep light: the one all, the other what it adds, to 1 %', () => {
  const base = still('disc');
  const plain = sum(light(base));
  const treated = (kind: string, dials: object): number =>
    sum(
      light({
        ...base,
        finish: [
          Object.assign(makePart('finish', kind, []), {
            dials: { ...makePart('finish', kind, []).dials, ...dials },
          }),
        ],
      }),
    );
  for (const radius of [0.005, 0.02, 0.06]) {
    expect(Math.abs(treated('blur', { radius }) / plain - 1)).toBeLessThan(0.01);
  }
  const spill = treated('bloom', { amount: 0.5, threshold: 0, radius: 0.05 });
  expect(Math.abs(spill / plain / 1.5 - 1)).toBeLessThan(0.01);
});

test('a lookup table is what an independent interpolation makes of it', () => {
  const n = 3;
  const entry = (r: number, g: number, b: number): number[] => [
    (r * r) / 4,
    (g + b) / 5,
    Math.abs(b - r) / 3,
  ];
  const rows: string[] = ['LUT_3D_SIZE 3'];
  for (let b = 0; b < n; b++) {
    for (let g = 0; g < n; g++) for (let r = 0; r < n; r++) rows.push(entry(r, g, b).join(' '));
  }
  const table = tableOfCube('test.cube', rows.join('\n'));
  const piece = smallPiece((p) => {
    p.swarms = [];
    p.backdrop = {
      kind: 'linear',
      dials: {
        ...makeChoice('backdrops', 'linear').dials,
        first: '#204090',
        last: '#ffb060',
        turn: 20,
      },
    };
    p.stock = [
      { id: 't', name: 't', type: 'table', source: { file: 't.cube', hash: 'ab'.repeat(32) } },
    ];
    const part = makePart('finish', 'lookupTable', []);
    part.dials.table = 't';
    // What comes behind it lets the light be looked at.
    p.finish = [
      part,
      Object.assign(makePart('finish', 'blur', [part]), {
        dials: { ...makePart('finish', 'blur', []).dials, radius: 0 },
      }),
    ];
  });
  const draw = (with_: Piece): Float32Array[] => {
    engine.setPlan(compilePiece(with_, { files: new Map([['ab'.repeat(32), table]]) }));
    engine.reset();
    engine.step();
    engine.draw(128, 72);
    return [0, 1, 2].map((c) => engine.lightOf(128, 72, c));
  };
  const after = draw(piece);
  const before = draw({ ...piece, finish: [] });
  let worst = 0;
  for (let i = 0; i < 128 * 72; i += 37) {
    const c = before.map((plane) => Math.min(1, Math.max(0, plane[i]!)) * (n - 1));
    const [base, part] = [c.map((v) => Math.min(n - 2, Math.floor(v))), [] as number[]];
    c.forEach((v, k) => part.push(v - base[k]!));
    const wanted = [0, 0, 0];
    for (let corner = 0; corner < 8; corner++) {
      const at = [0, 1, 2].map((k) => base[k]! + ((corner >> k) & 1));
      const weight = [0, 1, 2].reduce(
        (w, k) => w * ((corner >> k) & 1 ? part[k]! : 1 - part[k]!),
        1,
      );
      entry(at[0]!, at[1]!, at[2]!).forEach((v, k) => (wanted[k]! += weight * v));
    }
    wanted.forEach((v, k) => (worst = Math.max(worst, Math.abs(v - after[k]![i]!))));
  }
  expect(worst).toBeLessThan(1e-5);
});

test.each<[string, number, (piece: Piece) => void]>([
  ['the mean brightness', 80, () => undefined],
  [
    'the light of links',
    60,
    (p) => {
      const links = makePart('bodies', 'links', []);
      Object.assign(links.dials, { radius: 0.25, width: 0.01, mode: 'add' });
      p.swarms[0]!.bodies = [links];
      p.swarms[0]!.dials.rate = 2000;
      p.forces = [];
    },
  ],
])('density keeps %s within 5 %% from a quarter to four times', (_, frame, change) => {
  const mean = (density: number): number =>
    sum(
      light(
        smallPiece((p) => {
          p.density = density;
          Object.assign(p, { finish: [], backdrop: BLACK });
          const own = { rate: 4000, opacity: 0.5, light: 1, colour: '#ffffff', size: 0.06 };
          Object.assign(p.swarms[0]!.dials, own);
          change(p);
        }),
        frame,
      ),
    );
  const one = mean(1);
  expect(one).toBeGreaterThan(0);
  for (const density of [0.25, 0.5, 2, 4]) {
    expect(Math.abs(mean(density) / one - 1)).toBeLessThan(0.05);
  }
});

test('what is behind opaque things is hidden, and fades softly before them', () => {
  const piece = (z: number, soft: number): Piece =>
    still('disc', (p) => {
      const swarm = p.swarms[0]!;
      Object.assign(swarm.bodies[0]!.dials, { soft });
      swarm.emitter.dials.centre = [0, 0, z];
      const wall = structuredClone(swarm);
      wall.id = 'wall';
      wall.emitter.dials.centre = [0, 0, 0];
      wall.bodies = [makePart('bodies', 'square', [])];
      Object.assign(wall.bodies[0]!.dials, { mode: 'opaque', scale: 20, gain: 0 });
      p.swarms.push(wall);
    });
  expect(sum(light(piece(-1, 0)))).toBe(0);
  const before = sum(light(piece(1, 0)));
  expect(before).toBeGreaterThan(100);
  expect(sum(light(piece(1, 2))) / before).toBeCloseTo(0.5, 2);
});

test('zero trails, links without radius and too many triangles draw nothing, and say so in numbers', () => {
  const bodies = (kind: string, dials: object) => [
    Object.assign(makePart('bodies', kind, []), {
      dials: { ...makePart('bodies', kind, []).dials, ...dials },
    }),
  ];
  for (const [kind, dials] of [
    ['trail', { length: 0 }],
    ['links', { radius: 0 }],
  ] as const) {
    expect(sum(light(still(kind, (p) => (p.swarms[0]!.bodies = bodies(kind, dials)))))).toBe(0);
  }
  const crowd = still('mesh', (p) => {
    p.stock.push({ id: 'conch', name: 'Conch', type: 'mesh', source: { made: 'conch' } });
    p.stock = p.stock.filter((s, i) => p.stock.findIndex((o) => o.id === s.id) === i);
    p.swarms[0]!.bodies = bodies('mesh', { form: 'mesh', mesh: 'conch' });
    p.swarms[0]!.dials.burst = 1_000_000;
  });
  const [notice] = compilePiece(crowd).notices;
  const { triangles } = made('conch') as Mesh;
  const each = triangles.length / 3;
  const fits = Math.floor(4_000_000 / each);
  const told = `${each.toLocaleString('en-GB')},000,000 triangles.*at most ${String(fits)} particles`;
  expect(notice!.message).toMatch(new RegExp(`${told}.*at most 4 triangles`));
});

test('the camera flies along its line and stays level at its ends', () => {
  const piece = smallPiece((p) => {
    p.stock.push({ id: 'way', name: 'Way', type: 'outline', source: { path: 'M0 0 L10 0' } });
    Object.assign(p.camera.dials, { along: 'way', progress: 0.5 });
  });
  const at = (progress: number) => {
    piece.camera.dials.progress = progress;
    return cameraAt(new Scene(piece), 0);
  };
  expect(at(0.5).eye[0]).toBeCloseTo(5);
  for (const progress of [0, 0.5, 1]) {
    const { forward, up } = at(progress);
    expect(forward.map((v) => Math.round(v * 1e6) / 1e6 + 0)).toEqual([1, 0, 0]);
    expect(up[1]).toBeCloseTo(1);
  }
});

test('pictures of another size are left out of a set, in numbers', () => {
  const piece = still('pictureSet', (p) => {
    const body = p.swarms[0]!.bodies[0]!;
    filled({ pictures: { type: 'stocks', accepts: ['picture'] } as never }, body.dials);
  });
  const told = compilePiece(piece).notices.map((n) => n.message);
  expect(told.join()).toMatch(
    /has \d+ × \d+ pixels and the first of its set \d+ × \d+; it is left out/,
  );
});

test('puffs have on average the light that is reckoned with when they are out of focus', () => {
  const many = (body: string): number =>
    sum(
      light(
        still(body, (p) => {
          p.swarms[0]!.emitter = makeChoice('emitters', 'box');
          p.swarms[0]!.dials.burst = 400;
        }),
      ),
    );
  expect(many('puff') / many('disc')).toBeCloseTo(PUFF_MEAN, 1);
});

test.each([
  ['stops', -3],
  ['stops', 4],
  ['bleed', 0.33],
])('tone mapping rises with light, and stays below 1: %s %d', (dial, value) => {
  const piece = smallPiece((p) => {
    p.swarms = [];
    const ends = { first: '#000000', last: '#fff0d0', turn: 0, reach: 16 / 9 };
    p.backdrop = { kind: 'linear', dials: { ...makeChoice('backdrops', 'linear').dials, ...ends } };
    const part = (kind: string, dials: object) => {
      const made = makePart('finish', kind, []);
      return { ...made, dials: { ...made.dials, ...dials } };
    };
    // Up to twenty times what a screen shows; the blur lets the light be looked at.
    p.finish = [
      part('colourLayer', { colour: '#ffffff', light: 20 }),
      part('exposure', { [dial]: value }),
      part('blur', { radius: 0 }),
    ];
  });
  light(piece, 1, [256, 144]);
  for (const channel of [0, 1, 2]) {
    const row = engine.lightOf(256, 144, channel).subarray(0, 256);
    for (let x = 1; x < 256; x++) expect(row[x]!).toBeGreaterThanOrEqual(row[x - 1]!);
    expect(row[255]! - row[0]!).toBeGreaterThan(0.3);
    expect(row[255]!).toBeLessThan(1);
  }
});

test('what feedback remembers is made anew when the look changes', () => {
  const piece = (colour: string): Piece =>
    smallPiece((p) => {
      p.finish.unshift(makePart('finish', 'feedback', []));
      p.backdrop = { kind: 'flat', dials: { colour } };
    });
  run(piece('#102040'), 20);
  const wanted = frameHash(engine.draw(128, 72).pixels);
  const playback = new Playback(engine, 1e9);
  const seek = (frame: number): void => {
    for (let left = playback.approach(frame); left > 0; left--) {
      playback.advance();
      if (playback.frame >= 0) engine.draw(128, 72);
    }
  };
  playback.setPlan(compilePiece(piece('#802010')));
  playback.restart();
  seek(30);
  playback.setPlan(compilePiece(piece('#102040')));
  expect(playback.exact).toBe(false);
  seek(20);
  expect(frameHash(engine.draw(128, 72).pixels)).toBe(wanted);
});
