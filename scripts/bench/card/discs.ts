import { compilePiece, type Plan } from '@vast-swarm/core/plan';
import { sceneInputs } from '@vast-swarm/core/play';
import type { Piece } from '@vast-swarm/core/piece';
import type { GpuEngine } from '@vast-swarm/gpu';
import { DEPTH_FORMAT } from '@vast-swarm/gpu/formats';
import { Painter } from '@vast-swarm/gpu/painter';
import { SwarmMemory } from '@vast-swarm/gpu/swarmMemory';
import { Pipelines, Work } from '@vast-swarm/gpu/work';
import { crowd } from '../crowd';
import { LIGHT, type BareDevice } from './bareDevice';
import type { Contest } from './contest';
import { PARTICLE, particlesByHand } from './particles';
import {
  ADDED,
  agreed,
  before,
  Frame,
  lookWords,
  SIZE,
  VIEW,
  viewWords,
  wholeFrames,
} from './picture';

const COUNT = 50_000;

/** A soft disc's corners and light, placed as it is drawn. */
export const DISC_BODY = /* wgsl */ `
${PARTICLE}${VIEW}
@group(0) @binding(1) var<storage, read> particles: array<Particle>;
struct Corner {
  @builtin(position) at: vec4f,
  @location(0) uv: vec2f,
  @location(1) @interpolate(flat) light: vec4f,
}
fn placed(look: Look, i: u32, vertex: u32) -> Corner {
  var out: Corner;
  let p = particles[i];
  let at = seen(p.place);
  out.at = vec4f(2.0, 2.0, 0.0, 1.0);
  if (!(p.age >= 0.0 && p.age < p.life && at.z > 1e-3)) { return out; }
  let own = 0.5 * look.size * view.focal * view.height / at.z;
  let r = max(own, 1.4);
  let turn = vec2f(
    select(-1.0, 1.0, vertex == 1u || vertex == 2u || vertex == 4u),
    select(-1.0, 1.0, vertex == 2u || vertex == 4u || vertex == 5u),
  );
  let near = clamp(at.z / view.near - 0.5, 0.0, 1.0);
  out.uv = turn * (1.0 + 0.5 / r);
  out.at = onScreen(at.xy + turn * (r + 0.5));
  out.light = vec4f(look.colour, 1.0) * (look.opacity * (own / r) * (own / r) * near);
  return out;
}
@fragment fn light(in: Corner) -> @location(0) vec4f {
  let inside = max(1.0 - dot(in.uv, in.uv), 0.0);
  return in.light * (inside * inside);
}
`;
const DISCS = /* wgsl */ `
${DISC_BODY}
@group(0) @binding(2) var<uniform> look: Look;
@vertex fn corner(@builtin(vertex_index) index: u32) -> Corner {
  return placed(look, index / 6u, index % 6u);
}
`;

function plan(): { piece: Piece; compiled: Plan } {
  const piece = crowd(COUNT, before);
  return { piece, compiled: compilePiece(piece) };
}

/** The discs themselves: where each is on the screen, and its pixels. */
export function discs(): Contest {
  const { piece, compiled } = plan();
  return {
    name: `${COUNT.toLocaleString('en-GB')} soft discs placed and added`,
    plan: compiled,
    after: 0,
    ready: async (engine, bare) => {
      const frame = new Frame(bare);
      const [ours, target] = [await engineDiscs(engine, bare, compiled), bare.texture(SIZE, LIGHT)];
      const own = await handDiscs(engine, bare, piece, compiled);
      const byHand = (): void => {
        bare.submit((encoder) => {
          frame.bodies(encoder, own, 'all');
        });
      };
      return {
        ours: () => {
          ours(target);
        },
        byHand,
        agree: async () => {
          agreed(await frame.pictureOf(target), await frame.pictureOf(frame.target));
        },
      };
    },
  };
}

/** All of a frame, up to its bytes. */
export function frame(): Contest {
  const { piece, compiled } = plan();
  return {
    name: `a whole frame of ${COUNT.toLocaleString('en-GB')} discs at 960x540`,
    plan: compiled,
    after: 0,
    ready: async (engine, bare) =>
      wholeFrames(engine, bare, await handDiscs(engine, bare, piece, compiled)),
  };
}

async function handDiscs(engine: GpuEngine, bare: BareDevice, piece: Piece, compiled: Plan) {
  const particles = await particlesByHand(bare, engine, compiled.swarms[0]!.state);
  const pipeline = bare.render(DISCS, LIGHT, { color: ADDED, alpha: ADDED });
  const view = bare.uniform(viewWords(compiled, engine.frame));
  const look = bare.uniform(lookWords(piece));
  const ready = bare.ready(pipeline, { 0: view, 1: particles, 2: look });
  return (pass: GPURenderPassEncoder): void => {
    ready(pass);
    pass.draw(6 * COUNT);
  };
}

/** The engine's look and paint alone, into a target. */
async function engineDiscs(engine: GpuEngine, { device }: BareDevice, compiled: Plan) {
  const swarm = compiled.swarms[0]!;
  const draw = swarm.draws[0]!;
  const pipelines = new Pipelines(device);
  const painter = new Painter(pipelines);
  const memory = new SwarmMemory(device, swarm, { parentCapacity: 0, fields: [] });
  memory.write(swarm);
  for (const name of swarm.state) memory.put(name, await engine.readState(swarm.id, name));
  const scene = sceneInputs(compiled, engine.frame, SIZE, 0);
  const inputs = { ...scene, born: COUNT };
  const depth = device.createTexture({
    size: [1, 1],
    format: DEPTH_FORMAT,
    usage: GPUTextureUsage.TEXTURE_BINDING,
  });
  return (target: GPUTexture): void => {
    const [view, near] = [target.createView(), depth.createView()];
    const canvas = { ...SIZE, ...scene, view, depth: near, fine: null };
    const work = new Work(pipelines);
    work.kernel(draw.kernel, memory.buffer, 0, COUNT, memory.address, inputs);
    painter.paint(work, draw, memory, COUNT, canvas);
    work.submit();
  };
}
