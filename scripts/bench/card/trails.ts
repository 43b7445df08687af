import { compilePiece, makePart, ringName, ringOf, type Plan } from '@vast-swarm/core';
import type { GpuEngine } from '@vast-swarm/gpu';
import { crowd } from '../crowd';
import { ADDED, before, discWords } from './discs';
import { LIGHT, type Hand } from './hand';
import type { Contest } from './page';
import { PARTICLE, particlesByHand } from './particles';
import { wholeFrames, VIEW, viewWords } from './picture';

const COUNT = 2000;
const LENGTH = 30;

/** Bands through the places of the frames before, thinner and fainter to their end. */
const TRAILS = /* wgsl */ `
${PARTICLE}${VIEW}
struct Trail { colour: vec3f, opacity: f32, size: f32 }
@group(0) @binding(1) var<storage, read> particles: array<Particle>;
/** Places by frames back: those of the present frame first. */
@group(0) @binding(2) var<storage, read> places: array<vec4f>;
@group(0) @binding(3) var<uniform> trail: Trail;
const COUNT = ${String(COUNT)}u;
const LENGTH = ${String(LENGTH)};
const STEP = 1.0 / 30.0;
struct Corner {
  @builtin(position) at: vec4f,
  @location(0) across: f32,
  @location(1) light: vec3f,
  @location(2) @interpolate(flat) edge: f32,
}
fn lived(p: Particle, back: i32) -> bool {
  let age = p.age - f32(back) * STEP;
  return back >= 0 && back <= LENGTH && age > 0.02 * STEP && age < p.life;
}
fn seenAt(i: u32, back: i32) -> vec3f { return seen(places[u32(back) * COUNT + i].xyz); }
@vertex fn corner(@builtin(vertex_index) index: u32) -> Corner {
  var out: Corner;
  out.at = vec4f(2.0, 2.0, 0.0, 1.0);
  let k = index % 6u;
  let item = index / 6u;
  let i = item % COUNT;
  let first = i32(item / COUNT);
  let p = particles[i];
  if (!(lived(p, first) && lived(p, first + 1))) { return out; }
  let row = first + select(0, 1, k == 2u || k == 3u || k == 5u);
  let here = seenAt(i, row);
  var newer = here;
  var older = here;
  if (lived(p, row - 1)) { newer = seenAt(i, row - 1); }
  if (lived(p, row + 1)) { older = seenAt(i, row + 1); }
  let way = newer.xy - older.xy;
  let left = vec2f(-way.y, way.x) / max(length(way), 1e-6);
  let along = f32(row) / f32(LENGTH);
  let eased = smoothstep(0.0, 1.0, along);
  let own = 0.5 * trail.size * mix(1.0, 0.2, eased) * view.focal * view.height / here.z;
  let half = max(own, 0.7);
  let side = select(-1.0, 1.0, k == 1u || k == 4u || k == 5u);
  let near = clamp(here.z / view.near - 0.5, 0.0, 1.0);
  out.at = onScreen(here.xy + side * half * left);
  out.across = side;
  out.light = trail.colour * (trail.opacity * (1.0 - eased) * near * own / half);
  out.edge = min(max(0.6 * half, 1.0), EDGE);
  return out;
}
@fragment fn light(in: Corner) -> @location(0) vec4f {
  let t = min((1.0 - in.across * in.across) * in.edge, 1.0);
  return vec4f(in.light * (t * t), 1.0);
}
`;

/** The places of the frames before from the engine's ring, newest first. */
async function placesOf(engine: GpuEngine, plan: Plan, hand: Hand): Promise<GPUBuffer> {
  const { id, history } = plan.swarms[0]!;
  const all = new Float32Array(4 * COUNT * (LENGTH + 1));
  for (let back = 0; back <= LENGTH; back++) {
    for (const [axis, name] of ['px', 'py', 'pz'].entries()) {
      const ring = ringOf(engine.frame - back, history.rows);
      const values = await engine.readState(id, ringName(ring, name));
      for (let i = 0; i < COUNT; i++) all[4 * (back * COUNT + i) + axis] = values[i]!;
    }
  }
  return hand.storage(all);
}

export function trails(): Contest {
  const piece = crowd(COUNT, (p) => {
    before(p);
    p.swarms[0]!.bodies = [makePart('bodies', 'trail', [])];
    p.swarms[0]!.bodies[0]!.dials.length = LENGTH;
    p.forces.push(makePart('forces', 'curlNoise', []));
  });
  const plan = compilePiece(piece);
  return {
    name: `a whole frame of ${COUNT.toLocaleString('en-GB')} trails of ${String(LENGTH)} frames`,
    plan,
    after: LENGTH + 5,
    ready: async (engine, hand) => {
      const particles = await particlesByHand(hand, engine, plan.swarms[0]!.state);
      const pipeline = hand.render(TRAILS, LIGHT, { color: ADDED, alpha: ADDED });
      const group = hand.bind(pipeline, {
        0: hand.uniform(viewWords(plan, engine.frame)),
        1: particles,
        2: await placesOf(engine, plan, hand),
        3: hand.uniform(discWords(piece)),
      });
      return wholeFrames(engine, hand, (pass) => {
        pass.setPipeline(pipeline);
        pass.setBindGroup(0, group);
        pass.draw(6 * COUNT * LENGTH);
      });
    },
  };
}
