import { Document, WebIO } from '@gltf-transform/core';
import { compilePiece } from '@vast-swarm/core/plan';
import { makeChoice, makePart, type Piece } from '@vast-swarm/core/piece';
import { readStock, type Mesh, type Picture, type StockData } from '@vast-swarm/core/stock';
import type { MapFeed } from '@vast-swarm/core/feeds';
import { CpuEngine } from '../src';
import { smallPiece } from '../../../tests/support/pieces';

/** What maps give, against a reading of the picture that knows nothing of ours. */

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 2 });
});
afterAll(() => engine.close());

const HASH = 'cccccccccccccccc';
const [WIDTH, HEIGHT] = [7, 5];
let state = 11;
const byte = (): number => (state = (state * 48271) % 2147483647) % 256;
const picture: Picture = {
  type: 'picture',
  width: WIDTH,
  height: HEIGHT,
  pixels: Uint8Array.from({ length: 4 * WIDTH * HEIGHT }, (_, i) => (i % 4 === 3 ? 255 : byte())),
};

/** Linear light of a channel at 0 to 1 from the left and the top, straight between the middles of pixels. */
function lightAt(u: number, v: number, channel: number): number {
  const light = (i: number, j: number): number => {
    const at = 4 * (Math.min(HEIGHT - 1, j) * WIDTH + Math.min(WIDTH - 1, i)) + channel;
    const c = picture.pixels[at]! / 255;
    return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
  };
  const x = Math.min(WIDTH - 1, Math.max(0, u * WIDTH - 0.5));
  const y = Math.min(HEIGHT - 1, Math.max(0, v * HEIGHT - 0.5));
  const [i, j] = [Math.floor(x), Math.floor(y)];
  const row = (at: number): number => light(i, at) + (light(i + 1, at) - light(i, at)) * (x - i);
  return row(j) + (row(j + 1) - row(j)) * (y - j);
}

function mapped(feed: Partial<MapFeed>, change: (piece: Piece) => void = () => undefined): Piece {
  return smallPiece((p) => {
    p.stock.push({
      id: 'dots',
      name: 'Dots',
      type: 'picture',
      source: { file: 'a.png', hash: HASH },
    });
    const [swarm] = p.swarms;
    swarm!.emitter = makeChoice('emitters', 'rectangle');
    Object.assign(swarm!.emitter.dials, { width: 3, depth: 2, fill: 'inside' });
    Object.assign(swarm!.dials, {
      rate: 0,
      burst: 400,
      lasts: 'ever',
      size: { feed: 'map', picture: 'dots', from: 1, to: 3, ...feed },
    });
    swarm!.launch.dials.speed = 0;
    p.forces = [];
    change(p);
  });
}

/** Runs a piece and gives places and sizes of its particles. */
function run(
  piece: Piece,
  frame = 3,
  files = new Map<string, StockData>([[HASH, picture]]),
): { x: number; y: number; z: number; size: number }[] {
  engine.setPlan(compilePiece(piece, { files }));
  engine.reset();
  while (engine.frame < frame) engine.step();
  const { size } = engine.readings('motes');
  const [px, py, pz] = (['px', 'py', 'pz'] as const).map((n) => engine.state('motes', n));
  return Array.from({ length: 400 }, (_, i) => ({
    x: px![i]!,
    y: py![i]!,
    z: pz![i]!,
    size: size[i]!,
  }));
}

/** How far sizes are off, relative to what a full value gives. */
function expectSizes(
  found: ReturnType<typeof run>,
  wanted: (p: (typeof found)[0]) => number,
): void {
  const off = found.map((p) => Math.abs(p.size - wanted(p)));
  expect(Math.max(...off)).toBeLessThan(2e-3);
  const sizes = found.map((p) => p.size);
  expect(Math.max(...sizes) - Math.min(...sizes)).toBeGreaterThan(0.5);
}

const onRectangle = (p: { x: number; z: number }): [number, number] => [
  p.x / 3 + 0.5,
  p.z / 2 + 0.5,
];

test.each(['red', 'green', 'blue'] as const)('%s along the emitter', (channel) => {
  const k = ['red', 'green', 'blue'].indexOf(channel);
  for (const evaluate of ['birth', 'live'] as const) {
    const found = run(mapped({ channel, evaluate }));
    expectSizes(found, (p) => 1 + 2 * lightAt(...onRectangle(p), k));
  }
});

test('brightness, hue and saturation', () => {
  const rgb = (p: { x: number; z: number }): number[] =>
    [0, 1, 2].map((k) => lightAt(...onRectangle(p), k));
  expectSizes(run(mapped({ channel: 'brightness' })), (p) => {
    const [r, g, b] = rgb(p) as [number, number, number];
    return 1 + 2 * (0.2126 * r + 0.7152 * g + 0.0722 * b);
  });
  expectSizes(run(mapped({ channel: 'saturation' })), (p) => {
    const c = rgb(p);
    return 1 + (2 * (Math.max(...c) - Math.min(...c))) / Math.max(...c);
  });
  expectSizes(run(mapped({ channel: 'hue' })), (p) => {
    const [r, g, b] = rgb(p) as [number, number, number];
    const [most, apart] = [Math.max(r, g, b), Math.max(r, g, b) - Math.min(r, g, b)];
    const sixths =
      most === r ? (g - b) / apart : most === g ? 2 + (b - r) / apart : 4 + (r - g) / apart;
    return 1 + 2 * ((((sixths / 6) % 1) + 1) % 1);
  });
});

test('formulas read a picture along the emitter, and at places in it', () => {
  const bright = (u: number, v: number): number =>
    [0.2126, 0.7152, 0.0722].reduce((sum, part, k) => sum + part * lightAt(u, v, k), 0);
  const fed = (text: string, from = 0, to = 9): ReturnType<typeof run> =>
    run(
      mapped({}, (p) => {
        p.swarms[0]!.dials.size = { feed: 'formula', text, from, to };
      }),
    );
  expectSizes(fed('1 + 2 * map(dots)'), (p) => 1 + 2 * bright(...onRectangle(p)));
  const wrapped = (t: number): number => t - Math.floor(t);
  expectSizes(
    fed("3 * map('dots', x * 0.9, z + 0.1)"),
    (p) => 3 * bright(wrapped(p.x * 0.9), wrapped(p.z + 0.1)),
  );
  // Within limits as any formula.
  expectSizes(fed('map(dots) * 8', 1, 2), (p) =>
    Math.min(2, Math.max(1, 8 * bright(...onRectangle(p)))),
  );
});

test('what counts lies between two limits, either way round', () => {
  const wanted = (low: number, high: number) => (p: { x: number; z: number }) => {
    const t = (lightAt(...onRectangle(p), 0) - low) / (high - low);
    return 1 + 2 * Math.min(1, Math.max(0, t));
  };
  expectSizes(run(mapped({ channel: 'red', low: 0.2, high: 0.6 })), wanted(0.2, 0.6));
  expectSizes(run(mapped({ channel: 'red', low: 0.7, high: 0.1 })), wanted(0.7, 0.1));
});

test.each([
  ['again', (t: number) => t - Math.floor(t)],
  ['mirrored', (t: number) => 1 - Math.abs((((t % 2) + 2) % 2) - 1)],
  ['edge', (t: number) => Math.min(1, Math.max(0, t))],
] as const)('beyond the map: %s', (edge, within) => {
  const found = run(mapped({ channel: 'green', repeat: [2.5, 1.7], edge }));
  expectSizes(found, (p) => {
    const [u, v] = onRectangle(p);
    return 1 + 2 * lightAt(within(u * 2.5), within(v * 1.7), 1);
  });
});

test('by the place on a turned plane, as it is now and as it was at birth', () => {
  const plane = { centre: [0.2, 0.1, 0], turn: [-90, 0], width: 2.4, height: 1.6 } as const;
  const feed = {
    by: 'plane',
    plane: { ...plane, centre: [...plane.centre], turn: [...plane.turn] },
    channel: 'blue',
    edge: 'edge',
  } as Partial<MapFeed>;
  // Turned so, up the plane is away from the front: towards -z.
  const seen = (x: number, z: number): number =>
    1 + 2 * lightAt((x - 0.2) / 2.4 + 0.5, 0.5 + z / 1.6, 2);
  const drifting = (p: Piece): void => {
    p.forces = [makePart('forces', 'gravity', [])];
    p.forces[0]!.dials.acceleration = [0, 0, 0];
    Object.assign(p.swarms[0]!.launch, makeChoice('launches', 'cone'));
    Object.assign(p.swarms[0]!.launch.dials, { speed: 6, direction: [1, 0, 0], angle: 0 });
  };
  expectSizes(run(mapped(feed, drifting)), (p) => seen(p.x, p.z));
  const birth = run(mapped({ ...feed, evaluate: 'birth' }, drifting), 3);
  // All were born at once and have gone equally far.
  const gone = (4 / 30) * 6;
  expectSizes(birth, (p) => seen(p.x - gone, p.z));
});

test.each([
  ['line', { from: [-2, 0, 0], to: [2, 0, 0] }, (x: number) => [x / 4 + 0.5, 0.5]],
  [
    'lattice',
    { columns: 20, rows: 20, layers: 1, spacing: [0.1, 0.1, 0.1] },
    (x: number, y: number) => [x / 2 + 0.5, 0.5 - y / 2],
  ],
  [
    'sphere',
    { radius: 2, fill: 'surface' },
    (x: number, y: number, z: number) => [
      Math.atan2(z, x) / (2 * Math.PI) + 0.5,
      0.5 - Math.asin(y / 2) / Math.PI,
    ],
  ],
  [
    'disc',
    { radius: 2 },
    (x: number, _: number, z: number) => [
      (Math.atan2(z, x) / (2 * Math.PI) + 1) % 1,
      Math.hypot(x, z) / 2,
    ],
  ],
] as const)('a %s runs from 0 to 1 along and around', (kind, dials, surface) => {
  const found = run(
    mapped({ channel: 'red' }, (p) => {
      p.swarms[0]!.emitter = makeChoice('emitters', kind);
      Object.assign(p.swarms[0]!.emitter.dials, dials);
    }),
  );
  expectSizes(found, ({ x, y, z }) => {
    const [u, v] = surface(x, y, z) as [number, number];
    return 1 + 2 * lightAt(u, v, 0);
  });
});

/** Two squares side by side, each with the whole picture on it: what is one edge in space is a seam of the picture. */
const TWO_SQUARES = {
  obj: `v -1 0 0\nv 0 0 0\nv 1 0 0\nv -1 1 0\nv 0 1 0\nv 1 1 0
vt 0 0\nvt 1 0\nvt 1 1\nvt 0 1
f 1/1 2/2 5/3 4/4\nf 2/1 3/2 6/3 5/4\n`,
  glb: (): Promise<Uint8Array> => {
    const document = new Document();
    const buffer = document.createBuffer();
    const accessor = (type: 'VEC3' | 'VEC2', values: number[]) =>
      document.createAccessor().setType(type).setArray(Float32Array.from(values)).setBuffer(buffer);
    const squares = [-1, 0].map((x) => [x, 0, 0, x + 1, 0, 0, x + 1, 1, 0, x, 1, 0]).flat();
    const uv = [0, 1, 1, 1, 1, 0, 0, 0];
    const primitive = document
      .createPrimitive()
      .setAttribute('POSITION', accessor('VEC3', squares))
      .setAttribute('TEXCOORD_0', accessor('VEC2', [...uv, ...uv]))
      .setIndices(
        document
          .createAccessor()
          .setType('SCALAR')
          .setArray(Uint16Array.from([0, 1, 2, 0, 2, 3, 4, 5, 6, 4, 6, 7]))
          .setBuffer(buffer),
      );
    const made = document.createMesh().addPrimitive(primitive);
    document.createScene().addChild(document.createNode().setMesh(made));
    return new WebIO().writeBinary(document);
  },
};

test.each(['obj', 'glb'] as const)(
  'a mesh with coordinates runs as they say, over a seam too: %s',
  async (ending) => {
    const file = TWO_SQUARES[ending];
    const bytes = typeof file === 'string' ? new TextEncoder().encode(file) : await file();
    const mesh = (await readStock(`two.${ending}`, bytes)) as Mesh;
    // The seam is none of the mesh.
    expect(mesh.positions.length / 3).toBe(6);
    const hash = 'eeeeeeeeeeeeeeee';
    const piece = mapped({ channel: 'red', edge: 'edge' }, (p) => {
      const source = { file: `two.${ending}`, hash };
      p.stock.push({ id: 'two', name: 'Two', type: 'mesh', source });
      p.swarms[0]!.emitter = makeChoice('emitters', 'mesh');
      Object.assign(p.swarms[0]!.emitter.dials, { mesh: 'two', from: 'faces' });
    });
    const files = new Map<string, StockData>([
      [HASH, picture],
      [hash, mesh],
    ]);
    expectSizes(run(piece, 3, files), ({ x, y }) => 1 + 2 * lightAt(x < 0 ? x + 1 : x, 1 - y, 0));
    // Away from the seam a vertex has the one place that all its corners have.
    Object.assign(piece.swarms[0]!.emitter.dials, { from: 'vertices' });
    const outer = run(piece, 3, files).filter(({ x }) => x !== 0);
    expect(outer.length).toBeGreaterThan(100);
    for (const { x, y, size } of outer) {
      expect(size).toBeCloseTo(1 + 2 * lightAt(x < 0 ? 0 : 1, 1 - y, 0), 2);
    }
  },
);

test('a made map in steps changes at its steps and nowhere else', () => {
  const piece = mapped({ picture: 'noise' }, (p) => {
    p.pictures = [makePart('pictures', 'noise', [])];
    Object.assign(p.pictures[0]!.dials, { every: 6, change: 4 });
  });
  const sums = Array.from({ length: 26 }, (_, frame) =>
    run(piece, frame).reduce((sum, p) => sum + p.size, 0),
  );
  sums.forEach((sum, frame) => {
    if (frame > 0) expect([frame, sum === sums[frame - 1]]).toEqual([frame, frame % 6 !== 0]);
  });
});

test('a map that is not there gives its low', () => {
  expect(run(mapped({ picture: undefined })).every((p) => p.size === 1)).toBe(true);
});

test('a colour from a map, live and kept', () => {
  for (const evaluate of ['birth', 'live'] as const) {
    const piece = mapped({}, (p) => {
      p.swarms[0]!.dials.size = 1;
      p.swarms[0]!.dials.colour = { feed: 'map', picture: 'dots', light: 2, evaluate };
      p.swarms[0]!.dials.light = 1;
    });
    const found = run(piece);
    const { red, green, blue } = engine.readings('motes');
    found.forEach((p, i) => {
      [red, green, blue].forEach((channel, k) => {
        expect(channel[i]!).toBeCloseTo(2 * lightAt(...onRectangle(p), k), 3);
      });
    });
  }
});

test('by the place on the screen: what is behind a particle, however the camera stands', () => {
  const halves: Picture = {
    type: 'picture',
    width: 40,
    height: 1,
    pixels: Uint8Array.from({ length: 160 }, (_, i) => {
      const left = i < 80;
      return [left ? 255 : 0, 0, left ? 0 : 255, 255][i % 4]!;
    }),
  };
  const piece = mapped({}, (p) => {
    p.finish = [];
    p.swarms[0]!.emitter = makeChoice('emitters', 'sphere');
    Object.assign(p.swarms[0]!.dials, { size: 0.12, light: 1, opacity: 1 });
    p.swarms[0]!.dials.colour = { feed: 'map', picture: 'dots', by: 'screen' };
    Object.assign(p.camera.dials, { azimuth: 37, elevation: 12, roll: 0 });
    p.backdrop = makeChoice('backdrops', 'flat');
    p.backdrop.dials.colour = '#000000';
  });
  engine.setPlan(compilePiece(piece, { files: new Map([[HASH, halves]]) }));
  engine.reset();
  engine.step();
  const { pixels } = engine.draw(160, 90);
  const sums = { red: [0, 0], blue: [0, 0] };
  for (let i = 0; i < 160 * 90; i++) {
    const x = i % 160;
    // Discs reach a little over the middle.
    if (Math.abs(x - 79.5) < 10) continue;
    // Black is dithered by a step.
    sums.red[x < 80 ? 0 : 1]! += Math.max(0, pixels[4 * i]! - 2);
    sums.blue[x < 80 ? 0 : 1]! += Math.max(0, pixels[4 * i + 2]! - 2);
  }
  expect([sums.red[1], sums.blue[0]]).toEqual([0, 0]);
  expect(Math.min(sums.red[0]!, sums.blue[1]!)).toBeGreaterThan(1000);
});
