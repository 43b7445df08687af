import { paramWord, paramWords } from '@vast-swarm/kernel';
import type { FrameInputs, PlanKernel } from '../language/frame';
import { givenValue, type GivenValues } from '../language/names';

/**
 * A kernel's parameter block for one run, as words for either engine.
 *
 * @param address where a buffer stands: byte address for WebAssembly, element offset for WGSL
 * @param extra uniforms that the engine itself gives
 */
export function paramBlock(
  kernel: PlanKernel,
  address: (buffer: string) => number,
  inputs: FrameInputs,
  extra: GivenValues = {},
): Int32Array {
  const { graph, uniforms } = kernel;
  const words = new Int32Array(paramWords(graph));
  const floats = new Float32Array(words.buffer);
  graph.buffers.forEach(({ name }, i) => {
    words[paramWord(graph, 'buffer', i)] = address(name);
  });
  graph.uniforms.forEach(({ name, type }, i) => {
    const source = givenValue(name, extra) ?? uniforms[name];
    if (source === undefined) throw new Error(`plan: nothing gives the uniform '${name}'`);
    const value = typeof source === 'number' ? source : source(inputs);
    const view = type === 'f32' ? floats : words;
    view[paramWord(graph, 'uniform', i)] = value;
  });
  return words;
}
