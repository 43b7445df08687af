import { compilePiece } from '@vast-swarm/core/plan';
import { kindOf } from '@vast-swarm/core/kinds';
import { makeChoice, makePart, makePiece, makeSwarm, type Piece } from '@vast-swarm/core/piece';
import type { Clip, Picture } from '@vast-swarm/core/stock';
import { flowBetween, greyOf } from '../../packages/core/src/stock/clip/opticalFlow';
import { pictureOfPlanes } from '../../packages/core/src/stock/read/clip/planes';
import { plainFlow } from '../../tests/support/plainFlow';
import { CpuEngine } from '@vast-swarm/cpu';
import { best, report } from './report';

/** What moving pictures cost: maps, births, flow. */

const COUNT = 200_000;
const HASH = 'aaaaaaaaaaaaaaaa';
const [WIDTH, HEIGHT] = [960, 540];

/** A clip with something bright in every part of it, that moves. */
const clip: Clip = {
  type: 'clip',
  width: WIDTH,
  height: HEIGHT,
  times: Float64Array.from({ length: 31 }, (_, i) => i / 30),
  picture(index) {
    const pixels = new Uint8Array(4 * WIDTH * HEIGHT).fill(255);
    for (let i = 0; i < WIDTH * HEIGHT; i++) {
      const [x, y] = [(i % WIDTH) + 3 * index, Math.floor(i / WIDTH)];
      pixels[4 * i] = 128 + 120 * Math.sin(x / 9) * Math.cos(y / 13);
    }
    return { type: 'picture', width: WIDTH, height: HEIGHT, pixels };
  },
};
const pictures = Array.from({ length: 4 }, (_, i) => clip.picture(i));
const files = new Map([[HASH, { ...clip, picture: (i: number) => pictures[i % 4]! }]]);

function piece(change: (piece: Piece) => void): Piece {
  const made = makePiece('Pictures');
  const swarm = makeSwarm('rectangle', []);
  Object.assign(swarm.dials, { rate: 0, burst: COUNT, lifetime: 100, size: 0.01 });
  made.swarms.push(swarm);
  made.stock = [{ id: 'clip', name: 'Clip', type: 'clip', source: { file: 'a.mp4', hash: HASH } }];
  made.pictures = [makePart('pictures', 'played', [])];
  made.pictures[0]!.dials.clip = 'clip';
  change(made);
  return made;
}

const engine = await CpuEngine.create({ threads: 2 });

/** Milliseconds a step. */
function step(of: Piece): number {
  engine.setPlan(compilePiece(of, { files }));
  engine.reset();
  engine.step();
  return best(8, () => engine.step());
}

const still = step(piece(() => undefined));
const curl = step(piece((p) => p.forces.push(makePart('forces', 'curlNoise', []))));
const drag = (p: Piece, coefficient: unknown): void => {
  p.forces.push(makePart('forces', 'drag', []));
  Object.assign(p.forces[0]!.dials, { amount: coefficient });
};
const number = step(piece((p) => drag(p, 1)));
const feed = { feed: 'map', picture: 'played', by: 'plane', from: 0, to: 1 };
const mapped = step(piece((p) => drag(p, feed)));
report('a dial fed by a map, against a step of curl noise', mapped - number, 'ms', curl - still);

const born = piece((p) => {
  p.swarms[0]!.emitter = makeChoice('emitters', 'picture');
  p.swarms[0]!.emitter.dials.picture = 'played';
  Object.assign(p.swarms[0]!.dials, { rate: 20_000, burst: 0, lifetime: 1 });
});
report('births from a clip of 960 × 540, 20,000 a second, a frame', step(born), 'ms', 3);

const greys = [0, 1].map((i) => greyOf(pictures[i] as Picture, 320));
report(
  'motion between two pictures of 320 × 180, against plain loops',
  best(10, () => flowBetween(greys[0]!, greys[1]!)),
  'ms',
  best(3, () => plainFlow(greys[0]!, greys[1]!)),
);
const planes = {
  width: WIDTH,
  height: HEIGHT,
  lumaStride: WIDTH,
  chromaStride: WIDTH / 2,
  chromaStep: 1,
  luma: new Uint8Array(WIDTH * HEIGHT).fill(90),
  blue: new Uint8Array((WIDTH * HEIGHT) / 4),
  red: new Uint8Array((WIDTH * HEIGHT) / 4),
};
report(
  'a decoded picture of 960 × 540 as red, green and blue',
  best(10, () => pictureOfPlanes(planes, { matrix: 'bt709', full: false })),
  'ms',
);
report(
  'a picture of 960 × 540 as grey in 320 × 180 cells',
  best(10, () => greyOf(pictures[0] as Picture, 320)),
  'ms',
);
for (const kind of ['noise', 'cells']) {
  const dials = { ...makePart('pictures', kind, []).dials, change: 1 };
  const context = { rate: 30, seed: 1, stock: () => undefined };
  const map = kindOf('pictures', kind).moving(dials, context)!;
  let state = 0;
  report(
    `a frame of the made map ${kind}`,
    best(10, () => void map.at(state++)),
    'ms',
  );
}
engine.close();
