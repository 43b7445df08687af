import { paramWord, paramWords, toWasm, type Graph, type Memory } from '../src';

const PAGES = 64;

/** Runs a kernel as WebAssembly on copies of `memory`, and gives them back. */
export function runWasm(
  graph: Graph,
  lanes: number,
  memory: Memory,
  uniforms: Record<string, number>,
): Memory {
  const shared = new WebAssembly.Memory({ initial: PAGES, maximum: PAGES, shared: true });
  const module = new WebAssembly.Module(toWasm(graph, PAGES));
  const { exports } = new WebAssembly.Instance(module, { env: { memory: shared } });
  const words = new Int32Array(shared.buffer);
  const floats = new Float32Array(shared.buffer);
  let top = paramWords(graph) + 16;
  const out: Memory = {};
  for (const [i, slot] of graph.buffers.entries()) {
    top = (top + 3) & ~3;
    const source = memory[slot.name]!;
    const view = source instanceof Float32Array ? floats : words;
    view.set(source, top);
    words[paramWord(graph, 'buffer', i)] = 4 * top;
    out[slot.name] = view.subarray(top, top + source.length);
    top += source.length + 4;
  }
  for (const [i, slot] of graph.uniforms.entries()) {
    const view = slot.type === 'f32' ? floats : words;
    view[paramWord(graph, 'uniform', i)] = uniforms[slot.name]!;
  }
  (exports.run as (begin: number, end: number, params: number) => void)(0, lanes, 0);
  for (const name of Object.keys(out)) out[name] = out[name]!.slice();
  return out;
}

/** Bit patterns, with every NaN made the same: its payload is the machine's own affair. */
export function bits(values: Float32Array | Int32Array): number[] {
  if (values instanceof Int32Array) return [...values];
  const words = new Int32Array(values.buffer, values.byteOffset, values.length);
  return [...values].map((v, i) => (Number.isNaN(v) ? 0x7fc00000 : words[i]!));
}

/** A small generator for tests (mulberry32). */
export function generator(seed: number): () => number {
  let state = seed | 0;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}
