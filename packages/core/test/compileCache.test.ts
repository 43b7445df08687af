import {
  catalogue,
  compilePiece,
  PlanCache,
  type DialSpec,
  type DialValue,
  type Dials,
  type DialValues,
  type FrameInputs,
  type Piece,
  type Plan,
  type PlanKernel,
} from '../src';
import { pieceOfEveryKind } from '../../../tests/support/pieces';

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
    ...[s.id, s.capacity, s.state.join(), s.copies, s.parent, s.history, s.motionKey],
    ...[s.birth, s.motion, ...[...s.draws, ...s.shadows].map((d) => d.kernel)].map((k) =>
      kernelText(k, plan),
    ),
    s.draws.map((d) => [d.id, d.mode, d.shape, d.soft(0.25), 'edge' in d ? d.edge : 0]),
    sum(s.tables),
    [...s.blocks.values()].map((b) => b.length),
    s.births.bornBefore(1),
  ]);
  const steps = plan.finish.steps.map((s) =>
    'kernel' in s ? kernelText(s.kernel, plan) : [s.type, 'at' in s ? s.at(0.25) : 0],
  );
  const fields = plan.fields.map(({ id, cells, kept, left, gathers, step }) => [
    ...[id, cells, kept, left, kernelText(step, plan)],
    gathers.map((g) => [g.swarm, kernelText(g.sort.cellsOf, plan), kernelText(g.add, plan)]),
  ]);
  return JSON.stringify([
    ...[fields, swarms, steps, sum(plan.finish.tables), kernelText(plan.backdrop, plan)],
    ...[plan.notices, plan.motionKey, plan.shutter(0.25), [...plan.layers.keys()]],
    plan.drawing.opaque.map((d) => d.draw.id),
  ]);
}

/** Another value of a dial; undefined where there is none to try. */
function turned(spec: DialSpec, value: DialValue): DialValue | undefined {
  if (spec.type === 'choice') return spec.options.find((o) => o.value !== value)?.value;
  if (spec.type === 'number' && typeof value === 'number') {
    const step = spec.whole ? 1 : Math.min(0.5, (spec.max - spec.min) / 8);
    return value + step <= spec.max ? value + step : value - step;
  }
  if (spec.type === 'vector') return [0.25, 0.5, -0.75];
  if (spec.type === 'colour') return spec.varies === 'frame' ? '#123456' : '#654321';
  return undefined;
}

interface Place {
  specs: Dials;
  find: (piece: Piece) => DialValues | undefined;
}

/** Where the kind that a piece is about has its dials. */
function placeOf(name: string, piece: Piece): Place | null {
  const [shelf, rest] = [name.split(' ')[0]!, name.split(' ').slice(1).join(' ')];
  const kind = rest.split(',')[0]!;
  const specs = (list: readonly { kind: string; dials: Dials }[]): Dials | undefined =>
    list.find((k) => k.kind === kind)?.dials;
  const at: Record<string, [Dials | undefined, Place['find']]> = {
    emitter: [specs(catalogue.emitters), (p) => p.swarms.at(-1)!.emitter.dials],
    launch: [specs(catalogue.launches), (p) => p.swarms[0]!.launch.dials],
    force: [specs(catalogue.forces), (p) => p.forces[0]?.dials],
    collider: [specs(catalogue.colliders), (p) => p.colliders[0]?.dials],
    signal: [specs(catalogue.signals), (p) => p.signals[0]?.dials],
    body: [specs(catalogue.bodies), (p) => p.swarms[0]!.bodies[0]?.dials],
    camera: [specs(catalogue.cameras), (p) => p.camera.dials],
    light: [specs(catalogue.lights), (p) => p.lights[0]?.dials],
    backdrop: [specs(catalogue.backdrops), (p) => p.backdrop.dials],
    finish: [specs(catalogue.finish), (p) => p.finish[0]?.dials],
  };
  const [found, find] = at[shelf] ?? [];
  return found && find?.(piece) ? { specs: found, find } : null;
}

const seen = new Set<string>();
const pieces = pieceOfEveryKind().flatMap(([name, piece]) => {
  const place = placeOf(name, piece);
  const kind = name.split(',')[0]!;
  if (!place || seen.has(kind)) return [];
  seen.add(kind);
  return [[kind, piece, place] as const];
});

test.each(pieces)('turning any dial of %s compiles as from nothing', (_, piece, place) => {
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
});

test('the text tells compiles apart', () => {
  const [, piece] = pieceOfEveryKind()[0]!;
  const other = structuredClone(piece);
  other.forces[0]!.dials.scale = 9;
  expect(textOf(compilePiece(other))).not.toBe(textOf(compilePiece(piece)));
});
