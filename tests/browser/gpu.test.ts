import { makeChoice, makePart, makeSwarm, type Piece } from '@vast-swarm/core/piece';
import type { Browser, Page } from 'playwright-core';
import { movingPiece } from '../support/moving';
import { pieceOfEveryKind, smallPiece } from '../support/pieces';

import { swept } from '../support/sweep';
import { tidePiece, toyPiece } from '../support/toys';
import { EVENTS, played } from '../support/played';
import { wornPiece } from '../support/wornWays';
import { call, callAgain, launch, startHarness, type Harness } from './support';

let browser: Browser;
let harness: Harness;
let page: Page;

beforeAll(async () => {
  [browser, harness] = await Promise.all([launch({ gpu: true }), startHarness()]);
  page = await browser.newPage();
  await page.goto(harness.url);
});

afterAll(async () => {
  await browser.close();
  harness.stop();
});

test('WGSL agrees with the interpreter on random graphs', async () => {
  const results = await call<{ seed: number; wrong: number; floats: number; error: string }[]>(
    page,
    'wgsl',
    0,
    60,
  );
  expect(results.filter((r) => r.error)).toEqual([]);
  const compared = results.reduce((sum, r) => sum + r.floats, 0);
  const wrong = results.reduce((sum, r) => sum + r.wrong, 0);
  expect(compared).toBeGreaterThan(1000);
  expect(wrong).toBe(0);
});

test("WGSL gives the interpreter's own numbers for each operation", async () => {
  const results = await call<{ name: string; apart: number; finite: number; error: string }[]>(
    page,
    'wgslOperations',
  );
  expect(results.length).toBeGreaterThan(100);
  expect(results.filter((r) => r.apart > 0 || r.error || r.finite < 8)).toEqual([]);
});

interface Parity {
  apart: number;
  compared: number;
  mean: number;
  worst: number;
  lit: number;
}

/** All points of a cloud once, as small copies of a mesh and as cubes. */
function smallCopies(piece: Piece): void {
  const swarm = piece.swarms[0]!;
  swarm.emitter = makeChoice('emitters', 'cloud');
  Object.assign(swarm.emitter.dials, { cloud: 'lamps', size: 0.4 });
  Object.assign(swarm.dials, {
    when: 'once',
    lasts: 'ever',
    size: 0.2,
    opacity: 1,
    colour: '#ffe0b0',
  });
  piece.forces = [];
  swarm.launch.dials.speed = 0;
  const bodies = [makePart('bodies', 'mesh', [])];
  bodies.push(makePart('bodies', 'mesh', bodies));
  swarm.bodies = bodies;
  for (const { dials } of bodies) Object.assign(dials, { mode: 'opaque', facing: 'random' });
  Object.assign(bodies[0]!.dials, { form: 'mesh', mesh: 'buoy', scale: 2 });
}

/** Between the two frames at which it is looked at it is switched, and there are bursts. */
const runPiece = played((p) => {
  p.played = [...EVENTS];
});

/** Its particles live longer than a round of it, go by their neighbours, and are linked. */
const loopPiece = smallPiece((p) => {
  Object.assign(p.frame, { length: 20, loop: true });
  const swarm = p.swarms[0]!;
  Object.assign(swarm.dials, { rate: 400, lifetime: 0.8 });
  p.forces = [makePart('forces', 'flocking', [])];
  swarm.bodies.push(makePart('bodies', 'links', swarm.bodies));
  const child = { ...makeSwarm('swarm', p.swarms), id: 'wake', name: 'Wake' };
  child.emitter.dials.swarm = 'motes';
  Object.assign(child.dials, { rate: 200, lifetime: 0.5 });
  p.swarms.push(child);
});

/** So many discs over each other that the card sorts them in more than one row of workgroups. */
const deepPiece = smallPiece((p) => {
  const swarm = p.swarms[0]!;
  const stops = ['#ffb45c', '#1f8fb0'].map((colour, at) => ({ at, colour }));
  Object.assign(swarm.dials, { rate: 0, burst: 150_000, lifetime: 100, size: 0.03, opacity: 0.9 });
  swarm.dials.colour = { feed: 'gradient', by: 'random', stops };
  swarm.bodies[0]!.dials.mode = 'normal';
  p.forces = [];
});

const pieces: [string, Piece][] = [
  ...pieceOfEveryKind(),
  ['kinds from outside', toyPiece()],
  ['a section from outside', tidePiece((_, [tide]) => (tide!.dials.strength = 1e-4))],
  ['a track of pictures', movingPiece()],
  ['small copies at all places once', smallPiece(smallCopies)],
  ['a field that another swarm reads', wornPiece()],
  ['controls that are switched and set', runPiece],
  ['a loop', loopPiece],
  ['150,000 discs over each other', deepPiece],
];

test.each(swept(pieces, 0.1))(
  'both engines draw the same: %s',
  async (_, piece) => {
    // The eddies of a medium make more of what differs, in time.
    const last = piece.media.length > 0 ? 19 : 59;
    const { apart, compared, mean, lit } = await callAgain<Parity>(
      page,
      'parity',
      piece,
      last,
      128,
      72,
    );
    expect(compared).toBeGreaterThan(1000);
    // Metres after so many steps of smooth motion; the device may fuse and round as it likes.
    expect(apart).toBeLessThan(2e-3);
    // Steps of 8 bits, as a mean over all channels. Edges of triangles fall on other pixels where
    // corners are rounded to the card's own grid.
    const edges = piece.swarms.some((s) => s.bodies.some((b) => b.kind === 'mesh'));
    // Opaque edges are the mean of 4 samples on the card and of 16 on the CPU: of thin rings most.
    const opaque = piece.swarms.some((s) => s.bodies.some((b) => b.dials.mode === 'opaque'));
    expect(mean).toBeLessThan(opaque ? 3.6 : edges ? 1.5 : 0.6);
    expect(lit).toBeGreaterThan(50);
  },
  120_000,
);

test('a snapshot of the card brings back a medium with those that ride on it', async () => {
  const [, piece] = pieces.find(([name]) => name.startsWith('medium'))!;
  const result = await call(page, 'gpuReturn', piece, 6, 12);
  expect(result).toEqual({ same: true, still: false });
});

test('a snapshot of the card brings back swarms and fields', async () => {
  const result = await call(page, 'gpuReturn', wornPiece(), 14, 33);
  expect(result).toEqual({ same: true, still: false });
});

test('a snapshot of the card brings back a piece at which other parts were switched on', async () => {
  const result = await call(page, 'gpuReturn', runPiece, 8, 30);
  expect(result).toEqual({ same: true, still: false });
});

test('the card plays what was stored to the bit, and jumps to any frame of it', async () => {
  const piece = smallPiece((p) => (p.frame.length = 40));
  const found = await call<{ jumped: boolean; apart: number; lit: number }[]>(
    page,
    'gpuBake',
    piece,
    'motes',
    [39, 5, 22, 39],
  );
  expect(found.map(({ jumped, apart }) => [jumped, apart])).toEqual(found.map(() => [true, 0]));
  for (const { lit } of found) expect(lit).toBeGreaterThan(20);
  // Another frame is another picture, and the same one comes again.
  expect(found[0]!.lit).toBe(found[3]!.lit);
  expect(found[1]!.lit).not.toBe(found[2]!.lit);
});

test('a lost device is survived, and the frame comes back', async () => {
  const result = await call(page, 'gpuLoss', smallPiece(), 20);
  expect(result).toEqual({ message: 'GpuLost', same: true });
});
