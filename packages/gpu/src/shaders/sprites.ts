import { DRAW_BINDINGS, fragments, SHADED } from './common';

/** Two triangles over a rectangle: its corner by the number of the vertex, -1 or 1. */
const TURN = /* wgsl */ `
fn turnOf(vertex: u32) -> vec2<f32> {
  let turn = vertex % 6u;
  return vec2<f32>(
    select(-1.0, 1.0, turn == 1u || turn == 2u || turn == 4u),
    select(-1.0, 1.0, turn == 2u || turn == 4u || turn == 5u),
  );
}
`;

/** Discs: words 8 to 15 arrays as DISC, 16 edge. */
export const DISCS = /* wgsl */ `
${DRAW_BINDINGS}${SHADED}${TURN}
struct Corner {
  @builtin(position) at: vec4<f32>,
  @location(0) @interpolate(flat) centre: vec2<f32>,
  @location(1) @interpolate(flat) shape: vec2<f32>,
  @location(2) @interpolate(flat) light: vec4<f32>,
}
@vertex fn corner(@builtin(vertex_index) vertex: u32) -> Corner {
  var out: Corner;
  let p = item(vertex / 6u);
  let r = own(10, p);
  // A disc of radius 0 is not drawn: all its corners fall together outside.
  if (!(r > 0.0)) { out.at = NOWHERE; return out; }
  out.centre = vec2<f32>(own(8, p), own(9, p));
  out.at = screen(out.centre + turnOf(vertex) * (r + 0.5), own(15, p));
  out.shape = vec2<f32>(1.0 / (r * r), min(number(16), max(1.0, r * 0.6)));
  out.light = vec4<f32>(own(11, p), own(12, p), own(13, p), own(14, p));
  return out;
}
fn shade(in: Corner) -> Shaded {
  let d = in.at.xy - in.centre;
  return Shaded(in.light, edged(1.0 - dot(d, d) * in.shape.x, in.shape.y));
}
${fragments('Corner')}`;

/**
 * Marks, as the CPU engine's marks.ts and patterns.ts draw them: words 8 to 23 arrays as MARK, 24
 * pattern, 25 its number, 26 blades (below 0: no lens), 27 and 28 how much lower and narrower the
 * opening is, 29 pictures, 30 to 32 their width, height and number, 34 to 51 flats.
 */
export const MARKS = /* wgsl */ `
${DRAW_BINDINGS}${SHADED}${TURN}
struct Corner {
  @builtin(position) at: vec4<f32>,
  @location(0) @interpolate(flat) centre: vec2<f32>,
  @location(1) @interpolate(flat) square: vec4<f32>,
  @location(2) @interpolate(flat) light: vec4<f32>,
  @location(3) @interpolate(flat) more: vec4<f32>,
}
@vertex fn corner(@builtin(vertex_index) vertex: u32) -> Corner {
  var out: Corner;
  let p = item(vertex / 6u);
  let bounds = vec2<f32>(own(10, p), own(11, p));
  if (!(bounds.x > 0.0 && bounds.y > 0.0)) { out.at = NOWHERE; return out; }
  out.centre = vec2<f32>(own(8, p), own(9, p));
  out.at = screen(out.centre + turnOf(vertex) * (bounds + 0.5), own(16, p));
  out.square = vec4<f32>(own(17, p), own(18, p), own(19, p), own(20, p));
  out.light = vec4<f32>(own(12, p), own(13, p), own(14, p), own(15, p));
  let round = clamp(0.6 * min(bounds.x, bounds.y), 1.0, 8.0);
  out.more = vec4<f32>(own(21, p), own(22, p), own(23, p), round);
  return out;
}
fn latticeNoise(x: i32, y: i32, seed: i32) -> f32 {
  var h = (u32(x) * 0x9e3779b1u) ^ (u32(y) * 0x85ebca6bu);
  h = h + u32(seed);
  h = (h ^ (h >> 16u)) * 0x85ebca6bu;
  h = (h ^ (h >> 13u)) * 0xc2b2ae35u;
  h = h ^ (h >> 16u);
  return f32(h >> 8u) * 5.9604644775390625e-8;
}
fn smoothNoise(p: vec2<f32>, seed: i32) -> f32 {
  let f = floor(p);
  let i = vec2<i32>(f);
  let t = (p - f) * (p - f) * (3.0 - 2.0 * (p - f));
  let top = mix(latticeNoise(i.x, i.y, seed), latticeNoise(i.x + 1, i.y, seed), t.x);
  let low = mix(latticeNoise(i.x, i.y + 1, seed), latticeNoise(i.x + 1, i.y + 1, seed), t.x);
  return mix(top, low, t.y);
}
fn pattern(uv: vec2<f32>, edge: f32, pick: f32) -> f32 {
  let n = number(25);
  switch (word(24)) {
    case 0: { return edged(1.0 - dot(uv, uv), edge); }
    case 1: {
      let at = (length(uv) - (1.0 - n)) / n;
      return edged(1.0 - at * at, edge);
    }
    case 2: { return edged(1.0 - uv.x * uv.x, edge) * edged(1.0 - uv.y * uv.y, edge); }
    case 3: {
      let a = abs(uv);
      return edged(1.0 - (a.x + a.y + n * sqrt(a.x * a.y)), edge);
    }
    default: {
      let seed = i32(pick);
      let noise = 1.3 * smoothNoise(uv * n, seed) + 0.7 * smoothNoise(uv * (2.3 * n), seed + 7);
      return edged(1.0 - dot(uv, uv), edge) * noise * noise;
    }
  }
}
fn texel(frame: i32, x: i32, y: i32) -> vec4<f32> {
  if (x < 0 || y < 0 || x >= word(30) || y >= word(31)) { return vec4<f32>(0.0); }
  let at = frame + 4 * (y * word(30) + x);
  return vec4<f32>(value(at), value(at + 1), value(at + 2), value(at + 3));
}
fn picture(uv: vec2<f32>, pick: f32) -> vec4<f32> {
  let w = word(30);
  let h = word(31);
  let frame = word(29) + 4 * w * h * (i32(pick) % max(word(32), 1));
  let p = (uv * 0.5 + 0.5) * vec2<f32>(f32(w), f32(h)) - 0.5;
  let f = floor(p);
  let i = vec2<i32>(f);
  let t = p - f;
  let top = mix(texel(frame, i.x, i.y), texel(frame, i.x + 1, i.y), t.x);
  let low = mix(texel(frame, i.x, i.y + 1), texel(frame, i.x + 1, i.y + 1), t.x);
  return mix(top, low, t.y);
}
fn opening(a: vec2<f32>, edge: f32) -> f32 {
  let p = a * vec2<f32>(number(28), number(27));
  if (word(26) < 3) { return edged(1.0 - dot(p, p), edge); }
  var far = 0.0;
  for (var i = 0; i < word(26); i++) {
    far = max(far, dot(p, vec2<f32>(number(34 + 2 * i), number(35 + 2 * i))));
  }
  return edged(1.0 - far * far, edge);
}
fn shade(in: Corner) -> Shaded {
  let d = in.at.xy - in.centre;
  let m = in.square;
  let uv = vec2<f32>(m.x * d.x + m.y * d.y, m.z * d.x + m.w * d.y);
  var out = Shaded(in.light, 0.0);
  if (word(24) == 5) {
    let c = picture(uv, in.more.z);
    out.weight = c.a;
    out.light = vec4<f32>(in.light.rgb * c.rgb / max(c.a, 1e-4), in.light.a);
  } else {
    out.weight = pattern(uv, in.more.x, in.more.z);
  }
  let blur = in.more.y;
  if (word(26) >= 0 && blur > 0.0) {
    let axis = m.xy / length(m.xy);
    let upright = vec2<f32>(uv.x * axis.x - uv.y * axis.y, uv.x * axis.y + uv.y * axis.x);
    out.weight = out.weight * (1.0 - blur) + blur * opening(upright, in.more.w);
  }
  return out;
}
${fragments('Corner')}`;
