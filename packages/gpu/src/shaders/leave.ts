/**
 * Sums of what particles leave in a medium, in fixed point, 2^-16 of a unit, so that their order does not count. Words: 0
 * slots, 1 columns, 2 lines, 3 stride, 4 whether it wraps, 5 words of a plane, 6 radius in cells, 7 gain, 8 to 15 what
 * is given, 16 to 21 the planes. `clear` (or `whole`, which goes on from sums that are there), `leave`, `settle`.
 */
export const LEAVE = /* wgsl */ `
@group(0) @binding(0) var<storage, read_write> memory: array<atomic<i32>>;
@group(0) @binding(1) var<uniform> params: array<vec4<i32>, 8>;
@group(0) @binding(2) var<storage, read> swarm: array<f32>;
const ONE = 65536.0;
const PLANES = 6;
fn word(i: i32) -> i32 { return params[i >> 2][i & 3]; }
fn number(i: i32) -> f32 { return bitcast<f32>(word(i)); }
fn given(k: i32, slot: i32) -> f32 { return swarm[word(8 + k) + slot]; }
fn near(part: f32) -> f32 {
  let rest = max(0.0, 1.0 - part * part);
  return rest * rest;
}
fn cell(at: i32, size: i32) -> i32 {
  if (word(4) == 0) { return at; }
  return ((at - 1) % size + size) % size + 1;
}
@compute @workgroup_size(64) fn leave(@builtin(global_invocation_id) id: vec3<u32>) {
  let slot = i32(id.x + id.y * 65536u);
  if (slot >= word(0)) { return; }
  let x = given(0, slot);
  let y = given(1, slot);
  if (!(x > -1e5) || !(abs(x) < 1e5) || !(abs(y) < 1e5)) { return; }
  let radius = number(6);
  for (var j = i32(ceil(y - radius)); j <= i32(floor(y + radius)); j++) {
    let line = cell(j, word(2));
    if (line < 1 || line > word(2)) { continue; }
    for (var i = i32(ceil(x - radius)); i <= i32(floor(x + radius)); i++) {
      let column = cell(i, word(1));
      if (column < 1 || column > word(1)) { continue; }
      let weight = near((f32(i) - x) / radius) * near((f32(j) - y) / radius) * number(7) * given(7, slot);
      let at = line * word(3) + column;
      atomicAdd(&memory[word(16) + at], i32(round(weight * ONE)));
      for (var k = 1; k < PLANES; k++) {
        let value = clamp(weight * given(k + 1, slot), -3e4, 3e4);
        atomicAdd(&memory[word(16 + k) + at], i32(round(value * ONE)));
      }
    }
  }
}
@compute @workgroup_size(64) fn clear(@builtin(global_invocation_id) id: vec3<u32>) {
  let i = i32(id.x + id.y * 65536u);
  if (i >= word(5)) { return; }
  for (var k = 0; k < PLANES; k++) { atomicStore(&memory[word(16 + k) + i], 0); }
}
@compute @workgroup_size(64) fn whole(@builtin(global_invocation_id) id: vec3<u32>) {
  let i = i32(id.x + id.y * 65536u);
  if (i >= word(5)) { return; }
  for (var k = 0; k < PLANES; k++) {
    let sum = bitcast<f32>(atomicLoad(&memory[word(16 + k) + i]));
    atomicStore(&memory[word(16 + k) + i], i32(round(sum * ONE)));
  }
}
@compute @workgroup_size(64) fn settle(@builtin(global_invocation_id) id: vec3<u32>) {
  let i = i32(id.x + id.y * 65536u);
  if (i >= word(5)) { return; }
  for (var k = 0; k < PLANES; k++) {
    let sum = f32(atomicLoad(&memory[word(16 + k) + i])) / ONE;
    atomicStore(&memory[word(16 + k) + i], bitcast<i32>(sum));
  }
}
`;
