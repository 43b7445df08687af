import { OFF_PIXELS, POINT_PIXELS, wgslConstants } from '@vast-swarm/core';
import { QUADS, WORDS } from '../words';
import { DRAW_BINDINGS, fragments, SHADED } from './common';

/** Copies of a mesh, placed and lit as in the CPU engine's meshes.ts. */
const MESH_BODY = /* wgsl */ `
fn triple(name: i32, p: i32) -> vec3<f32> {
  return vec3<f32>(own(name, p), own(name + 1, p), own(name + 2, p));
}
fn placed(p: i32, start: i32) -> vec3<f32> {
  return triple(MX, p) + value(start) * triple(XX, p) + value(start + 1) * triple(YX, p) + value(start + 2) * triple(ZX, p);
}
`;

/** Where corners come on the screen, and how they are lit: as in the CPU engine's light.ts. */
const MESH_LIGHT = /* wgsl */ `
struct Corner { @builtin(position) at: vec4<f32>, @location(0) light: vec4<f32> }
fn zoomAt(z: f32) -> f32 { return select(number(ZOOM), number(ZOOM) / z, word(INVERSE) != 0); }
fn onScreen(c: vec3<f32>) -> vec2<f32> {
  let scale = zoomAt(c.z);
  return vec2<f32>(0.5 * f32(word(WIDTH)) + c.x * scale, 0.5 * f32(word(HEIGHT)) - c.y * scale);
}
fn safe(v: vec3<f32>) -> vec3<f32> { return v / sqrt(max(dot(v, v), 1e-20)); }
fn viewFrom(place: vec3<f32>) -> vec3<f32> {
  return select(vec3<f32>(0.0, 0.0, -1.0), safe(-place), word(INVERSE) != 0);
}
/** Squares of the lengths of a copy's axes, never 0. */
fn squares(p: i32) -> vec3<f32> {
  let x = triple(XX, p);
  let y = triple(YX, p);
  let z = triple(ZX, p);
  return max(vec3<f32>(dot(x, x), dot(y, y), dot(z, z)), vec3<f32>(1e-20));
}
/** The light of a place whose normal stands at \`start\`; seen from behind it shows its other side. */
fn lightAt(p: i32, place: vec3<f32>, start: i32, side: f32) -> vec3<f32> {
  let m = vec3<f32>(value(start), value(start + 1), value(start + 2)) / squares(p);
  let normal = safe(m.x * triple(XX, p) + m.y * triple(YX, p) + m.z * triple(ZX, p)) * side;
  let view = viewFrom(place);
  let facing = max(0.0, dot(normal, view));
  var lit = vec3<f32>(number(AMBIENT), number(AMBIENT + 1), number(AMBIENT + 2));
  var shine = vec3<f32>(0.0);
  for (var k = 0; k < word(LIGHT_COUNT); k++) {
    let lamp = LAMPS + 8 * k;
    let way = vec3<f32>(number(lamp), number(lamp + 1), number(lamp + 2));
    let light = vec3<f32>(number(lamp + 3), number(lamp + 4), number(lamp + 5));
    var fall = max(0.0, dot(normal, way));
    if (number(lamp + 6) > 0.0) { fall *= (1.0 - facing) * (1.0 - facing) * 4.0; }
    lit += light * fall;
    let middle = way + view;
    let h = max(0.0, dot(normal, middle)) / sqrt(max(dot(middle, middle), 1e-12));
    let h4 = h * h * h * h;
    shine += light * (number(GLOSS) * h4 * h4 * h4 * h4);
  }
  return triple(CR, p) * lit + shine * own(CA, p);
}
/** Corner k of the triangle whose corners stand at \`corners\`, of a copy. */
fn cornerOf(p: i32, corners: i32, k: i32) -> Corner {
  var out: Corner;
  out.at = NOWHERE;
  let alpha = own(CA, p);
  if (!(alpha > 0.0)) { return out; }
  let a = placed(p, corners);
  let b = placed(p, corners + 6);
  let c = placed(p, corners + 12);
  if (!(a.z > 1e-3 && b.z > 1e-3 && c.z > 1e-3)) { return out; }
  let ab = onScreen(b) - onScreen(a);
  let ac = onScreen(c) - onScreen(a);
  let area = ac.x * ab.y - ac.y * ab.x;
  if (word(CULL) != 0 && !(area > 0.0)) { return out; }
  let start = corners + 6 * k;
  let place = placed(p, start);
  out.at = screen(onScreen(place), place.z);
  out.light = vec4<f32>(lightAt(p, place, start + 3, select(1.0, -1.0, area < 0.0)), alpha);
  return out;
}
fn shade(in: Corner) -> Shaded { return Shaded(in.light, 1.0); }
`;

const MESH_HEAD = `${wgslConstants(WORDS.meshes)}${DRAW_BINDINGS}${SHADED}${MESH_BODY}${MESH_LIGHT}`;

/** Copies that are seen through: every triangle of every copy, in an order. */
export const MESHES = /* wgsl */ `${MESH_HEAD}
@vertex fn corner(@builtin(vertex_index) vertex: u32) -> Corner {
  let i = item(vertex / 3u);
  let corners = word(MESH) + 18 * (i % word(TRIANGLES));
  return cornerOf(i / word(TRIANGLES), corners, i32(vertex % 3u));
}
${fragments('Corner')}`;

/** Opaque copies of one form: those that a list has. */
export const COPIES = /* wgsl */ `${MESH_HEAD}
@vertex fn corner(
  @builtin(vertex_index) vertex: u32, @builtin(instance_index) instance: u32,
) -> Corner {
  let p = i32(order[u32(word(LIST) * word(ITEMS)) + instance]);
  let triangle = word(LEVELS + 3 * word(LIST)) + i32(vertex / 3u);
  return cornerOf(p, word(MESH) + 18 * triangle, i32(vertex % 3u));
}
${fragments('Corner')}`;

/** Opaque copies that are hardly more than a point: as in the CPU engine's copies.ts. */
export const POINTS = /* wgsl */ `${MESH_HEAD}
@vertex fn corner(
  @builtin(vertex_index) vertex: u32, @builtin(instance_index) instance: u32,
) -> Corner {
  var out: Corner;
  out.at = NOWHERE;
  let p = i32(order[u32(word(LIST) * word(ITEMS)) + instance]);
  let place = triple(MX, p);
  if (!(place.z > 1e-3)) { return out; }
  let lengths = squares(p);
  let view = viewFrom(place);
  let q = vec3<f32>(dot(triple(XX, p), view), dot(triple(YX, p), view), dot(triple(ZX, p), view)) / lengths;
  let level = LEVELS + 3 * (word(LEVEL_COUNT) - 1);
  var sum = 0.0;
  var light = vec3<f32>(0.0);
  for (var t = word(level); t < word(level) + word(level + 1); t++) {
    let face = word(FACES) + 5 * t;
    let weight = dot(vec3<f32>(value(face), value(face + 1), value(face + 2)), q);
    if (!(weight > 0.0)) { continue; }
    sum += weight;
    light += weight * lightAt(p, place, word(MESH) + 18 * t + 3, 1.0);
  }
  if (!(sum > 0.0)) { return out; }
  let zoom = zoomAt(place.z);
  let area = 0.5 * sum * sqrt(lengths.x * lengths.y * lengths.z) * zoom * zoom;
  let half = vec2<f32>(own(EX, p), own(EY, p));
  let covers = 0.5 * sqrt(min(area, 4.0 * half.x * half.y) / (half.x * half.y));
  let k = vertex % 6u;
  let side = vec2<f32>(
    select(-1.0, 1.0, k == 1u || k == 4u || k == 5u), select(-1.0, 1.0, k == 2u || k == 3u || k == 5u));
  out.at = screen(vec2<f32>(own(SX, p), own(SY, p)) + side * half * covers, place.z);
  out.light = vec4<f32>(light / sum, 1.0);
  return out;
}
${fragments('Corner')}`;

/**
 * Sorts opaque copies by the form that each is drawn in, points last, into lists and the numbers that the
 * card draws them by. What is outside the frame is in no list.
 */
export const COPY_LISTS = /* wgsl */ `
${wgslConstants(WORDS.meshes)}
@group(0) @binding(0) var<storage, read_write> memory: array<u32>;
@group(0) @binding(1) var<uniform> params: array<vec4<i32>, ${QUADS}>;
@group(0) @binding(2) var<storage, read_write> calls: array<atomic<u32>>;
@group(0) @binding(3) var<storage, read_write> lists: array<u32>;
fn word(i: i32) -> i32 { return params[i >> 2][i & 3]; }
fn number(i: i32) -> f32 { return bitcast<f32>(word(i)); }
fn own(name: i32, p: i32) -> f32 { return bitcast<f32>(memory[word(name) + p]); }
@compute @workgroup_size(64) fn main(@builtin(global_invocation_id) id: vec3<u32>) {
  let i = i32(id.x + id.y * 65536u);
  let count = word(LEVEL_COUNT);
  if (i == 0) {
    for (var l = 0; l < count; l++) { atomicStore(&calls[4 * l], 3u * u32(word(LEVELS + 3 * l + 1))); }
    atomicStore(&calls[4 * count], 6u);
  }
  if (i >= word(ITEMS)) { return; }
  let half = vec2<f32>(own(EX, i), own(EY, i));
  let middle = vec2<f32>(own(SX, i), own(SY, i));
  let size = vec2<f32>(f32(word(WIDTH)), f32(word(HEIGHT)));
  if (!(half.x > 0.0) || any(middle + half < vec2<f32>(0.0)) || any(middle - half > size)) { return; }
  let pixels = 2.0 * max(half.x, half.y);
  var list = count - 1;
  loop {
    if (list <= 0 || number(LEVELS + 3 * list + 2) * pixels <= ${String(OFF_PIXELS)}) { break; }
    list -= 1;
  }
  if (pixels <= ${POINT_PIXELS.toFixed(1)}) { list = count; }
  let place = atomicAdd(&calls[4 * list + 1], 1u);
  lists[u32(list * word(ITEMS)) + place] = u32(i);
}
`;

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

/** What both drawings of links share. */
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
