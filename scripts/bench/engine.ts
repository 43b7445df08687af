import { compilePiece } from '@vast-swarm/core/plan';
import { makePart, makePiece, makeSwarm, type Piece } from '@vast-swarm/core/piece';
import { Playback } from '@vast-swarm/core/play';
import { CpuEngine } from '@vast-swarm/cpu';
import { Arena } from '@vast-swarm/cpu/arena';
import { MAX_PAGES } from '@vast-swarm/cpu/generated/rasteriser';
import { Pool } from '@vast-swarm/cpu/pool';
import { curlNoise, Graph, paramWord, paramWords, toWasm, Vec3 } from '@vast-swarm/kernel';
import { plainCurlStep } from './plainCurl';
import { best, report } from './report';

const COUNT = 524_288;

function curlKernel(): Graph {
  const g = new Graph();
  const p = new Vec3(g.load('x', g.lane()), g.load('y', g.lane()), g.load('z', g.lane()));
  const phase = { cos: g.uniform('cos'), sin: g.uniform('sin') };
  const sum = { octaves: g.uniform('octaves', 'i32'), persistence: g.uniform('persistence') };
  const v = curlNoise(p.scale(g.uniform('scale')), g.uniform('seed', 'i32'), phase, sum);
  const q = p.add(v.scale(g.uniform('dt')));
  g.store('x', q.x);
  g.store('y', q.y);
  g.store('z', q.z);
  return g;
}

const INPUTS: Record<string, number> = {
  cos: 0.8,
  sin: 0.6,
  octaves: 1,
  persistence: 0.5,
  scale: 0.7,
  seed: 91,
  dt: 0.01,
};

async function curlStep(): Promise<void> {
  const places = (): Float32Array => Float32Array.from({ length: COUNT }, () => Math.random() * 40);
  const [x, y, z] = [places(), places(), places()];
  const graph = curlKernel();
  const times: number[] = [];
  for (const threads of [1, 2]) {
    const pool = await Pool.create(threads);
    const arena = new Arena(pool.memory, pool.pages);
    const starts = [x, y, z].map((source, i) => {
      const at = arena.buffer('xyz'[i]!, 4 * COUNT);
      new Float32Array(pool.memory.buffer, at, COUNT).set(source);
      return at;
    });
    const params = arena.buffer('params', 4 * paramWords(graph));
    const words = new Int32Array(pool.memory.buffer, params, paramWords(graph));
    const floats = new Float32Array(pool.memory.buffer, params, paramWords(graph));
    graph.buffers.forEach((_, i) => (words[paramWord(graph, 'buffer', i)] = starts[i]!));
    graph.uniforms.forEach(({ name, type }, i) => {
      const view = type === 'f32' ? floats : words;
      view[paramWord(graph, 'uniform', i)] = INPUTS[name]!;
    });
    const module = pool.module('curl', () => toWasm(graph, MAX_PAGES));
    times.push(best(40, () => pool.kernel(module, 0, COUNT, params)));
    pool.close();
  }
  const plain = best(12, () => {
    plainCurlStep(x, y, z, INPUTS.scale!, INPUTS.dt!, INPUTS.seed!, INPUTS.cos!, INPUTS.sin!);
  });
  report(
    'curl step, 524288 particles, WASM one thread, against plain JavaScript',
    times[0]!,
    'ms',
    plain,
  );
  report('curl step, two threads, against one', times[1]!, 'ms', times[0]);
}

function crowd(count: number): Piece {
  const piece = makePiece('Crowd');
  const swarm = makeSwarm('sphere', []);
  Object.assign(swarm.dials, { rate: 0, burst: count, lifetime: 100, size: 0.01, opacity: 1 });
  piece.swarms.push(swarm);
  piece.forces.push(makePart('forces', 'curlNoise', []));
  return piece;
}

async function crowds(): Promise<void> {
  const engine = await CpuEngine.create({ threads: 2 });
  let perParticle = 0;
  for (const count of [10_000, 100_000, 1_000_000, 2_000_000]) {
    engine.setPlan(compilePiece(crowd(count)));
    engine.reset();
    engine.step();
    const step = best(4, () => engine.step()) / count;
    const draw = best(3, () => void engine.draw(1280, 720));
    perParticle = perParticle || step;
    report(
      `step of ${String(count)} particles, two octaves of curl, against 10000`,
      step * 1e6,
      'ns each',
      perParticle * 1e6,
    );
    report(`draw of ${String(count)} particles at 1280x720`, draw, 'ms');
    if (count === 1_000_000)
      report('memory a particle, all buffers and frame', engine.memoryBytes / count, 'bytes', 96);
  }
  engine.close();
}

async function scrubbing(): Promise<void> {
  const engine = await CpuEngine.create({ threads: 2 });
  const piece = crowd(0);
  Object.assign(piece.swarms[0]!.dials, { rate: 10_000, lifetime: 5 });
  const playback = new Playback(engine, 384 * 2 ** 20);
  playback.setPlan(compilePiece(piece));
  playback.restart();
  const forward = best(1, () => playback.seek(400));
  const back = best(1, () => playback.seek(100));
  report('scrubbing back 300 frames, against simulating 400', back, 'ms', forward);
  engine.close();
}

await curlStep();
await crowds();
await scrubbing();
