import { PATTERNS } from '@vast-swarm/core/kinds';
import { wgslConstants } from '@vast-swarm/core/plan';
import { WORDS } from '../words';
import { DRAW_BINDINGS, fragments, SHADED, TURN } from './common';

/** Each pattern by its number, from the functions that both engines share. */
const PATTERN_CASES = PATTERNS.filter((kind) => kind !== 'pictures')
  .map(
    (kind) =>
      `case ${String(PATTERNS.indexOf(kind))}: { return pattern_${kind}(uv.x, uv.y, edge, n, 1.0 / n, i32(pick)).r0; }`,
  )
  .join('\n    ');

/** Discs. */
export const DISCS = /* wgsl */ `
${wgslConstants(WORDS.discs)}
${DRAW_BINDINGS}${SHADED}${TURN}
struct Corner {
  @builtin(position) at: vec4<f32>,
  /** In radii from the middle. */
  @location(0) @interpolate(linear, sample) spot: vec2<f32>,
  @location(1) @interpolate(flat) edge: f32,
  @location(2) @interpolate(flat) light: vec4<f32>,
}
@vertex fn corner(@builtin(vertex_index) vertex: u32) -> Corner {
  var out: Corner;
  let p = item(vertex / 6u);
  let r = own(SR, p);
  // A disc of radius 0 is not drawn: all its corners fall together outside.
  if (!(r > 0.0)) { out.at = NOWHERE; return out; }
  let way = turnOf(vertex) * (r + 0.5);
  out.spot = way / r;
  out.at = screen(vec2<f32>(own(SX, p), own(SY, p)) + way, own(DEPTH, p));
  out.edge = min(number(EDGE), max(1.0, r * 0.6 * finer()));
  out.light = vec4<f32>(own(CR, p), own(CG, p), own(CB, p), own(CA, p));
  return out;
}
fn shade(in: Corner) -> Shaded {
  return Shaded(in.light, edged(1.0 - dot(in.spot, in.spot), in.edge).r0);
}
${fragments('Corner')}`;

/** Marks: patterns and pictures. */
export const MARKS = /* wgsl */ `
${wgslConstants(WORDS.marks)}
${DRAW_BINDINGS}${SHADED}${TURN}
struct Corner {
  @builtin(position) at: vec4<f32>,
  @location(0) @interpolate(flat) centre: vec2<f32>,
  @location(1) @interpolate(flat) square: vec4<f32>,
  @location(2) @interpolate(flat) light: vec4<f32>,
  @location(3) @interpolate(flat) more: vec4<f32>,
  @location(4) @interpolate(linear, sample) spot: vec2<f32>,
}
@vertex fn corner(@builtin(vertex_index) vertex: u32) -> Corner {
  var out: Corner;
  let p = item(vertex / 6u);
  let bounds = vec2<f32>(own(EX, p), own(EY, p));
  if (!(bounds.x > 0.0 && bounds.y > 0.0)) { out.at = NOWHERE; return out; }
  out.centre = vec2<f32>(own(SX, p), own(SY, p));
  out.spot = out.centre + turnOf(vertex) * (bounds + 0.5);
  out.at = screen(out.spot, own(DEPTH, p));
  out.square = vec4<f32>(own(M0, p), own(M1, p), own(M2, p), own(M3, p));
  out.light = vec4<f32>(own(CR, p), own(CG, p), own(CB, p), own(CA, p));
  let round = clamp(0.6 * finer() * min(bounds.x, bounds.y), 1.0, 8.0);
  out.more = vec4<f32>(own(EDGE, p), own(BLUR, p), own(PICK, p), round);
  return out;
}
fn pattern(uv: vec2<f32>, edge: f32, pick: f32) -> f32 {
  let n = number(PARAM);
  switch (word(PATTERN)) {
    ${PATTERN_CASES}
    default: { return 1.0; }
  }
}
fn texel(frame: i32, x: i32, y: i32) -> vec4<f32> {
  if (x < 0 || y < 0 || x >= word(PICTURE_W) || y >= word(PICTURE_H)) { return vec4<f32>(0.0); }
  let at = frame + 4 * (y * word(PICTURE_W) + x);
  return vec4<f32>(value(at), value(at + 1), value(at + 2), value(at + 3));
}
fn picture(uv: vec2<f32>, pick: f32) -> vec4<f32> {
  let w = word(PICTURE_W);
  let h = word(PICTURE_H);
  let frame = word(PICTURE) + 4 * w * h * (i32(pick) % max(word(FRAMES), 1));
  let p = (uv * 0.5 + 0.5) * vec2<f32>(f32(w), f32(h)) - 0.5;
  let f = floor(p);
  let i = vec2<i32>(f);
  let t = p - f;
  let top = mix(texel(frame, i.x, i.y), texel(frame, i.x + 1, i.y), t.x);
  let low = mix(texel(frame, i.x, i.y + 1), texel(frame, i.x + 1, i.y + 1), t.x);
  return mix(top, low, t.y);
}
fn opening(a: vec2<f32>, edge: f32) -> f32 {
  let p = a * vec2<f32>(number(ASPECT_U), number(ASPECT));
  if (word(BLADES) < 3) { return edged(1.0 - dot(p, p), edge).r0; }
  var far = 0.0;
  for (var i = 0; i < word(BLADES); i++) {
    far = max(far, dot(p, vec2<f32>(number(FLATS + 2 * i), number(FLATS + 2 * i + 1))));
  }
  return edged(1.0 - far * far, edge).r0;
}
fn shade(in: Corner) -> Shaded {
  let d = spotOf(in.spot, in.at) - in.centre;
  let m = in.square;
  let uv = vec2<f32>(m.x * d.x + m.y * d.y, m.z * d.x + m.w * d.y);
  var out = Shaded(in.light, 0.0);
  if (word(PATTERN) == ${PATTERNS.indexOf('pictures')}) {
    let c = picture(uv, in.more.z);
    out.weight = c.a;
    out.light = vec4<f32>(in.light.rgb * c.rgb / max(c.a, 1e-4), in.light.a);
  } else {
    out.weight = pattern(uv, in.more.x, in.more.z);
  }
  let blur = in.more.y;
  if (word(BLADES) >= 0 && blur > 0.0) {
    let axis = m.xy / length(m.xy);
    let upright = vec2<f32>(uv.x * axis.x - uv.y * axis.y, uv.x * axis.y + uv.y * axis.x);
    out.weight = out.weight * (1.0 - blur) + blur * opening(upright, in.more.w);
  }
  return out;
}
${fragments('Corner')}`;
