import { DRAW_BINDINGS, fragments, SHADED } from './common';

/**
 * Copies of a mesh, placed and lit as in the CPU engine's meshes.ts: words 8 to 23 arrays as MESH, 24
 * corners, 25 triangles, 26 whether what faces away is left out, 27 pixels per metre, 28 gloss, 29
 * lamps, 30 to 32 ambient light, 36 on lamps, eight words each. The mean depth of item i for sorting
 * comes from \`means\`: word 7 items, 33 where they go.
 */
const MESH_BODY = /* wgsl */ `
fn triple(name: i32, p: i32) -> vec3<f32> {
  return vec3<f32>(own(name, p), own(name + 1, p), own(name + 2, p));
}
fn placed(p: i32, start: i32) -> vec3<f32> {
  return triple(8, p) + value(start) * triple(11, p) + value(start + 1) * triple(14, p) + value(start + 2) * triple(17, p);
}
`;

export const MESHES = /* wgsl */ `
${DRAW_BINDINGS}${SHADED}${MESH_BODY}
struct Corner { @builtin(position) at: vec4<f32>, @location(0) light: vec4<f32> }
fn onScreen(c: vec3<f32>) -> vec2<f32> {
  let scale = select(number(27), number(27) / c.z, word(5) != 0);
  return vec2<f32>(0.5 * f32(word(0)) + c.x * scale, 0.5 * f32(word(1)) - c.y * scale);
}
fn safe(v: vec3<f32>) -> vec3<f32> { return v / sqrt(max(dot(v, v), 1e-20)); }
@vertex fn corner(@builtin(vertex_index) vertex: u32) -> Corner {
  var out: Corner;
  out.at = NOWHERE;
  let i = item(vertex / 3u);
  let p = i / word(25);
  let alpha = own(23, p);
  if (!(alpha > 0.0)) { return out; }
  let corners = word(24) + 18 * (i % word(25));
  let a = placed(p, corners);
  let b = placed(p, corners + 6);
  let c = placed(p, corners + 12);
  if (!(a.z > 1e-3 && b.z > 1e-3 && c.z > 1e-3)) { return out; }
  let ab = onScreen(b) - onScreen(a);
  let ac = onScreen(c) - onScreen(a);
  let area = ac.x * ab.y - ac.y * ab.x;
  if (word(26) != 0 && !(area > 0.0)) { return out; }
  let start = corners + 6 * i32(vertex % 3u);
  let place = placed(p, start);
  let x = triple(11, p);
  let y = triple(14, p);
  let z = triple(17, p);
  let m = vec3<f32>(value(start + 3), value(start + 4), value(start + 5))
    / max(vec3<f32>(dot(x, x), dot(y, y), dot(z, z)), vec3<f32>(1e-20));
  let normal = safe(m.x * x + m.y * y + m.z * z) * select(1.0, -1.0, area < 0.0);
  let view = select(vec3<f32>(0.0, 0.0, -1.0), safe(-place), word(5) != 0);
  let facing = max(0.0, dot(normal, view));
  var lit = vec3<f32>(number(30), number(31), number(32));
  var shine = vec3<f32>(0.0);
  for (var k = 0; k < word(29); k++) {
    let lamp = 36 + 8 * k;
    let way = vec3<f32>(number(lamp), number(lamp + 1), number(lamp + 2));
    let light = vec3<f32>(number(lamp + 3), number(lamp + 4), number(lamp + 5));
    var fall = max(0.0, dot(normal, way));
    if (number(lamp + 6) > 0.0) { fall *= (1.0 - facing) * (1.0 - facing) * 4.0; }
    lit += light * fall;
    let middle = way + view;
    let h = max(0.0, dot(normal, middle)) / sqrt(max(dot(middle, middle), 1e-12));
    let h4 = h * h * h * h;
    shine += light * (number(28) * h4 * h4 * h4 * h4);
  }
  out.at = screen(onScreen(place), place.z);
  out.light = vec4<f32>(triple(20, p) * lit + shine * alpha, alpha);
  return out;
}
fn shade(in: Corner) -> Shaded { return Shaded(in.light, 1.0); }
${fragments('Corner')}`;

/** A band's corner: its end, how far across, its shading. */
const BAND_BODY = /* wgsl */ `
struct Corner {
  @builtin(position) at: vec4<f32>,
  @location(0) light: vec4<f32>,
  @location(1) across: f32,
  @location(2) @interpolate(flat) lit: vec4<f32>,
}
fn shade(in: Corner) -> Shaded {
  let square = in.across * in.across;
  let light = in.light.rgb * (in.lit.x + in.lit.y * in.across + in.lit.z * square);
  return Shaded(vec4<f32>(light, in.light.a), edged(1.0 - square, in.lit.w));
}
/** Of six vertices: which end, and which side. */
fn endOf(vertex: u32) -> bool { let k = vertex % 6u; return k == 2u || k == 3u || k == 5u; }
fn sideOf(vertex: u32) -> f32 { let k = vertex % 6u; return select(-1.0, 1.0, k == 1u || k == 4u || k == 5u); }
`;

/**
 * Trails: words 8 to 20 arrays as TRAIL, 21 places of a trail, 22 lanes from a row to the next, 23
 * particles.
 */
export const TRAILS = /* wgsl */ `
${DRAW_BINDINGS}${SHADED}${BAND_BODY}
@vertex fn corner(@builtin(vertex_index) vertex: u32) -> Corner {
  var out: Corner;
  out.at = NOWHERE;
  let i = item(vertex / 6u);
  let rows = word(21) - 1;
  let a = (i % rows) * word(22) + i / rows;
  let b = a + word(22);
  let aa = own(15, a);
  let ab = own(15, b);
  if (!(aa >= 0.0 && ab >= 0.0 && aa + ab > 0.0)) { return out; }
  let e = select(a, b, endOf(vertex));
  let side = sideOf(vertex);
  let way = vec2<f32>(own(10, e), own(11, e));
  out.at = screen(vec2<f32>(own(8, e), own(9, e)) + side * way, own(16, e));
  out.light = vec4<f32>(own(12, e), own(13, e), own(14, e), own(15, e));
  out.across = side;
  out.lit = 0.5 * vec4<f32>(
    own(17, a) + own(17, b), own(18, a) + own(18, b), own(19, a) + own(19, b), own(20, a) + own(20, b));
  return out;
}
${fragments('Corner')}`;

/** What both drawings of links share: words 8 to 16 arrays as LINK, 17 most, 18 ends, 19 ranks, 20
 * numbers kept, 21 limit, 22 to 24 places, 25 radius, 26 fill, 27 particles. */
const LINK_BODY = /* wgsl */ `
fn far(i: i32, j: i32) -> f32 {
  let d = vec3<f32>(own(22, i) - own(22, j), own(23, i) - own(23, j), own(24, i) - own(24, j));
  return max(0.0, 1.0 - length(d) / number(25));
}
/** The k-th link of a particle, or -1. */
fn linkOf(i: i32, k: i32) -> i32 {
  if (k >= i32(memory[word(20) + i])) { return -1; }
  let at = i * word(17) + k;
  if (memory[word(19) + at] >= memory[word(21)]) { return -1; }
  return i32(memory[word(18) + at]);
}
`;

export const LINKS = /* wgsl */ `
${DRAW_BINDINGS}${SHADED}${BAND_BODY}${LINK_BODY}
@vertex fn corner(@builtin(vertex_index) vertex: u32) -> Corner {
  var out: Corner;
  out.at = NOWHERE;
  let n = item(vertex / 6u);
  let i = n / word(17);
  let j = linkOf(i, n % word(17));
  if (j < 0) { return out; }
  if (!(own(14, i) >= 0.0 && own(14, j) >= 0.0)) { return out; }
  let start = vec2<f32>(own(8, i), own(9, i));
  let way = vec2<f32>(own(8, j), own(9, j)) - start;
  let length_ = length(way);
  if (!(length_ > 1e-3)) { return out; }
  let part = far(i, j);
  let e = select(i, j, endOf(vertex));
  let side = sideOf(vertex);
  let aside = vec2<f32>(-way.y, way.x) / length_ * own(10, e);
  out.at = screen(vec2<f32>(own(8, e), own(9, e)) + side * aside, own(15, e));
  out.light = part * vec4<f32>(own(11, e), own(12, e), own(13, e), own(14, e));
  out.across = side;
  out.lit = vec4<f32>(1.0, 0.0, 0.0, own(16, i));
  return out;
}
${fragments('Corner')}`;

/** Filled triangles between links: each item is a particle and a pair of its links. */
export const FACES = /* wgsl */ `
${DRAW_BINDINGS}${SHADED}${LINK_BODY}
struct Corner { @builtin(position) at: vec4<f32>, @location(0) light: vec4<f32> }
fn linked(i: i32, j: i32) -> bool {
  for (var k = 0; k < word(17); k++) { if (linkOf(i, k) == j) { return true; } }
  return false;
}
@vertex fn corner(@builtin(vertex_index) vertex: u32) -> Corner {
  var out: Corner;
  out.at = NOWHERE;
  let most = word(17);
  let n = item(vertex / 3u);
  let i = n / (most * most);
  let a = linkOf(i, (n / most) % most);
  let b = linkOf(i, n % most);
  if ((n / most) % most >= n % most || a < 0 || b < 0) { return out; }
  let j = min(a, b);
  let k = max(a, b);
  if (!linked(j, k)) { return out; }
  if (!(own(14, i) >= 0.0 && own(14, j) >= 0.0 && own(14, k) >= 0.0)) { return out; }
  let part = number(26) * min(far(i, j), min(far(i, k), far(j, k)));
  var e = i;
  if (vertex % 3u == 1u) { e = j; }
  if (vertex % 3u == 2u) { e = k; }
  out.at = screen(vec2<f32>(own(8, e), own(9, e)), own(15, e));
  out.light = part * vec4<f32>(own(11, e), own(12, e), own(13, e), own(14, e));
  return out;
}
fn shade(in: Corner) -> Shaded { return Shaded(in.light, 1.0); }
${fragments('Corner')}`;

const MEANS_HEAD = /* wgsl */ `
@group(0) @binding(0) var<storage, read_write> memory: array<u32>;
@group(0) @binding(1) var<uniform> params: array<vec4<i32>, 40>;
fn word(i: i32) -> i32 { return params[i >> 2][i & 3]; }
fn number(i: i32) -> f32 { return bitcast<f32>(word(i)); }
fn value(i: i32) -> f32 { return bitcast<f32>(memory[i]); }
fn own(name: i32, p: i32) -> f32 { return value(word(name) + p); }
fn put(i: i32, v: f32) { memory[word(33) + i] = bitcast<u32>(v); }
`;

const MEANS_ENTRY = /* wgsl */ `
@compute @workgroup_size(64) fn means(@builtin(global_invocation_id) id: vec3<u32>) {
  let i = i32(id.x + id.y * 65536u);
  if (i < word(7)) { put(i, mean(i)); }
}
`;

/** The mean depth of each item, in metres, for the sort: of the shape that is drawn. */
export const MEANS = {
  meshes: /* wgsl */ `${MEANS_HEAD}${MESH_BODY}
fn mean(i: i32) -> f32 {
  let corners = word(24) + 18 * (i % word(25));
  let p = i / word(25);
  return (placed(p, corners).z + placed(p, corners + 6).z + placed(p, corners + 12).z) / 3.0;
}
${MEANS_ENTRY}`,
  trails: /* wgsl */ `${MEANS_HEAD}
fn mean(i: i32) -> f32 {
  let rows = word(21) - 1;
  let a = (i % rows) * word(22) + i / rows;
  return 0.5 * (own(16, a) + own(16, a + word(22)));
}
${MEANS_ENTRY}`,
  links: /* wgsl */ `${MEANS_HEAD}${LINK_BODY}
fn mean(n: i32) -> f32 {
  let i = n / word(17);
  let j = linkOf(i, n % word(17));
  if (j < 0) { return 0.0; }
  return 0.5 * (own(15, i) + own(15, j));
}
${MEANS_ENTRY}`,
  faces: /* wgsl */ `${MEANS_HEAD}${LINK_BODY}
fn mean(n: i32) -> f32 {
  let most = word(17);
  let i = n / (most * most);
  let j = linkOf(i, (n / most) % most);
  let k = linkOf(i, n % most);
  if (j < 0 || k < 0) { return 0.0; }
  return (own(15, i) + own(15, j) + own(15, k)) / 3.0;
}
${MEANS_ENTRY}`,
};
