// Marks into planes of linear light: patterns and pictures, turned, stretched and out of focus.

import { arg, argF, own } from './args';
import { Marks, Mode, Pattern, Tiles } from './generated/words';
import { blend, cover, unhidden } from './blend';
import { CLOSING, isHidden, openBlocks } from './hidden';
import { farToNear, nearToFar } from './order';
import { aperture } from './aperture';
import { beatAt } from './beat';
import {
  pattern_disc,
  pattern_puff,
  pattern_ring,
  pattern_spark,
  pattern_square,
} from './generated/shapes';

/** One pixel of a picture: red, green, blue, opacity, light multiplied by opacity; none outside. */
// @inline
function texel(frame: usize, w: i32, h: i32, x: i32, y: i32): v128 {
  if (x < 0 || y < 0 || x >= w || y >= h) return f32x4.splat(0);
  return v128.load(frame + ((<usize>(y * w + x)) << 4));
}

/** A picture at one place, straight between its pixels. */
// @inline
function sample(frame: usize, w: i32, h: i32, u: f32, v: f32): v128 {
  const x = (u * 0.5 + 0.5) * <f32>w - 0.5;
  const y = (v * 0.5 + 0.5) * <f32>h - 0.5;
  const fx = Mathf.floor(x);
  const fy = Mathf.floor(y);
  const ix = <i32>fx;
  const iy = <i32>fy;
  const tx = f32x4.splat(x - fx);
  const ty = f32x4.splat(y - fy);
  const a = texel(frame, w, h, ix, iy);
  const b = texel(frame, w, h, ix + 1, iy);
  const c = texel(frame, w, h, ix, iy + 1);
  const d = texel(frame, w, h, ix + 1, iy + 1);
  const top = f32x4.add(a, f32x4.mul(f32x4.sub(b, a), tx));
  const low = f32x4.add(c, f32x4.mul(f32x4.sub(d, c), tx));
  return f32x4.add(top, f32x4.mul(f32x4.sub(low, top), ty));
}

// @inline
function pattern(
  kind: i32,
  u: v128,
  v: v128,
  edge: v128,
  param: v128,
  inverse: v128,
  pick: v128,
): v128 {
  if (kind == Pattern.DISC) return pattern_disc(u, v, edge, param, inverse, pick);
  if (kind == Pattern.RING) return pattern_ring(u, v, edge, param, inverse, pick);
  if (kind == Pattern.SQUARE) return pattern_square(u, v, edge, param, inverse, pick);
  if (kind == Pattern.SPARK) return pattern_spark(u, v, edge, param, inverse, pick);
  return pattern_puff(u, v, edge, param, inverse, pick);
}

// @inline
function marks(
  mode: i32,
  kind: i32,
  args: usize,
  order: usize,
  n: i32,
  x0: i32,
  y0: i32,
  thread: i32,
): void {
  const x1 = min(x0 + arg(args, Tiles.SPAN_W), arg(args, Tiles.WIDTH));
  const y1 = min(y0 + arg(args, Tiles.SPAN_H), arg(args, Tiles.HEIGHT));
  const stride = arg(args, Tiles.STRIDE);
  const red = <usize>arg(args, Tiles.PLANE);
  const green = <usize>arg(args, Tiles.PLANE + 1);
  const blue = <usize>arg(args, Tiles.PLANE + 2);
  const nearest = <usize>arg(args, Tiles.NEAREST);
  const soft = f32x4.splat(argF(args, Tiles.SOFT));
  const closed = mode == Mode.OPAQUE ? openBlocks(args, thread) : 0;
  const scale = argF(args, Tiles.SCALE);
  const finer: f32 = 1 / scale;
  const w = arg(args, Marks.PICTURE_W);
  const h = arg(args, Marks.PICTURE_H);
  const frames = arg(args, Marks.FRAMES);
  const measured = arg(args, Marks.MEASURED) != 0;
  const lens = arg(args, Marks.BLADES) >= 0;
  const param = f32x4.splat(argF(args, Marks.PARAM));
  const inverse = f32x4.splat(1 / argF(args, Marks.PARAM));
  const one = f32x4.splat(1);
  const steps = f32x4(0.5, 1.5, 2.5, 3.5);
  for (let k = 0; k < n; k++) {
    beatAt(k);
    const i = load<i32>(order + ((<usize>k) << 2));
    const x = own(args, Marks.SX, i) * scale;
    const y = own(args, Marks.SY, i) * scale;
    const ex = own(args, Marks.EX, i) * scale;
    const ey = own(args, Marks.EY, i) * scale;
    const m0 = own(args, Marks.M0, i) * finer;
    const m1 = own(args, Marks.M1, i) * finer;
    const m2 = own(args, Marks.M2, i) * finer;
    const m3 = own(args, Marks.M3, i) * finer;
    const edge = f32x4.splat(own(args, Marks.EDGE, i));
    const blur = lens ? own(args, Marks.BLUR, i) : 0;
    const pick = <i32>own(args, Marks.PICK, i);
    const vr = f32x4.splat(own(args, Marks.CR, i));
    const vg = f32x4.splat(own(args, Marks.CG, i));
    const vb = f32x4.splat(own(args, Marks.CB, i));
    const va = f32x4.splat(own(args, Marks.CA, i));
    const vz = f32x4.splat(own(args, Marks.DEPTH, i));
    // Turns the mark's square back upright, for the opening of the lens stands upright.
    const length: f32 = sqrt<f32>(m0 * m0 + m1 * m1);
    const cos = f32x4.splat(m0 / length);
    const sin = f32x4.splat(m1 / length);
    const out = f32x4.splat(blur);
    const sharp = f32x4.splat(1 - blur);
    const round = f32x4.splat(min(<f32>8, max(<f32>1, 0.6 * min(ex, ey))));
    const frame = <usize>arg(args, Marks.PICTURE) + ((<usize>(pick % max(frames, 1)) * w * h) << 4);
    const from = max(x0, <i32>max(<f32>0, x - ex)) & ~3;
    const to = min(x1 - 1, <i32>(x + ex));
    const top = max(y0, <i32>max(<f32>0, y - ey));
    const bottom = min(y1 - 1, <i32>(y + ey));
    if (mode == Mode.OPAQUE) {
      if (to < from || bottom < top) continue;
      const front = own(args, Marks.DEPTH, i);
      if (isHidden(args, closed, front, from, top, to, bottom, x0, y0, (k & CLOSING) == 0))
        continue;
    }
    for (let row = top; row <= bottom; row++) {
      const dy = <f32>row + 0.5 - y;
      const uy = f32x4.splat(dy * m1);
      const vy = f32x4.splat(dy * m3);
      const line = (<usize>(row * stride)) << 2;
      for (let column = from; column <= to; column += 4) {
        const dx = f32x4.add(f32x4.splat(<f32>column - x), steps);
        const u = f32x4.add(f32x4.mul(dx, f32x4.splat(m0)), uy);
        const v = f32x4.add(f32x4.mul(dx, f32x4.splat(m2)), vy);
        let cr = vr;
        let cg = vg;
        let cb = vb;
        let weight: v128;
        if (kind == Pattern.PICTURES) {
          // Four places, then their channels apart.
          const a = sample(frame, w, h, f32x4.extract_lane(u, 0), f32x4.extract_lane(v, 0));
          const b = sample(frame, w, h, f32x4.extract_lane(u, 1), f32x4.extract_lane(v, 1));
          const c = sample(frame, w, h, f32x4.extract_lane(u, 2), f32x4.extract_lane(v, 2));
          const d = sample(frame, w, h, f32x4.extract_lane(u, 3), f32x4.extract_lane(v, 3));
          const ab = v128.shuffle<f32>(a, b, 0, 4, 1, 5);
          const cd = v128.shuffle<f32>(c, d, 0, 4, 1, 5);
          const ab2 = v128.shuffle<f32>(a, b, 2, 6, 3, 7);
          const cd2 = v128.shuffle<f32>(c, d, 2, 6, 3, 7);
          weight = v128.shuffle<f32>(ab2, cd2, 2, 3, 6, 7);
          // Light without its opacity, which comes again with the weight.
          if (!measured) {
            const over = f32x4.div(one, f32x4.pmax(weight, f32x4.splat(1e-4)));
            cr = f32x4.mul(cr, f32x4.mul(v128.shuffle<f32>(ab, cd, 0, 1, 4, 5), over));
            cg = f32x4.mul(cg, f32x4.mul(v128.shuffle<f32>(ab, cd, 2, 3, 6, 7), over));
            cb = f32x4.mul(cb, f32x4.mul(v128.shuffle<f32>(ab2, cd2, 0, 1, 4, 5), over));
          }
        } else {
          weight = pattern(kind, u, v, edge, param, inverse, i32x4.splat(pick));
        }
        if (blur > 0) {
          const au = f32x4.sub(f32x4.mul(u, cos), f32x4.mul(v, sin));
          const av = f32x4.add(f32x4.mul(u, sin), f32x4.mul(v, cos));
          const lit = f32x4.mul(aperture(args, au, av, round), out);
          weight = f32x4.add(f32x4.mul(weight, sharp), lit);
        }
        const at = line + ((<usize>column) << 2);
        if (mode == Mode.OPAQUE) {
          const before = f32x4.lt(vz, v128.load(nearest + at));
          const mask = v128.and(before, f32x4.ge(weight, f32x4.splat(0.5)));
          cover(red + at, green + at, blue + at, nearest + at, mask, vz, cr, cg, cb);
          continue;
        }
        if (nearest) weight = unhidden(weight, v128.load(nearest + at), vz, soft);
        blend(mode, red + at, weight, cr, va);
        blend(mode, green + at, weight, cg, va);
        blend(mode, blue + at, weight, cb, va);
      }
    }
  }
}

// @inline
function ofKind(
  mode: i32,
  kind: i32,
  args: usize,
  order: usize,
  n: i32,
  x: i32,
  y: i32,
  thread: i32,
): void {
  if (kind == Pattern.DISC) marks(mode, Pattern.DISC, args, order, n, x, y, thread);
  else if (kind == Pattern.RING) marks(mode, Pattern.RING, args, order, n, x, y, thread);
  else if (kind == Pattern.SQUARE) marks(mode, Pattern.SQUARE, args, order, n, x, y, thread);
  else if (kind == Pattern.SPARK) marks(mode, Pattern.SPARK, args, order, n, x, y, thread);
  else if (kind == Pattern.PUFF) marks(mode, Pattern.PUFF, args, order, n, x, y, thread);
  else marks(mode, Pattern.PICTURES, args, order, n, x, y, thread);
}

/** Draws the marks of one tile: `n` numbers of its list from `begin` on. */
export function drawMarks(args: usize, begin: i32, n: i32, x: i32, y: i32, thread: i32): void {
  const list = <usize>arg(args, Tiles.LIST) + ((<usize>begin) << 2);
  const mode = arg(args, Tiles.MODE);
  const kind = arg(args, Marks.PATTERN);
  if (mode == Mode.NORMAL) {
    farToNear(args, list, begin, n, <usize>arg(args, Marks.DEPTH), 4, thread);
    ofKind(Mode.NORMAL, kind, args, list, n, x, y, thread);
  } else if (mode == Mode.ADD) ofKind(Mode.ADD, kind, args, list, n, x, y, thread);
  else if (mode == Mode.SCREEN) ofKind(Mode.SCREEN, kind, args, list, n, x, y, thread);
  else if (mode == Mode.MULTIPLY) ofKind(Mode.MULTIPLY, kind, args, list, n, x, y, thread);
  else if (mode == Mode.LIGHTEN) ofKind(Mode.LIGHTEN, kind, args, list, n, x, y, thread);
  else {
    // What is hidden by what is nearer is not drawn.
    nearToFar(args, list, begin, n, <usize>arg(args, Marks.DEPTH), 4, thread);
    ofKind(Mode.OPAQUE, kind, args, list, n, x, y, thread);
  }
}
