import { OFF_PIXELS, POINT_PIXELS, wgslConstants } from '@vast-swarm/core/plan';
import { QUADS, WORDS } from '../words';
import { DRAW_BINDINGS, fragments, SHADED, TURN } from './common';

/** The shaders of mesh copies. */

/** Copies of a mesh, placed and lit as in the CPU engine's meshes.ts. */
export const MESH_BODY = /* wgsl */ `
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
export const POINTS = /* wgsl */ `${MESH_HEAD}${TURN}
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
  out.at = screen(vec2<f32>(own(SX, p), own(SY, p)) + turnOf(vertex) * half * covers, place.z);
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
