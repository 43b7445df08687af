import { compilePiece, PlanCache, type Plan } from '@vast-swarm/core/plan';
import { LiveTake } from '@vast-swarm/core/feeds';
import { makeChoice, makePart, makeSwarm, type Piece } from '@vast-swarm/core/piece';
import type { FrameInputs, PlanKernel } from '@vast-swarm/core/kinds';
import { kindPieces, turned } from '../../../tests/support/dialPlaces';
import { pieceOfEveryKind } from '../../../tests/support/pieces';
import { swept } from '../../../tests/support/sweep';
import { wornPiece } from '../../../tests/support/wornWays';

/**
 * A compile takes over from the one before what its keys say is the same. Here every dial of every kind is
 * turned, and what comes out has to be what a compile from nothing gives.
 */

const frame: FrameInputs = { frame: 7, time: 0.25, width: 64, height: 36, born: 40 };

function kernelText({ graph, uniforms }: PlanKernel, plan: Plan): string {
  const camera = plan.camera(frame.time);
  const inputs = { ...frame, before: 0, camera, lamps: plan.lamps(frame.time, camera) };
  const values = graph.uniforms.map(({ name }) => {
    const source = uniforms[name];
    return typeof source === 'function' ? source(inputs) : (source ?? 'given');
  });
  return `${graph.signature()} ${values.join()}`;
}

function sum(values: Float32Array): number {
  return values.reduce((s, v, i) => s + v * ((i % 97) + 1), 0);
}

/** All that an engine makes of a plan, as text. */
function textOf(plan: Plan): string {
  const swarms = plan.swarms.map((s) => [
    s.id,
    s.capacity,
    s.state.join(),
    s.copies,
    s.parent,
    s.history,
    s.motionKey,
    ...[s.birth, s.motion, ...[...s.draws, ...s.shadows].map((d) => d.kernel)].map((k) =>
      kernelText(k, plan),
    ),
    s.draws.map((d) => [d.id, d.mode, d.shape, d.soft(0.25), 'edge' in d ? d.edge : 0]),
    sum(s.tables),
    [...s.blocks.values()].map((b) => b.length),
    s.births.bornAt(29),
  ]);
  const steps = plan.finish.steps.map((s) =>
    'kernel' in s ? kernelText(s.kernel, plan) : [s.type, 'at' in s ? s.at(0.25) : 0],
  );
  const fields = plan.fields.map(({ id, cells, kept, left, gathers, step }) => [
    id,
    cells,
    kept,
    left,
    kernelText(step, plan),
    gathers.map((g) => [g.swarm, kernelText(g.sort.cellsOf, plan), kernelText(g.add, plan)]),
  ]);
  return JSON.stringify([
    fields,
    swarms,
    steps,
    sum(plan.finish.tables),
    kernelText(plan.backdrop, plan),
    plan.notices,
    plan.motionKey,
    plan.shutter(0.25),
    [...plan.layers.keys()],
    plan.drawing.opaque.map((d) => d.draw.id),
  ]);
}

const pieces = kindPieces();

test.each(swept(pieces, 0.15))(
  'turning any dial of %s compiles as from nothing',
  (_, piece, place) => {
    const cache = new PlanCache();
    const before = textOf(compilePiece(piece, { cache }));
    for (const [key, spec] of Object.entries(place.specs)) {
      const changed = structuredClone(piece);
      const dials = place.find(changed)!;
      const value = turned(spec, dials[key]!);
      if (value === undefined) continue;
      dials[key] = value;
      const cached = textOf(compilePiece(changed, { cache }));
      expect([key, cached === textOf(compilePiece(changed))]).toEqual([key, true]);
      // And back again, out of what the last compile left.
      expect(textOf(compilePiece(piece, { cache }))).toBe(before);
    }
  },
);

/** Two swarms, one born from the other, drawn as solids out of focus, over a field, with a signal. */
function wholePiece(): Piece {
  return wornPiece((p) => {
    const child = { ...structuredClone(makeSwarm('swarm', p.swarms)), id: 'wake', name: 'Wake' };
    child.emitter.dials.swarm = 'motes';
    const layers = [{ by: 'swarm' as const, swarm: 'sparks', over: 'normal' as const, amount: 1 }];
    child.dials.colour = { feed: 'layers', as: 'colours', layers, stops: [] };
    p.swarms.push(child);
    const mesh = makePart('bodies', 'mesh', []);
    mesh.dials.mode = 'opaque';
    p.swarms[1]!.bodies = [mesh];
    p.signals = [makePart('signals', 'wave', [])];
    p.lights = [makePart('lights', 'key', [])];
    p.finish = [makePart('finish', 'bloom', []), makePart('finish', 'vignette', [])];
    Object.assign(p.camera.dials, { aperture: 0.3 });
    p.swarms[0]!.dials.size = { feed: 'signal', signal: 'wave', from: 0.1, to: 0.2 };
  });
}

const AROUND: [string, (piece: Piece) => void][] = [
  ['the seed', (p) => (p.seed += 1)],
  ['the rate', (p) => (p.frame.rate = 25)],
  ['the length', (p) => (p.frame.length = 300)],
  ['the size', (p) => (p.frame.width = 200)],
  ['the pre-roll', (p) => (p.frame.preroll = 5)],
  ['density', (p) => (p.density = 1.5)],
  ['influence', (p) => (p.influence.ways!.motes = 0.5)],
  ['a force off', (p) => (p.forces[0]!.on = false)],
  ['a swarm off', (p) => (p.swarms[0]!.on = false)],
  ['the other swarm', (p) => (p.swarms[1]!.dials.light = 3)],
  ['the order of swarms', (p) => p.swarms.reverse()],
  ['the parent', (p) => (p.swarms[0]!.dials.rate = 50)],
  ['a limit', (p) => (p.swarms[0]!.dials.limit = 40)],
  ['the camera', (p) => (p.camera = makeChoice('cameras', 'orthographic'))],
  ['the lens', (p) => (p.camera.dials.aperture = 0)],
  ['the shutter', (p) => (p.camera.dials.shutter = 180)],
  ['a signal', (p) => (p.signals[0]!.dials.period = 3)],
  ['a signal off', (p) => (p.signals[0]!.on = false)],
  ['the lights', (p) => (p.lights = [])],
  ['a treatment', (p) => p.finish.pop()],
  ['the stock', (p) => (p.stock = [])],
  [
    'copies',
    (p) => (p.swarms[0]!.copies = [{ count: 2, offset: [1, 0, 0], turn: [0, 0, 0], scale: 1 }]),
  ],
];

test.each(AROUND)('with %s another it compiles as from nothing', (_, change) => {
  const cache = new PlanCache();
  const before = textOf(compilePiece(wholePiece(), { cache }));
  const changed = wholePiece();
  change(changed);
  expect(changed).not.toEqual(wholePiece());
  expect(textOf(compilePiece(changed, { cache }))).toBe(textOf(compilePiece(changed)));
  expect(textOf(compilePiece(wholePiece(), { cache }))).toBe(before);
});

test('a bake of the parent reaches the child, and what is driven live is followed', () => {
  const cache = new PlanCache();
  const piece = wholePiece();
  const [plan] = [compilePiece(piece, { cache })];
  const { capacity, state } = plan.swarms.find((s) => s.id === 'motes')!;
  const about = { name: 'stored', first: 0, last: 9, capacity, state };
  const bakes = new Map([['motes', { ...about, bornAt: () => 7, read: () => [] }]]);
  const slots = (p: Plan): unknown => {
    const { birth } = p.swarms.find((s) => s.parent === 'motes')!;
    return Object.values(birth.uniforms).map((u) => (typeof u === 'function' ? u(frame) : u));
  };
  const fresh = slots(compilePiece(piece, { bakes }));
  expect(fresh).not.toEqual(slots(plan));
  expect(slots(compilePiece(piece, { cache, bakes }))).toEqual(fresh);
  piece.signals = [{ ...makePart('signals', 'byHand', []), id: 'wave' }];
  compilePiece(piece, { cache });
  const live = new Map([['wave', new LiveTake({ rate: 30, first: 0, values: [1] }, 30, 0)]]);
  const followed = textOf(compilePiece(piece, { live }));
  expect(textOf(compilePiece(piece, { cache, live }))).toBe(followed);
});

test('the text tells compiles apart', () => {
  const [, piece] = pieceOfEveryKind()[0]!;
  const other = structuredClone(piece);
  other.forces[0]!.dials.scale = 9;
  expect(textOf(compilePiece(other))).not.toBe(textOf(compilePiece(piece)));
});
