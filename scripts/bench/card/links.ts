import { compilePiece } from '@vast-swarm/core/plan';
import { makePart } from '@vast-swarm/core/piece';
import { crowd } from '../crowd';
import { LIGHT, type BareDevice } from './bareDevice';
import type { Contest } from './contest';
import { PARTICLE, particlesByHand } from './particles';
import { ADDED, BAND, before, lookWords, VIEW, viewWords, wholeFrames } from './picture';

const COUNT = 2000;
const RADIUS = 0.4;
const CELLS = 4096;
const LINES = 100_000;

/** A grid by counting: particles of each cell, where each cell begins, the particles in order of cells. */
const SEARCH = /* wgsl */ `
${PARTICLE}
@group(0) @binding(0) var<storage, read> particles: array<Particle>;
@group(0) @binding(1) var<storage, read_write> counts: array<atomic<u32>>;
@group(0) @binding(2) var<storage, read_write> starts: array<u32>;
@group(0) @binding(3) var<storage, read_write> slots: array<u32>;
@group(0) @binding(4) var<storage, read_write> lines: array<vec2u>;
/** For the draw: vertices, instances, and so on. */
@group(0) @binding(5) var<storage, read_write> call: array<atomic<u32>>;
const COUNT = ${String(COUNT)}u;
const CELLS = ${String(CELLS)}u;
const RADIUS = ${String(RADIUS)};
const LANES = 256u;
var<workgroup> sums: array<u32, LANES>;
fn cellOf(p: vec3f) -> vec3i { return vec3i(floor(p / RADIUS)); }
fn hashOf(c: vec3i) -> u32 {
  return u32((c.x * 73856093) ^ (c.y * 19349663) ^ (c.z * 83492791)) & (CELLS - 1u);
}
@compute @workgroup_size(64) fn count(@builtin(global_invocation_id) id: vec3u) {
  if (id.x < COUNT) { atomicAdd(&counts[hashOf(cellOf(particles[id.x].place))], 1u); }
}
@compute @workgroup_size(LANES) fn begin(@builtin(local_invocation_index) t: u32) {
  let own = CELLS / LANES;
  var sum = 0u;
  for (var c = t * own; c < (t + 1u) * own; c++) { sum += atomicLoad(&counts[c]); }
  sums[t] = sum;
  workgroupBarrier();
  var at = 0u;
  for (var k = 0u; k < t; k++) { at += sums[k]; }
  for (var c = t * own; c < (t + 1u) * own; c++) {
    starts[c] = at;
    at += atomicLoad(&counts[c]);
    atomicStore(&counts[c], 0u);
  }
  if (t == LANES - 1u) { starts[CELLS] = at; }
}
@compute @workgroup_size(64) fn fill(@builtin(global_invocation_id) id: vec3u) {
  if (id.x >= COUNT) { return; }
  let cell = hashOf(cellOf(particles[id.x].place));
  slots[starts[cell] + atomicAdd(&counts[cell], 1u)] = id.x;
}
@compute @workgroup_size(64) fn link(@builtin(global_invocation_id) id: vec3u) {
  let i = id.x;
  if (i >= COUNT) { return; }
  let p = particles[i].place;
  let middle = cellOf(p);
  for (var turn = 0; turn < 27; turn++) {
    let cell = middle + vec3i(turn % 3, (turn / 3) % 3, turn / 9) - 1;
    let hashed = hashOf(cell);
    for (var k = starts[hashed]; k < starts[hashed + 1u]; k++) {
      let j = slots[k];
      if (j <= i) { continue; }
      let q = particles[j].place;
      if (distance(p, q) < RADIUS && all(cellOf(q) == cell)) {
        lines[atomicAdd(&call[0], 6u) / 6u] = vec2u(i, j);
      }
    }
  }
}
`;

const LINKS = /* wgsl */ `
${PARTICLE}${VIEW}${BAND}
@group(0) @binding(1) var<storage, read> particles: array<Particle>;
@group(0) @binding(2) var<storage, read> lines: array<vec2u>;
@group(0) @binding(3) var<uniform> look: Look;
fn halfAt(depth: f32) -> f32 { return 0.5 * 0.25 * look.size * view.focal * view.height / depth; }
@vertex fn corner(@builtin(vertex_index) index: u32) -> Corner {
  var out: Corner;
  let k = index % 6u;
  let ends = lines[index / 6u];
  let places = array(particles[ends.x].place, particles[ends.y].place);
  let start = seen(places[0]);
  let stop = seen(places[1]);
  let way = normalize(stop.xy - start.xy);
  let here = select(start, stop, atEnd(k));
  let own = halfAt(here.z);
  let half = max(own, 0.7);
  let side = sideOf(k);
  let near = clamp(here.z / view.near - 0.5, 0.0, 1.0);
  let part = 1.0 - distance(places[0], places[1]) / ${String(RADIUS)};
  out.at = onScreen(here.xy + side * half * vec2f(-way.y, way.x));
  out.across = side;
  out.light = look.colour * (look.opacity * part * near * own / half);
  out.edge = edgeOf(max(halfAt(start.z), 0.7));
  return out;
}
`;

/** Finds the lines between particles that are near each other. */
function searchByHand(bare: BareDevice, particles: GPUBuffer, lines: GPUBuffer, call: GPUBuffer) {
  const counts = bare.storage(4 * CELLS);
  const [starts, slots] = [bare.storage(4 * (CELLS + 1)), bare.storage(4 * COUNT)];
  const all = { 0: particles, 1: counts, 2: starts, 3: slots, 4: lines, 5: call };
  const step = (entry: string, groups: number, ...bound: (keyof typeof all)[]) => {
    const pipeline = bare.compute(SEARCH, entry);
    const own = Object.fromEntries(bound.map((n) => [n, all[n]]));
    return { pipeline, groups, group: bare.bind(pipeline, own) };
  };
  const wide = Math.ceil(COUNT / 64);
  const steps = [
    step('count', wide, 0, 1),
    step('begin', 1, 1, 2),
    step('fill', wide, 0, 1, 2, 3),
    step('link', wide, 0, 2, 3, 4, 5),
  ];
  return (encoder: GPUCommandEncoder): void => {
    encoder.clearBuffer(counts);
    encoder.clearBuffer(call, 0, 4);
    const pass = encoder.beginComputePass();
    for (const { pipeline, groups, group } of steps) {
      pass.setPipeline(pipeline);
      pass.setBindGroup(0, group);
      pass.dispatchWorkgroups(groups);
    }
    pass.end();
  };
}

export function links(): Contest {
  const piece = crowd(COUNT, (p) => {
    before(p);
    p.swarms[0]!.bodies = [makePart('bodies', 'links', [])];
    Object.assign(p.swarms[0]!.bodies[0]!.dials, { radius: RADIUS, most: 64, total: 500_000 });
  });
  const plan = compilePiece(piece);
  return {
    name: `a whole frame of ${COUNT.toLocaleString('en-GB')} particles, all links of ${String(RADIUS)} m`,
    plan,
    after: 0,
    ready: async (engine, bare) => {
      const particles = await particlesByHand(bare, engine, plan.swarms[0]!.state);
      const lines = bare.storage(8 * LINES);
      const call = bare.storage(Uint32Array.of(0, 1, 0, 0), GPUBufferUsage.INDIRECT);
      const pipeline = bare.render(LINKS, LIGHT, { color: ADDED, alpha: ADDED });
      const ready = bare.ready(pipeline, {
        0: bare.uniform(viewWords(plan, engine.frame)),
        1: particles,
        2: lines,
        3: bare.uniform(lookWords(piece)),
      });
      const search = searchByHand(bare, particles, lines, call);
      const draw = (pass: GPURenderPassEncoder): void => {
        ready(pass);
        pass.drawIndirect(call, 0);
      };
      return wholeFrames(engine, bare, draw, search);
    },
  };
}
