/** The shaders that are not kernels of the plan. */

import { BINDINGS } from './common';

export { LEAVE } from './leave';
export { CELLS, SORT } from './sorting';

/** Planes of the frame's memory into the target: words 0 to 2 planes, 3 stride. */
export const PLANES_TO_TARGET = /* wgsl */ `
@group(0) @binding(0) var<storage, read> memory: array<f32>;
@group(0) @binding(1) var<uniform> params: array<vec4<i32>, 8>;
fn word(i: i32) -> i32 { return params[i >> 2][i & 3]; }
@vertex fn corner(@builtin(vertex_index) i: u32) -> @builtin(position) vec4<f32> {
  return vec4<f32>(f32(i & 1u) * 4.0 - 1.0, f32(i >> 1u) * 4.0 - 1.0, 0.0, 1.0);
}
@fragment fn light(@builtin(position) at: vec4<f32>) -> @location(0) vec4<f32> {
  let i = i32(at.y) * word(3) + i32(at.x);
  return vec4<f32>(memory[word(0) + i], memory[word(1) + i], memory[word(2) + i], 1.0);
}
/** The finished words (sRGB, red in the low byte) onto the canvas: word 4 where they begin. */
@fragment fn finished(@builtin(position) at: vec4<f32>) -> @location(0) vec4<f32> {
  let i = i32(at.y) * word(3) + i32(at.x);
  return unpack4x8unorm(bitcast<u32>(memory[word(4) + i]));
}
`;

/** The target back into planes, for the finish: words as above, 5 and 6 the size. */
export const TARGET_TO_PLANES = /* wgsl */ `
${BINDINGS}
@group(0) @binding(2) var target_: texture_2d<f32>;
@compute @workgroup_size(8, 8) fn main(@builtin(global_invocation_id) id: vec3<u32>) {
  let p = vec2<i32>(id.xy);
  if (p.x >= word(5) || p.y >= word(6)) { return; }
  let c = textureLoad(target_, p, 0);
  let i = p.y * word(3) + p.x;
  memory[word(0) + i] = c.r;
  memory[word(1) + i] = c.g;
  memory[word(2) + i] = c.b;
}
`;

/**
 * The two passes of bloom, as in the CPU engine's bloom. Words: source planes, width, height,
 * stride (0 to 5), target the same (6 to 11), 12 and 13 their numbers.
 */
export const BLOOM = /* wgsl */ `
${BINDINGS}
fn source(plane: i32, x: i32, y: i32) -> f32 {
  let at = clamp(vec2<i32>(x, y), vec2<i32>(0), vec2<i32>(word(3) - 1, word(4) - 1));
  return memory[word(plane) + at.y * word(5) + at.x];
}
@compute @workgroup_size(8, 8) fn halve(@builtin(global_invocation_id) id: vec3<u32>) {
  let p = vec2<i32>(id.xy);
  if (p.x >= word(9) || p.y >= word(10)) { return; }
  var weights = array<f32, 4>(0.125, 0.375, 0.375, 0.125);
  var sum = vec3<f32>(0.0);
  for (var j = 0; j < 4; j++) {
    for (var i = 0; i < 4; i++) {
      let at = 2 * p + vec2<i32>(i - 1, j - 1);
      let w = weights[i] * weights[j];
      sum += w * vec3<f32>(source(0, at.x, at.y), source(1, at.x, at.y), source(2, at.x, at.y));
    }
  }
  let threshold = number(12);
  if (threshold > 0.0) {
    let light = max(max(sum.r, sum.g), sum.b);
    sum *= max(light - threshold, 0.0) / max(light, 1e-6);
  }
  let o = p.y * word(11) + p.x;
  memory[word(6) + o] = sum.r;
  memory[word(7) + o] = sum.g;
  memory[word(8) + o] = sum.b;
}
@compute @workgroup_size(8, 8) fn addDoubled(@builtin(global_invocation_id) id: vec3<u32>) {
  let p = vec2<i32>(id.xy);
  if (p.x >= word(9) || p.y >= word(10)) { return; }
  let m = p >> vec2<u32>(1u);
  let side = m + select(vec2<i32>(-1), vec2<i32>(1), (p & vec2<i32>(1)) == vec2<i32>(1));
  let o = p.y * word(11) + p.x;
  for (var c = 0; c < 3; c++) {
    let near = source(c, m.x, m.y) * 0.75 + source(c, side.x, m.y) * 0.25;
    let far = source(c, m.x, side.y) * 0.75 + source(c, side.x, side.y) * 0.25;
    let light = (near * 0.75 + far * 0.25) * number(13);
    let at = word(6 + c) + o;
    memory[at] = memory[at] * number(12) + light;
  }
}
`;

/** Counts the living: words 0 age, 1 life, 2 slots, 3 which counter. */
export const COUNT_ALIVE = /* wgsl */ `
@group(0) @binding(0) var<storage, read> memory: array<f32>;
@group(0) @binding(1) var<uniform> params: array<vec4<i32>, 8>;
@group(0) @binding(2) var<storage, read_write> counts: array<atomic<u32>>;
fn word(i: i32) -> i32 { return params[i >> 2][i & 3]; }
@compute @workgroup_size(64) fn main(@builtin(global_invocation_id) id: vec3<u32>) {
  let i = i32(id.x + id.y * 65536u);
  if (i >= word(2)) { return; }
  let age = memory[word(0) + i];
  if (age >= 0.0 && age < memory[word(1) + i]) { atomicAdd(&counts[word(3)], 1u); }
}
`;

/** Copies numbers within one memory: words 0 from, 1 to, 2 count. */
export const COPY = /* wgsl */ `
${BINDINGS}
@compute @workgroup_size(64) fn main(@builtin(global_invocation_id) id: vec3<u32>) {
  let i = i32(id.x + id.y * 65536u);
  if (i < word(2)) { memory[word(1) + i] = memory[word(0) + i]; }
}
`;

/** target = keep · target + gain · source: words 0 source, 1 target, 2 count, 3 keep, 4 gain. */
export const ADD = /* wgsl */ `
${BINDINGS}
@compute @workgroup_size(64) fn main(@builtin(global_invocation_id) id: vec3<u32>) {
  let i = i32(id.x + id.y * 65536u);
  if (i >= word(2)) { return; }
  // What counts nothing may be anything.
  var sum = 0.0;
  if (number(4) != 0.0) { sum = memory[word(0) + i] * number(4); }
  if (number(3) != 0.0) { sum += memory[word(1) + i] * number(3); }
  memory[word(1) + i] = sum;
}
`;

/** Depths of opaque things as metres: words 0 plane, 1 stride, 2 and 3 size, 4 by 1 / metres. */
export const DEPTH_TO_PLANE = /* wgsl */ `
${BINDINGS}
@group(0) @binding(2) var nearest: texture_depth_2d;
@compute @workgroup_size(8, 8) fn main(@builtin(global_invocation_id) id: vec3<u32>) {
  let p = vec2<i32>(id.xy);
  if (p.x >= word(2) || p.y >= word(3)) { return; }
  let depth = textureLoad(nearest, p, 0);
  var metres = (1.0 - depth) * 2e4;
  if (word(4) != 0) { metres = 1e-3 / max(depth, 1e-12); }
  memory[word(0) + p.y * word(1) + p.x] = metres;
}
`;

/** Depths of the first sample of each pixel. */
export const FINE_DEPTH = /* wgsl */ `
@group(0) @binding(0) var<storage, read> memory: array<u32>;
@group(0) @binding(1) var<uniform> params: array<vec4<i32>, 8>;
@group(0) @binding(2) var fine: texture_depth_multisampled_2d;
@vertex fn corner(@builtin(vertex_index) i: u32) -> @builtin(position) vec4<f32> {
  // Both are bound for every draw.
  let none = f32(memory[0] & 0u) + f32(params[0].x & 0);
  return vec4<f32>(f32(i & 1u) * 4.0 - 1.0, f32(i >> 1u) * 4.0 - 1.0, none, 1.0);
}
@fragment fn nearest(@builtin(position) at: vec4<f32>) -> @builtin(frag_depth) f32 {
  return textureLoad(fine, vec2<i32>(at.xy), 0);
}
`;
