import { compilePiece } from '@vast-swarm/core/plan';
import { crowd } from '../crowd';
import { DISC_BODY } from './discs';
import { LIGHT, type BareDevice } from './bareDevice';
import type { Contest } from './contest';
import { particlesByHand } from './particles';
import { before, lookWords, viewWords, wholeFrames } from './picture';

const COUNT = 50_000;
const ROOM = 65_536;

/** A bitonic sort (K. E. Batcher, 1968) of pairs of depth and number, as it stands in textbooks. */
const SORT = /* wgsl */ `
${DISC_BODY}
struct Stage { size: u32, apart: u32 }
@group(0) @binding(2) var<storage, read_write> pairs: array<vec2u>;
@group(0) @binding(3) var<uniform> stage: Stage;
/** Far to near: metres above 0 are in order as bits. */
@compute @workgroup_size(64) fn fill(@builtin(global_invocation_id) id: vec3u) {
  let i = id.x;
  var key = 0u;
  if (i < arrayLength(&particles)) { key = bitcast<u32>(max(seen(particles[i].place).z, 1e-6)); }
  pairs[i] = vec2u(key, i);
}
@compute @workgroup_size(64) fn exchange(@builtin(global_invocation_id) id: vec3u) {
  let i = 2u * id.x - (id.x & (stage.apart - 1u));
  let a = pairs[i];
  let b = pairs[i + stage.apart];
  let after = a.x < b.x || (a.x == b.x && a.y > b.y);
  if (after == ((i & stage.size) == 0u)) {
    pairs[i] = b;
    pairs[i + stage.apart] = a;
  }
}
`;
const DRAWN = /* wgsl */ `
${DISC_BODY}
@group(0) @binding(2) var<uniform> look: Look;
@group(0) @binding(3) var<storage, read> pairs: array<vec2u>;
@vertex fn corner(@builtin(vertex_index) index: u32) -> Corner {
  return placed(look, pairs[index / 6u].y, index % 6u);
}
`;
const OVER: GPUBlendComponent = {
  operation: 'add',
  srcFactor: 'one',
  dstFactor: 'one-minus-src-alpha',
};

function sortByHand(bare: BareDevice, view: GPUBuffer, particles: GPUBuffer, pairs: GPUBuffer) {
  const fill = bare.compute(SORT, 'fill');
  const filling = bare.bind(fill, { 0: view, 1: particles, 2: pairs });
  const exchange = bare.compute(SORT, 'exchange');
  const stages: GPUBindGroup[] = [];
  for (let size = 2; size <= ROOM; size *= 2) {
    for (let apart = size / 2; apart >= 1; apart /= 2) {
      const about = bare.uniform(Uint32Array.of(size, apart));
      stages.push(bare.bind(exchange, { 2: pairs, 3: about }));
    }
  }
  return (encoder: GPUCommandEncoder): void => {
    const pass = encoder.beginComputePass();
    pass.setPipeline(fill);
    pass.setBindGroup(0, filling);
    pass.dispatchWorkgroups(ROOM / 64);
    pass.setPipeline(exchange);
    for (const stage of stages) {
      pass.setBindGroup(0, stage);
      pass.dispatchWorkgroups(ROOM / 128);
    }
    pass.end();
  };
}

/** A frame of discs that lie over each other, the farther ones below. */
export function sorted(): Contest {
  const piece = crowd(COUNT, (p) => {
    before(p);
    p.swarms[0]!.bodies[0]!.dials.mode = 'normal';
  });
  const plan = compilePiece(piece);
  return {
    name: `a whole frame of ${COUNT.toLocaleString('en-GB')} discs, sorted by depth`,
    plan,
    after: 0,
    ready: async (engine, bare) => {
      const particles = await particlesByHand(bare, engine, plan.swarms[0]!.state);
      const view = bare.uniform(viewWords(plan, engine.frame));
      const pairs = bare.storage(8 * ROOM);
      const sort = sortByHand(bare, view, particles, pairs);
      const pipeline = bare.render(DRAWN, LIGHT, { color: OVER, alpha: OVER });
      const look = bare.uniform(lookWords(piece));
      const ready = bare.ready(pipeline, { 0: view, 1: particles, 2: look, 3: pairs });
      const draw = (pass: GPURenderPassEncoder): void => {
        ready(pass);
        pass.draw(6 * COUNT);
      };
      return wholeFrames(engine, bare, draw, sort);
    },
  };
}
