import { SORT_STAGES } from '../lists';
import { BINDINGS } from './common';

/**
 * Bitonic sorts (K. E. Batcher, "Sorting networks and their applications", 1968) of the numbers in `order`
 * by the keys that a shader gives them, and by number where keys are the same. An invocation takes the
 * numbers that some consecutive stages exchange among each other, does these in registers, and puts them
 * back: that spares most of the way to memory, and needs no barriers.
 */

/** So many stages, written out. Words 3 and 4: the size of the stages, and how far apart the first are. */
function stages(count: number): string {
  const all = Array.from({ length: 2 ** count }, (_, i) => i);
  const lines = all.map(
    (i) => `var s${i} = order[first + ${i}u * near]; var k${i} = keyOf(s${i});`,
  );
  for (let apart = 2 ** (count - 1); apart >= 1; apart /= 2) {
    for (const i of all.filter((n) => (n & apart) === 0)) {
      const [a, b] = [String(i), String(i + apart)];
      lines.push(`if (after(s${a}, k${a}, s${b}, k${b}) == upward) {
    let s = s${a}; s${a} = s${b}; s${b} = s;
    let k = k${a}; k${a} = k${b}; k${b} = k;
  }`);
    }
  }
  lines.push(...all.map((i) => `order[first + ${i}u * near] = s${i};`));
  return /* wgsl */ `
@compute @workgroup_size(64) fn stages${count}(@builtin(global_invocation_id) id: vec3<u32>) {
  let i = id.x + id.y * 65536u;
  if ((i << ${count}u) >= arrayLength(&order)) { return; }
  let near = u32(word(4)) >> ${count - 1}u;
  // Between the bits above and below stand those by which its numbers differ.
  let below = i & (near - 1u);
  let first = ((i - below) << ${count}u) | below;
  let upward = (first & u32(word(3))) == 0u;
  ${lines.join('\n  ')}
}
`;
}

/**
 * @param key the type of the keys that `keyOf` gives
 * @param after whether key `ka` comes after key `kb`; numbers past the end, word 2, go last
 */
const bitonic = (key: 'f32' | 'i32', after: string): string => /* wgsl */ `
fn after(a: u32, ka: ${key}, b: u32, kb: ${key}) -> bool {
  let n = u32(word(2));
  if (a >= n || b >= n) { return a > b; }
  return ${after} || (ka == kb && a > b);
}
${Array.from({ length: SORT_STAGES }, (_, i) => stages(i + 1)).join('')}`;

/** Slots far to near. Words: 0 depth, 2 count, 3 and 4 the sizes of the stages. */
export const SORT = /* wgsl */ `
@group(0) @binding(0) var<storage, read> memory: array<f32>;
@group(0) @binding(1) var<uniform> params: array<vec4<i32>, 8>;
@group(0) @binding(2) var<storage, read_write> order: array<u32>;
fn word(i: i32) -> i32 { return params[i >> 2][i & 3]; }
fn keyOf(slot: u32) -> f32 { return memory[u32(word(0)) + slot]; }
${bitonic('f32', 'ka < kb')}`;

/**
 * Slots by the cell of a grid, low to high, and what is read from it: words 0 cells of the slots,
 * 1 where sorted slots go, 2 slots, 3 and 4 the sizes of the stages, 5 where cells' beginnings go,
 * 6 number of cells.
 */
export const CELLS = /* wgsl */ `
${BINDINGS}
@group(0) @binding(2) var<storage, read_write> order: array<u32>;
fn keyOf(slot: u32) -> i32 { return bitcast<i32>(memory[u32(word(0)) + slot]); }
${bitonic('i32', 'ka > kb')}
@compute @workgroup_size(64) fn starts(@builtin(global_invocation_id) id: vec3<u32>) {
  let i = i32(id.x + id.y * 65536u);
  if (i >= word(2)) { return; }
  let slot = order[i];
  memory[word(1) + i] = bitcast<f32>(i32(slot));
  let here = keyOf(slot);
  var before = -1;
  if (i > 0) { before = keyOf(order[i - 1]); }
  for (var c = before + 1; c <= here; c++) { memory[word(5) + c] = bitcast<f32>(i); }
  if (i == word(2) - 1) {
    for (var c = here + 1; c <= word(6) + 1; c++) { memory[word(5) + c] = bitcast<f32>(word(2)); }
  }
}
`;
