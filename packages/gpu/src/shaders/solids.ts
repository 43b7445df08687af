import { wgslConstants } from '@vast-swarm/core/plan';
import { QUADS, WORDS } from '../words';
import { DRAW_BINDINGS, fragments, SHADED } from './common';
import { MESH_BODY } from './copies';

/** A band's corner: its end, how far across, its shading. */
const BAND_BODY = /* wgsl */ `
struct Corner {
  @builtin(position) at: vec4<f32>,
  @location(0) light: vec4<f32>,
  @location(1) @interpolate(perspective, sample) across: f32,
  @location(2) @interpolate(flat) lit: vec4<f32>,
}
fn shade(in: Corner) -> Shaded {
  let square = in.across * in.across;
  let light = in.light.rgb * (in.lit.x + in.lit.y * in.across + in.lit.z * square);
  return Shaded(vec4<f32>(light, in.light.a), edged(1.0 - square, in.lit.w).r0);
}
/** Of six vertices: which end, and which side. */
fn endOf(vertex: u32) -> bool { let k = vertex % 6u; return k == 2u || k == 3u || k == 5u; }
fn sideOf(vertex: u32) -> f32 { let k = vertex % 6u; return select(-1.0, 1.0, k == 1u || k == 4u || k == 5u); }
`;

/** Trails as bands between the places where particles were. */
export const TRAILS = /* wgsl */ `
${wgslConstants(WORDS.trails)}
${DRAW_BINDINGS}${SHADED}${BAND_BODY}
@vertex fn corner(@builtin(vertex_index) vertex: u32) -> Corner {
  var out: Corner;
  out.at = NOWHERE;
  let i = item(vertex / 6u);
  let rows = word(ROWS) - 1;
  let a = (i % rows) * word(LANES) + i / rows;
  let b = a + word(LANES);
  let aa = own(TA, a);
  let ab = own(TA, b);
  if (!(aa >= 0.0 && ab >= 0.0 && aa + ab > 0.0)) { return out; }
  let e = select(a, b, endOf(vertex));
  let side = sideOf(vertex);
  let way = vec2<f32>(own(TNX, e), own(TNY, e));
  out.at = screen(vec2<f32>(own(TX, e), own(TY, e)) + side * way, own(TZ, e));
  out.light = vec4<f32>(own(TR, e), own(TG, e), own(TB, e), own(TA, e));
  out.across = side;
  out.lit = 0.5 * vec4<f32>(
    own(TS0, a) + own(TS0, b), own(TS1, a) + own(TS1, b), own(TS2, a) + own(TS2, b), own(TE, a) + own(TE, b));
  return out;
}
${fragments('Corner')}`;

/** Code that both drawings of links share. */
const LINK_BODY = /* wgsl */ `
fn far(i: i32, j: i32) -> f32 {
  let d = vec3<f32>(own(PX, i) - own(PX, j), own(PY, i) - own(PY, j), own(PZ, i) - own(PZ, j));
  return max(0.0, 1.0 - length(d) / number(RADIUS));
}
/** The k-th link of a particle, or -1. */
fn linkOf(i: i32, k: i32) -> i32 {
  if (k >= i32(memory[word(KEPT) + i])) { return -1; }
  let at = i * word(MOST) + k;
  if (memory[word(PAIR_RANKS) + at] >= memory[word(LIMIT)]) { return -1; }
  return i32(memory[word(ENDS) + at]);
}
`;

export const LINKS = /* wgsl */ `
${wgslConstants(WORDS.links)}
${DRAW_BINDINGS}${SHADED}${BAND_BODY}${LINK_BODY}
@vertex fn corner(@builtin(vertex_index) vertex: u32) -> Corner {
  var out: Corner;
  out.at = NOWHERE;
  let n = item(vertex / 6u);
  let i = n / word(MOST);
  let j = linkOf(i, n % word(MOST));
  if (j < 0) { return out; }
  if (!(own(LA, i) >= 0.0 && own(LA, j) >= 0.0)) { return out; }
  let start = vec2<f32>(own(LX, i), own(LY, i));
  let way = vec2<f32>(own(LX, j), own(LY, j)) - start;
  let length_ = length(way);
  if (!(length_ > 1e-3)) { return out; }
  let part = far(i, j);
  let e = select(i, j, endOf(vertex));
  let side = sideOf(vertex);
  let aside = vec2<f32>(-way.y, way.x) / length_ * own(LW, e);
  out.at = screen(vec2<f32>(own(LX, e), own(LY, e)) + side * aside, own(LZ, e));
  out.light = part * vec4<f32>(own(LR, e), own(LG, e), own(LB, e), own(LA, e));
  out.across = side;
  out.lit = vec4<f32>(1.0, 0.0, 0.0, own(LE, i));
  return out;
}
${fragments('Corner')}`;

/** Filled triangles between links: each item is a particle and a pair of its links. */
export const FACES = /* wgsl */ `
${wgslConstants(WORDS.links)}
${DRAW_BINDINGS}${SHADED}${LINK_BODY}
struct Corner { @builtin(position) at: vec4<f32>, @location(0) light: vec4<f32> }
fn linked(i: i32, j: i32) -> bool {
  for (var k = 0; k < word(MOST); k++) { if (linkOf(i, k) == j) { return true; } }
  return false;
}
@vertex fn corner(@builtin(vertex_index) vertex: u32) -> Corner {
  var out: Corner;
  out.at = NOWHERE;
  let most = word(MOST);
  let n = item(vertex / 3u);
  let i = n / (most * most);
  let a = linkOf(i, (n / most) % most);
  let b = linkOf(i, n % most);
  if ((n / most) % most >= n % most || a < 0 || b < 0) { return out; }
  let j = min(a, b);
  let k = max(a, b);
  if (!linked(j, k)) { return out; }
  if (!(own(LA, i) >= 0.0 && own(LA, j) >= 0.0 && own(LA, k) >= 0.0)) { return out; }
  let part = number(FILL) * min(far(i, j), min(far(i, k), far(j, k)));
  var e = i;
  if (vertex % 3u == 1u) { e = j; }
  if (vertex % 3u == 2u) { e = k; }
  out.at = screen(vec2<f32>(own(LX, e), own(LY, e)), own(LZ, e));
  out.light = part * vec4<f32>(own(LR, e), own(LG, e), own(LB, e), own(LA, e));
  return out;
}
fn shade(in: Corner) -> Shaded { return Shaded(in.light, 1.0); }
${fragments('Corner')}`;

const MEANS_HEAD = /* wgsl */ `
@group(0) @binding(0) var<storage, read_write> memory: array<u32>;
@group(0) @binding(1) var<uniform> params: array<vec4<i32>, ${QUADS}>;
fn word(i: i32) -> i32 { return params[i >> 2][i & 3]; }
fn number(i: i32) -> f32 { return bitcast<f32>(word(i)); }
fn value(i: i32) -> f32 { return bitcast<f32>(memory[i]); }
fn own(name: i32, p: i32) -> f32 { return value(word(name) + p); }
fn put(i: i32, v: f32) { memory[word(MEANS) + i] = bitcast<u32>(v); }
`;

const MEANS_ENTRY = /* wgsl */ `
@compute @workgroup_size(64) fn means(@builtin(global_invocation_id) id: vec3<u32>) {
  let i = i32(id.x + id.y * 65536u);
  if (i < word(ITEMS)) { put(i, mean(i)); }
}
`;

/** The mean depth of each item, in metres, for the sort: of the shape that is drawn. */
export const MEANS = {
  meshes: /* wgsl */ `${wgslConstants(WORDS.meshes)}${MEANS_HEAD}${MESH_BODY}
fn mean(i: i32) -> f32 {
  let corners = word(MESH) + 18 * (i % word(TRIANGLES));
  let p = i / word(TRIANGLES);
  return (placed(p, corners).z + placed(p, corners + 6).z + placed(p, corners + 12).z) / 3.0;
}
${MEANS_ENTRY}`,
  trails: /* wgsl */ `${wgslConstants(WORDS.trails)}${MEANS_HEAD}
fn mean(i: i32) -> f32 {
  let rows = word(ROWS) - 1;
  let a = (i % rows) * word(LANES) + i / rows;
  return 0.5 * (own(TZ, a) + own(TZ, a + word(LANES)));
}
${MEANS_ENTRY}`,
  links: /* wgsl */ `${wgslConstants(WORDS.links)}${MEANS_HEAD}${LINK_BODY}
fn mean(n: i32) -> f32 {
  let i = n / word(MOST);
  let j = linkOf(i, n % word(MOST));
  if (j < 0) { return 0.0; }
  return 0.5 * (own(LZ, i) + own(LZ, j));
}
${MEANS_ENTRY}`,
  faces: /* wgsl */ `${wgslConstants(WORDS.links)}${MEANS_HEAD}${LINK_BODY}
fn mean(n: i32) -> f32 {
  let most = word(MOST);
  let i = n / (most * most);
  let j = linkOf(i, (n / most) % most);
  let k = linkOf(i, n % most);
  if (j < 0 || k < 0) { return 0.0; }
  return (own(LZ, i) + own(LZ, j) + own(LZ, k)) / 3.0;
}
${MEANS_ENTRY}`,
};
