import { compilePiece } from '@vast-swarm/core/plan';
import { readStock, type Clip, type Sound, type StockFiles } from '@vast-swarm/core/stock';
import { validatePiece } from '@vast-swarm/core/piece';
import { CpuEngine } from '@vast-swarm/cpu';
import { GpuEngine } from '@vast-swarm/gpu';
import {
  Graph,
  interpret,
  paramWord,
  paramWords,
  toWgsl,
  type Expr,
  type Memory,
} from '@vast-swarm/kernel';
import { OPERATIONS, SHIFTS, type OperationName } from '../../packages/kernel/src/ops';
import { randomGraph } from '../../packages/kernel/test/randomGraph';
import { bytesHash, frameHash } from '../support/frameHash';
import { addToys } from '../support/toys';

/** What tests run inside the browser, in a worker: engines and kernels on the real thing. */

// Kinds from outside run as those of the catalogue do.
addToys();

async function gpu(): Promise<GpuEngine> {
  const engine = await GpuEngine.open({ allowSoftware: true });
  if (typeof engine === 'string') throw new Error(engine);
  return engine;
}

/** Engines that one piece after the other runs on. */
const kept: { cpu: Map<number, CpuEngine>; gpu: GpuEngine | null } = { cpu: new Map(), gpu: null };

async function keptCpu(threads: number): Promise<CpuEngine> {
  const engine = kept.cpu.get(threads) ?? (await CpuEngine.create({ threads }));
  kept.cpu.set(threads, engine);
  return engine;
}

const tasks = {
  /** The hashes of a frame of the CPU engine on so many threads each. */
  async cpuHashes(data: unknown, frame: number, width: number, height: number, threads: number[]) {
    const plan = compilePiece(validatePiece(data));
    const hashes: string[] = [];
    for (const count of threads) {
      const engine = await keptCpu(count);
      engine.setPlan(plan);
      engine.reset();
      while (engine.frame < frame) engine.step();
      hashes.push(frameHash(engine.draw(width, height).pixels));
    }
    return hashes;
  },

  /** The same of a piece with sounds from files. */
  async cpuHashHeard(
    data: unknown,
    sounds: { hash: string; rate: number; samples: number[] }[],
    frame: number,
    width: number,
    height: number,
  ) {
    const engine = await CpuEngine.create({ threads: 2 });
    const files: StockFiles = new Map(
      sounds.map(({ hash, rate, samples }) => [
        hash,
        { type: 'sound' as const, rate, channels: [Int16Array.from(samples)] },
      ]),
    );
    engine.setPlan(compilePiece(validatePiece(data), { files }));
    while (engine.frame < frame) engine.step();
    const hash = frameHash(engine.draw(width, height).pixels);
    engine.close();
    return hash;
  },

  /** The samples of a sound file, as a hash, with its rate. */
  async soundHash(name: string, base64: string) {
    const bytes = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
    const { rate, channels } = (await readStock(name, bytes)) as Sound;
    return [rate, ...channels.map((c) => bytesHash(c))].join();
  },

  /** Pictures as a camera's coder lets them drive a piece, as hashes, and the take of all but the last. */
  async codedHashes(count: number, begins: number[], rate: number) {
    const { coderFor } = await import('../../packages/app/src/camera/coder');
    const [width, height] = [320, 180];
    const coder = await coderFor(width, height);
    const canvas = new OffscreenCanvas(width, height);
    const context = canvas.getContext('2d')!;
    const hashes: string[] = [];
    for (let i = 0; i < count; i++) {
      const colour = context.createLinearGradient(0, 0, width, height);
      colour.addColorStop(0, `hsl(${String(40 * i)}, 90%, 60%)`);
      colour.addColorStop(1, '#031018');
      context.fillStyle = colour;
      context.fillRect(0, 0, width, height);
      context.fillStyle = '#fff';
      context.fillRect(12 * i, 60, 30, 50);
      const picture = await coder.code(canvas.transferToImageBitmap());
      hashes.push(bytesHash(picture.pixels));
    }
    const file = await coder.file(begins, rate);
    coder.close();
    return { hashes, file: btoa(file.reduce((text, b) => text + String.fromCharCode(b), '')) };
  },

  /** Pictures of a clip's file, as hashes. */
  async clipHashes(name: string, base64: string, indices: number[]) {
    const bytes = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
    const clip = (await readStock(name, bytes)) as Clip;
    const hashes: string[] = [[clip.width, clip.height, clip.times.length].join()];
    for (const index of indices) hashes.push(bytesHash((await clip.picture(index)).pixels));
    return hashes;
  },

  /** How far positions of the two engines are apart after some steps, and their frames. */
  async parity(data: unknown, frame: number, width: number, height: number) {
    const engines = { cpu: await keptCpu(1), gpu: (kept.gpu ??= await gpu()) };
    const plan = compilePiece(validatePiece(data));
    for (const engine of [engines.cpu, engines.gpu]) {
      engine.setPlan(plan);
      engine.reset();
      while (engine.frame < frame) engine.step();
    }
    let apart = 0;
    let compared = 0;
    for (const { id } of plan.swarms) {
      const [age, life] = [engines.cpu.state(id, 'age'), engines.cpu.state(id, 'life')];
      for (const axis of ['px', 'py', 'pz'] as const) {
        const there = await engines.gpu.readState(id, axis);
        engines.cpu.state(id, axis).forEach((value, i) => {
          if (!(age[i]! >= 0 && age[i]! < life[i]!)) return;
          compared += 1;
          apart = Math.max(apart, Math.abs(value - there[i]!));
        });
      }
    }
    const a = engines.cpu.draw(width, height).pixels;
    const b = await engines.gpu.readFrame(width, height);
    let [sum, worst, lit] = [0, 0, 0];
    a.forEach((value, i) => {
      const difference = Math.abs(value - b[i]!);
      sum += difference;
      worst = Math.max(worst, difference);
      if (value > 60 && i % 4 < 3) lit += 1;
    });
    return { apart, compared, mean: sum / a.length, worst, lit };
  },

  /** Random graphs in WGSL against the interpreter: the largest difference, scaled by size. */
  async wgsl(first: number, count: number) {
    const adapter = await navigator.gpu.requestAdapter();
    const device = await adapter!.requestDevice();
    const results: { seed: number; wrong: number; floats: number; error: string }[] = [];
    for (let seed = first; seed < first + count; seed++) {
      results.push({
        seed,
        ...(await wgslAgainstInterpreter(device, randomGraph(seed, 24), seed)),
      });
    }
    return results;
  },

  /** Each operation by itself. */
  async wgslOperations() {
    const adapter = await navigator.gpu.requestAdapter();
    const device = await adapter!.requestDevice();
    const results: { name: string; apart: number; finite: number; error: string }[] = [];
    for (const name of Object.keys(OPERATIONS) as OperationName[]) {
      for (let seed = 0; seed < 3; seed++) {
        const graph = oneOperation(name, seed);
        results.push({ name, ...(await wgslAgainstInterpreter(device, graph, seed)) });
      }
    }
    return results;
  },

  /** Goes on from a snapshot once more; whether the same frame comes of it, and was not there before. */
  async gpuReturn(data: unknown, from: number, to: number) {
    const engine = await gpu();
    engine.setPlan(compilePiece(validatePiece(data)));
    const run = async (frame: number): Promise<Uint8ClampedArray> => {
      while (engine.frame < frame) engine.step();
      return engine.readFrame(64, 36);
    };
    const early = await run(from);
    const snapshot = engine.save();
    const first = await run(to);
    engine.restore(snapshot);
    const again = await run(to);
    const same = (a: Uint8ClampedArray): boolean => first.every((v, i) => v === a[i]);
    return { same: same(again), still: same(early) };
  },

  /**
   * What a swarm was stored as by the CPU engine, played by the card: the largest difference of a state at each of the
   * frames that are jumped to, and whether the frame's picture is that of one that was simulated.
   */
  async gpuBake(data: unknown, swarm: string, frames: number[]) {
    const piece = validatePiece(data);
    const cpu = await keptCpu(1);
    const plan = compilePiece(piece);
    const { capacity, state } = plan.swarms.find((s) => s.id === swarm)!;
    const [states, born]: [Float32Array[][], number[]] = [[], []];
    cpu.setPlan(plan);
    cpu.reset();
    while (cpu.frame < piece.frame.length - 1) {
      cpu.step();
      states.push(await cpu.stateOf(swarm));
      born.push(cpu.born(swarm));
    }
    const bake = {
      name: 'stored',
      first: 0,
      last: piece.frame.length - 1,
      capacity,
      state,
      bornAt: (frame: number) => born[frame] ?? 0,
      read: (frame: number) => states[frame]!,
    };
    const engine = await gpu();
    engine.setPlan(compilePiece(piece, { bakes: new Map([[swarm, bake]]) }));
    const found: { jumped: boolean; apart: number; lit: number }[] = [];
    for (const frame of frames) {
      const jumped = engine.jump(frame);
      let apart = 0;
      for (const [k, name] of state.entries()) {
        const there = await engine.readState(swarm, name);
        const wanted = states[frame]![k]!;
        for (let i = 0; i < born[frame]!; i++)
          apart = Math.max(apart, Math.abs(wanted[i]! - there[i]!));
      }
      const lit = (await engine.readFrame(64, 36)).filter((v, i) => v > 60 && i % 4 < 3).length;
      found.push({ jumped, apart, lit });
    }
    return found;
  },

  /** Loses the device in the middle, recovers, comes back; the frame's difference to no loss. */
  async gpuLoss(data: unknown, frame: number) {
    const plan = compilePiece(validatePiece(data));
    const engine = await gpu();
    engine.setPlan(plan);
    while (engine.frame < frame) engine.step();
    const before = await engine.readFrame(64, 36);
    engine.loseDevice();
    let message = '';
    for (let i = 0; i < 100 && !message; i++) {
      await new Promise((resolve) => setTimeout(resolve, 10));
      try {
        engine.step();
      } catch (error) {
        message = (error as Error).name;
      }
    }
    await engine.recover();
    while (engine.frame < frame) engine.step();
    const after = await engine.readFrame(64, 36);
    return { message, same: before.every((v, i) => v === after[i]) };
  },
};

const LANES = 16;

/** Inputs of a size at which single precision and the device's own rounding stay comparable. */
async function wgslAgainstInterpreter(
  device: GPUDevice,
  graph: Graph,
  seed: number,
): Promise<{ wrong: number; apart: number; finite: number; floats: number; error: string }> {
  const at = (i: number): number => Math.sin(seed * 12.9898 + i * 78.233) * 3;
  const memory: Memory = {
    a: Float32Array.from({ length: LANES + 8 }, (_, i) => at(i)),
    b: Float32Array.from({ length: LANES + 8 }, (_, i) => at(i + 100)),
    k: Int32Array.from({ length: LANES + 8 }, (_, i) => at(i + 200) * 1000),
    outF: new Float32Array(LANES + 8),
    outI: new Int32Array(LANES + 8),
    masked: new Float32Array(LANES + 8).fill(7),
  };
  const uniforms = { u: at(300), n: 37, turns: 3 };
  const words = new Int32Array(Math.ceil(paramWords(graph) / 4) * 4);
  const floats = new Float32Array(words.buffer);
  words[1] = LANES;
  const all = new Float32Array(graph.buffers.length * (LANES + 8));
  const offset = (i: number): number => i * (LANES + 8);
  graph.buffers.forEach(({ name }, i) => {
    words[paramWord(graph, 'buffer', i)] = offset(i);
    const source = memory[name]!;
    new Uint8Array(all.buffer).set(
      new Uint8Array(source.buffer, source.byteOffset, source.byteLength),
      4 * offset(i),
    );
  });
  graph.uniforms.forEach(({ name, type }, i) => {
    const view = type === 'f32' ? floats : words;
    view[paramWord(graph, 'uniform', i)] = uniforms[name as 'u'];
  });
  device.pushErrorScope('validation');
  const { STORAGE, UNIFORM, COPY_DST, COPY_SRC, MAP_READ } = GPUBufferUsage;
  const buffer = device.createBuffer({
    size: all.byteLength,
    usage: STORAGE | COPY_DST | COPY_SRC,
  });
  const params = device.createBuffer({ size: words.byteLength, usage: UNIFORM | COPY_DST });
  const back = device.createBuffer({ size: all.byteLength, usage: COPY_DST | MAP_READ });
  device.queue.writeBuffer(buffer, 0, all);
  device.queue.writeBuffer(params, 0, words);
  const module = device.createShaderModule({ code: toWgsl(graph) });
  const pipeline = device.createComputePipeline({ layout: 'auto', compute: { module } });
  const resources = [{ buffer }, { buffer: params }];
  const encoder = device.createCommandEncoder();
  const pass = encoder.beginComputePass();
  pass.setPipeline(pipeline);
  // A graph that folded to constants reads no parameters, and then has no binding for them.
  const layout = pipeline.getBindGroupLayout(0);
  const entries = resources.map((resource, binding) => ({ binding, resource }));
  pass.setBindGroup(0, device.createBindGroup({ layout, entries }));
  pass.dispatchWorkgroups(1);
  pass.end();
  encoder.copyBufferToBuffer(buffer, 0, back, 0, all.byteLength);
  device.queue.submit([encoder.finish()]);
  const failure = await device.popErrorScope();
  if (failure) return { wrong: 0, apart: 0, finite: 0, floats: 0, error: failure.message };
  await back.mapAsync(GPUMapMode.READ);
  const got = back.getMappedRange().slice(0);
  interpret(graph, 0, LANES, memory, uniforms);
  let [wrong, exact, finite, compared] = [0, 0, 0, 0];
  graph.buffers.forEach(({ name, type }, i) => {
    if (!name.startsWith('out')) return;
    const view = type === 'f32' ? new Float32Array(got) : new Int32Array(got);
    for (let lane = 0; lane < LANES; lane++) {
      const wanted = memory[name]![lane]!;
      const value = view[offset(i) + lane]!;
      if (!Number.isFinite(wanted)) continue;
      finite += 1;
      if (value === wanted) exact += 1;
      if (Math.abs(wanted) > 1e6) continue;
      compared += 1;
      if (Math.abs(value - wanted) > 1e-4 * Math.max(1, Math.abs(wanted))) wrong += 1;
    }
  });
  return { wrong, apart: finite - exact, finite, floats: compared, error: '' };
}

/** A kernel of one operation on what stands in memory. */
function oneOperation(name: OperationName, seed: number): Graph {
  const g = new Graph();
  const lane = g.lane();
  const compared = (i: number): Expr => g.load('a', lane.add(i)).lt(g.load('b', lane));
  const given = OPERATIONS[name].args.map((type, i) => {
    if (type === 'f32') return g.load(i % 2 ? 'b' : 'a', lane.add(i));
    return type === 'i32' ? g.load('k', lane.add(i), 'i32') : compared(i);
  });
  const made = SHIFTS.has(name)
    ? g.shift(name as 'shl', given[0]!, 1 + 7 * seed)
    : g.op(name, ...given);
  if (made.type === 'f32') g.store('outF', made);
  else g.store('outI', made.type === 'i32' ? made : made.select(g.int(1), g.int(0)));
  return g;
}

self.onmessage = async ({ data: [name, args] }: MessageEvent<[string, unknown[]]>) => {
  try {
    const all = tasks as unknown as Record<string, (...a: unknown[]) => Promise<unknown>>;
    postMessage({ value: await all[name]!(...args) });
  } catch (error) {
    postMessage({ error: error instanceof Error ? (error.stack ?? error.message) : String(error) });
  }
};
