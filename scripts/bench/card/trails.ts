import { compilePiece, ringName, ringOf, type Plan } from '@vast-swarm/core/plan';
import { makePart } from '@vast-swarm/core/piece';
import type { GpuEngine } from '@vast-swarm/gpu';
import { crowd } from '../crowd';
import { LIGHT, type BareDevice } from './bareDevice';
import type { Contest } from './contest';
import { PARTICLE, particlesByHand } from './particles';
import { ADDED, BAND, before, lookWords, VIEW, viewWords, wholeFrames } from './picture';

const COUNT = 2000;
const LENGTH = 30;

/** Bands through the places of the frames before, thinner and fainter to their end. */
const TRAILS = /* wgsl */ `
${PARTICLE}${VIEW}${BAND}
@group(0) @binding(1) var<storage, read> particles: array<Particle>;
/** Places by frames back: those of the present frame first. */
@group(0) @binding(2) var<storage, read> places: array<vec4f>;
@group(0) @binding(3) var<uniform> look: Look;
const COUNT = ${String(COUNT)}u;
const LENGTH = ${String(LENGTH)};
const STEP = 1.0 / 30.0;
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
  let row = first + select(0, 1, atEnd(k));
  let here = seenAt(i, row);
  var newer = here;
  var older = here;
  if (lived(p, row - 1)) { newer = seenAt(i, row - 1); }
  if (lived(p, row + 1)) { older = seenAt(i, row + 1); }
  let way = newer.xy - older.xy;
  let left = vec2f(-way.y, way.x) / max(length(way), 1e-6);
  let along = f32(row) / f32(LENGTH);
  let eased = smoothstep(0.0, 1.0, along);
  let own = 0.5 * look.size * mix(1.0, 0.2, eased) * view.focal * view.height / here.z;
  let half = max(own, 0.7);
  let side = sideOf(k);
  let near = clamp(here.z / view.near - 0.5, 0.0, 1.0);
  out.at = onScreen(here.xy + side * half * left);
  out.across = side;
  out.light = look.colour * (look.opacity * (1.0 - eased) * near * own / half);
  out.edge = edgeOf(half);
  return out;
}
`;

/** The places of the frames before from the engine's ring, newest first. */
async function placesOf(engine: GpuEngine, plan: Plan, bare: BareDevice): Promise<GPUBuffer> {
  const { id, history } = plan.swarms[0]!;
  const all = new Float32Array(4 * COUNT * (LENGTH + 1));
  for (let back = 0; back <= LENGTH; back++) {
    for (const [axis, name] of ['px', 'py', 'pz'].entries()) {
      const ring = ringOf(engine.frame - back, history.rows);
      const values = await engine.readState(id, ringName(ring, name));
      for (let i = 0; i < COUNT; i++) all[4 * (back * COUNT + i) + axis] = values[i]!;
    }
  }
  return bare.storage(all);
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
    ready: async (engine, bare) => {
      const particles = await particlesByHand(bare, engine, plan.swarms[0]!.state);
      const pipeline = bare.render(TRAILS, LIGHT, { color: ADDED, alpha: ADDED });
      const ready = bare.ready(pipeline, {
        0: bare.uniform(viewWords(plan, engine.frame)),
        1: particles,
        2: await placesOf(engine, plan, bare),
        3: bare.uniform(lookWords(piece)),
      });
      return wholeFrames(engine, bare, (pass) => {
        ready(pass);
        pass.draw(6 * COUNT * LENGTH);
      });
    },
  };
}
