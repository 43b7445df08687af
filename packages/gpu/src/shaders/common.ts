import { MODES } from '@vast-swarm/core/plan';
import { shapeFunctions } from '@vast-swarm/core/kinds';
import { wgslFunctions } from '@vast-swarm/kernel';
import { QUADS } from '../words';

/** Functions that several shaders share. */

/** Memory and parameter words, bound as toWgsl binds them. */
export const BINDINGS = /* wgsl */ `
@group(0) @binding(0) var<storage, read_write> memory: array<f32>;
@group(0) @binding(1) var<uniform> params: array<vec4<i32>, 8>;
fn word(i: i32) -> i32 { return params[i >> 2][i & 3]; }
fn number(i: i32) -> f32 { return bitcast<f32>(word(i)); }
`;

/** Memory, parameter words by their constants (../words.ts), and what bodies are drawn with. */
export const DRAW_BINDINGS = /* wgsl */ `
@group(0) @binding(0) var<storage, read> memory: array<u32>;
@group(0) @binding(1) var<uniform> params: array<vec4<i32>, ${QUADS}>;
@group(0) @binding(2) var<storage, read> order: array<u32>;
@group(0) @binding(3) var nearest: texture_depth_2d;
override drawMode: i32;
/** Whether the order is sorted, and whether opaque things are before what is drawn. */
override sorted: bool;
override solid: bool;
fn word(i: i32) -> i32 { return params[i >> 2][i & 3]; }
fn number(i: i32) -> f32 { return bitcast<f32>(word(i)); }
fn value(i: i32) -> f32 { return bitcast<f32>(memory[i]); }
/** The number that array of that word has for a particle. */
fn own(name: i32, p: i32) -> f32 { return value(word(name) + p); }
fn item(i: u32) -> i32 {
  if (sorted) { return i32(order[i]); }
  return i32(i);
}
/** Depth for the card, falling with distance and straight over the screen. */
fn depthOf(metres: f32) -> f32 {
  if (word(INVERSE) != 0) { return 1e-3 / max(metres, 1e-3); }
  return 1.0 - metres / 2e4;
}
fn metresOf(depth: f32) -> f32 {
  if (word(INVERSE) != 0) { return 1e-3 / max(depth, 1e-12); }
  return (1.0 - depth) * 2e4;
}
fn screen(pixel: vec2<f32>, metres: f32) -> vec4<f32> {
  let size = vec2<f32>(f32(word(WIDTH)), f32(word(HEIGHT)));
  return vec4<f32>(pixel.x / size.x * 2.0 - 1.0, 1.0 - pixel.y / size.y * 2.0, depthOf(metres), 1.0);
}
fn isOpaque() -> bool { return drawMode == ${String(MODES.indexOf('opaque'))}; }
/** Samples along a pixel by which the CPU engine draws opaque things: edges are as hard here. */
fn finer() -> f32 { return select(1.0, 4.0, isOpaque()); }
/** Where on the screen a fragment is: of opaque things each sample of it, else the middle of its pixel. */
fn spotOf(sample: vec2<f32>, at: vec4<f32>) -> vec2<f32> { return select(at.xy, sample, isOpaque()); }
const NOWHERE = vec4<f32>(2.0, 2.0, 0.0, 1.0);
/** The part of a weight that opaque things leave. */
fn unhidden(weight: f32, at: vec4<f32>) -> f32 {
  if (!solid) { return weight; }
  let before = metresOf(textureLoad(nearest, vec2<i32>(at.xy), 0)) - metresOf(at.z);
  if (!(before > 0.0)) { return 0.0; }
  if (number(SOFT) > 0.0) { return weight * min(before * number(SOFT), 1.0); }
  return weight;
}
/** Colour for the target from light (times opacity), opacity and weight; screen's own blending has a limit. */
fn laid(colour: vec3<f32>, alpha: f32, w: f32) -> vec4<f32> {
  let s = colour * w;
  let o = alpha * w;
  if (drawMode == 1) { return vec4<f32>(min(s, vec3<f32>(1.0)), min(o, 1.0)); }
  if (drawMode == 3) { return vec4<f32>(vec3<f32>(1.0 - o) + s, 1.0); }
  return vec4<f32>(s, o);
}
${wgslFunctions(shapeFunctions())}
`;

/** Ends a draw: `shade(in)` gives light, opacity and weight; one entry for see-through and one for opaque. */
export const fragments = (corner: string): string => /* wgsl */ `
@fragment fn blended(in: ${corner}) -> @location(0) vec4<f32> {
  let c = shade(in);
  return laid(c.light.rgb, c.light.a, unhidden(c.weight, in.at));
}
@fragment fn opaque(in: ${corner}) -> @location(0) vec4<f32> {
  let c = shade(in);
  if (c.weight < 0.5) { discard; }
  return vec4<f32>(c.light.rgb, 1.0);
}
`;

export const SHADED = /* wgsl */ `
struct Shaded { light: vec4<f32>, weight: f32 }
`;

/** Two triangles over a rectangle: its corner by the number of the vertex, -1 or 1. */
export const TURN = /* wgsl */ `
fn turnOf(vertex: u32) -> vec2<f32> {
  let turn = vertex % 6u;
  return vec2<f32>(
    select(-1.0, 1.0, turn == 1u || turn == 2u || turn == 4u),
    select(-1.0, 1.0, turn == 2u || turn == 4u || turn == 5u),
  );
}
`;
