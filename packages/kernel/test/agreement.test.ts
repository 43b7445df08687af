import { interpret, type Memory } from '../src';
import { bits, generator, runWasm } from './harness';
import { randomGraph } from './randomGraph';

const LANES = 16;
const SPECIAL = [0, -0, 1, -1, Infinity, -Infinity, NaN, 1e-40, 3.4e38, 0.5, -2.5, 2147483648];

function inputs(seed: number): { memory: Memory; uniforms: Record<string, number> } {
  const next = generator(seed + 1000);
  const float = (): number =>
    next() < 0.2 ? SPECIAL[Math.floor(next() * SPECIAL.length)]! : (next() - 0.5) * 200;
  const floats = (): Float32Array => Float32Array.from({ length: LANES + 8 }, float);
  return {
    memory: {
      a: floats(),
      b: floats(),
      k: Int32Array.from({ length: LANES + 8 }, () => next() * 4e9 - 2e9),
      outF: new Float32Array(LANES),
      outI: new Int32Array(LANES),
      masked: new Float32Array(LANES).fill(7),
    },
    uniforms: { u: float(), n: Math.floor(next() * 100), turns: Math.floor(next() * 4) },
  };
}

test('interpret and WebAssembly agree bit for bit on 300 random graphs', () => {
  for (let seed = 0; seed < 300; seed++) {
    const graph = randomGraph(seed);
    const { memory, uniforms } = inputs(seed);
    const compiled = runWasm(graph, LANES, memory, uniforms);
    interpret(graph, 0, LANES, memory, uniforms);
    for (const name of ['outF', 'outI', 'masked']) {
      expect({ seed, name, bits: bits(compiled[name]!) }).toEqual({
        seed,
        name,
        bits: bits(memory[name]!.subarray(0, LANES)),
      });
    }
  }
});
