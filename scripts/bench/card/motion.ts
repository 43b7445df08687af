import { compilePiece, secondIn, type Plan } from '@vast-swarm/core/plan';
import { makePart } from '@vast-swarm/core/piece';
import { crowd } from '../crowd';
import type { Contest } from './contest';
import { PARTICLE, particlesByHand, placesAgree } from './particles';

const COUNT = 65_536;

/** A step of two octaves of curl noise, as one writes it who needs nothing else. */
const STEP = /* wgsl */ `
${PARTICLE}
struct Flow { turn: vec2f, dt: f32, speed: f32, side: f32, slant: f32, persistence: f32, octaves: f32, seed: u32 }
@group(0) @binding(0) var<storage, read_write> particles: array<Particle>;
@group(0) @binding(1) var<uniform> flow: Flow;
const PRIMES = vec3u(0x1b873593u, 0x19d699a5u, 0x27d4eb2du);
const MIDDLE = 511.5;
fn pick(mixed: u32, aboutX: bool) -> vec3f {
  var h = (mixed ^ (mixed >> 15u)) * 0x2c1b3c6du;
  h ^= h >> 14u;
  let a = vec3f(vec3u(h >> 2u, h >> 12u, h >> 22u) & vec3u(1023u)) - MIDDLE;
  let b = vec3f(a.x * flow.turn.x - a.y * flow.turn.y, a.x * flow.turn.y + a.y * flow.turn.x, a.z);
  return select(b, b.zxy, aboutX);
}
fn gradient(low: vec3u, d: vec3f, fade: vec3f, slope: vec3f, seed: u32, aboutX: bool) -> vec3f {
  let high = low + PRIMES;
  let e = d - 1.0;
  let g000 = pick(low.x ^ low.y ^ low.z ^ seed, aboutX);
  let g100 = pick(high.x ^ low.y ^ low.z ^ seed, aboutX);
  let g010 = pick(low.x ^ high.y ^ low.z ^ seed, aboutX);
  let g110 = pick(high.x ^ high.y ^ low.z ^ seed, aboutX);
  let g001 = pick(low.x ^ low.y ^ high.z ^ seed, aboutX);
  let g101 = pick(high.x ^ low.y ^ high.z ^ seed, aboutX);
  let g011 = pick(low.x ^ high.y ^ high.z ^ seed, aboutX);
  let g111 = pick(high.x ^ high.y ^ high.z ^ seed, aboutX);
  let v000 = dot(g000, d);
  let v010 = dot(g010, vec3f(d.x, e.y, d.z));
  let v001 = dot(g001, vec3f(d.x, d.y, e.z));
  let v011 = dot(g011, vec3f(d.x, e.y, e.z));
  let r00 = dot(g100, vec3f(e.x, d.y, d.z)) - v000;
  let r10 = dot(g110, vec3f(e.x, e.y, d.z)) - v010;
  let r01 = dot(g101, vec3f(e.x, d.y, e.z)) - v001;
  let r11 = dot(g111, e) - v011;
  let v0 = v000 + r00 * fade.x;
  let v1 = v001 + r01 * fade.x;
  let r0 = v010 + r10 * fade.x - v0;
  let r1 = v011 + r11 * fade.x - v1;
  let mixed = mix(
    mix(mix(g000, g100, fade.x), mix(g010, g110, fade.x), fade.y),
    mix(mix(g001, g101, fade.x), mix(g011, g111, fade.x), fade.y),
    fade.z,
  );
  let rise = vec3f(
    mix(mix(r00, r10, fade.y), mix(r01, r11, fade.y), fade.z),
    mix(r0, r1, fade.z),
    v1 + r1 * fade.y - v0 - r0 * fade.y,
  );
  return mixed + slope * rise;
}
fn curl(p: vec3f, seed: u32) -> vec3f {
  let cell = floor(p);
  let d = p - cell;
  let fade = d * d * d * (d * (d * 6.0 - 15.0) + 10.0);
  let slope = 30.0 * d * d * (d * (d - 2.0) + 1.0);
  let low = bitcast<vec3u>(vec3i(cell)) * PRIMES;
  let a = gradient(low, d, fade, slope, seed, false);
  let b = gradient(low, d, fade, slope, seed ^ 0x5bd1e995u, true);
  return cross(a, b) * (1.668 / (MIDDLE * MIDDLE));
}
@compute @workgroup_size(64) fn main(@builtin(global_invocation_id) id: vec3u) {
  let i = id.x;
  if (i >= arrayLength(&particles)) { return; }
  let p = particles[i];
  let middle = p.place + (p.velocity + p.drift) * (0.5 * flow.dt);
  let at = middle / flow.side + flow.slant * vec3f(1.0, 0.618, -0.382);
  var sum = vec3f(0.0);
  var weight = 1.0;
  var weights = 0.0;
  var fine = 1.0;
  var seed = flow.seed;
  for (var k = 0.0; k < flow.octaves; k += 1.0) {
    sum += curl(at * fine, seed) * weight;
    weights += weight;
    weight *= flow.persistence;
    fine *= 2.0;
    seed += 0x3c6ef372u;
  }
  let drift = sum / weights * flow.speed;
  particles[i].place = p.place + (p.velocity + drift) * flow.dt;
  particles[i].drift = drift;
  particles[i].age = p.age + flow.dt;
}`;

/** What the force is set to in a frame, by the names that the engine's own kernel has for it. */
function flow(plan: Plan, frame: number): Float32Array {
  const inputs = {
    frame,
    time: secondIn(plan.frame, frame, 0.5),
    width: 0,
    height: 0,
    born: COUNT,
  };
  const { uniforms } = plan.swarms[0]!.motion;
  const number = (name: string): number => {
    const source = uniforms[name]!;
    return typeof source === 'number' ? source : source(inputs);
  };
  const [own, dial] = ['own', 'dial'].map((kind) => (name: string) => {
    return number(`forces/curlNoise/${kind}/${name}`);
  }) as [typeof number, typeof number];
  const step = 1 / plan.frame.rate;
  const words = new Float32Array(12);
  words.set([own('cos'), own('sin'), step, dial('strength'), dial('scale'), own('slant')]);
  words.set([dial('persistence'), dial('octaves')], 6);
  new Int32Array(words.buffer)[8] = own('seed field');
  return words;
}

export function motion(): Contest {
  const piece = crowd(COUNT, (p) => p.forces.push(makePart('forces', 'curlNoise', [])));
  const plan = compilePiece(piece);
  return {
    name: `step of ${COUNT.toLocaleString('en-GB')} particles by two octaves of curl noise`,
    plan,
    after: 0,
    ready: async (engine, bare) => {
      const particles = await particlesByHand(bare, engine, plan.swarms[0]!.state);
      const pipeline = bare.compute(STEP, 'main');
      const about = bare.uniform(new Float32Array(12));
      const group = bare.bind(pipeline, { 0: particles, 1: about });
      let { frame } = engine;
      return {
        ours: () => {
          engine.step();
        },
        byHand: () => {
          frame += 1;
          bare.write(about, flow(plan, frame));
          bare.submit((encoder) => {
            const pass = encoder.beginComputePass();
            pass.setPipeline(pipeline);
            pass.setBindGroup(0, group);
            pass.dispatchWorkgroups(COUNT / 64);
            pass.end();
          });
        },
        agree: () => placesAgree(bare, engine, particles),
      };
    },
  };
}
