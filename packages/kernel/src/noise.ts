import type { Expr } from './graph';
import { Vec3 } from './vector';

/**
 * Gradient noise, its analytic gradient, fractal sums and curl noise.
 *
 * Lattice noise with quintic fade: K. Perlin, "Improving Noise", SIGGRAPH 2002. Its change with
 * time turns the lattice gradients: K. Perlin and F. Neyret, "Flow Noise", SIGGRAPH 2001 sketches;
 * here all gradients of a field turn about one axis of the lattice.
 */

/** Gradient components come from 10-bit fields of a hash: 0 to 1023, less the middle. */
const FIELD = 1023;
const MIDDLE = FIELD / 2;

interface Corner {
  value: Expr;
  gradient: Vec3;
}

/** Gradient components are spread evenly; the scale is put right once, at the end. */
function corner(h: Expr, d: Vec3, cosine: Expr, sine: Expr, axis: 'x' | 'z'): Corner {
  const part = (low: number): Expr => h.shrU(low).and(FIELD).toFloat().sub(MIDDLE);
  const [u, v, w] = [part(2), part(12), part(22)];
  const p = u.mul(cosine).sub(v.mul(sine));
  const q = u.mul(sine).add(v.mul(cosine));
  const gradient = axis === 'z' ? new Vec3(p, q, w) : new Vec3(w, p, q);
  return { value: gradient.dot(d), gradient };
}

function lerp(a: Expr, b: Expr, t: Expr): Expr {
  return a.add(b.sub(a).mul(t));
}

function blend(a: Corner, b: Corner, t: Expr, slope: Expr, axis: 'x' | 'y' | 'z'): Corner {
  const rise = b.value.sub(a.value);
  const parts = a.gradient.parts.map((p, i) => {
    const mixed = lerp(p, b.gradient.parts[i]!, t);
    return 'xyz'[i] === axis ? mixed.add(rise.mul(slope)) : mixed;
  });
  return {
    value: a.value.add(rise.mul(t)),
    gradient: new Vec3(parts[0]!, parts[1]!, parts[2]!),
  };
}

function gradientNoise(p: Vec3, seed: Expr, cosine: Expr, sine: Expr, axis: 'x' | 'z'): Expr[] {
  const cell = p.parts.map((c) => c.floor());
  const d0 = new Vec3(p.x.sub(cell[0]!), p.y.sub(cell[1]!), p.z.sub(cell[2]!));
  const fade = d0.parts.map((t) =>
    t
      .mul(t)
      .mul(t)
      .mul(t.mul(t.mul(6).sub(15)).add(10)),
  );
  const slope = d0.parts.map((t) =>
    t
      .mul(t)
      .mul(30)
      .mul(t.mul(t.sub(2)).add(1)),
  );
  const primes = [0x1b873593, 0x19d699a5, 0x27d4eb2d];
  const low = cell.map((c, i) => c.toInt().mul(primes[i]!));
  const high = low.map((v, i) => v.add(primes[i]!));
  const at = (i: number, j: number, k: number): Corner => {
    const mixed = (i ? high : low)[0]!
      .xor((j ? high : low)[1]!)
      .xor((k ? high : low)[2]!)
      .xor(seed);
    const h = mixed.xor(mixed.shrU(15)).mul(0x2c1b3c6d);
    const d = new Vec3(d0.x.sub(i), d0.y.sub(j), d0.z.sub(k));
    return corner(h.xor(h.shrU(14)), d, cosine, sine, axis);
  };
  const alongX = (j: number, k: number): Corner =>
    blend(at(0, j, k), at(1, j, k), fade[0]!, slope[0]!, 'x');
  const alongY = (k: number): Corner => blend(alongX(0, k), alongX(1, k), fade[1]!, slope[1]!, 'y');
  const out = blend(alongY(0), alongY(1), fade[2]!, slope[2]!, 'z');
  return [out.value, ...out.gradient.parts].map((e) => e.mul(1 / MIDDLE));
}

/** Place, seed, cosine and sine of the phase. */
const NOISE_PARAMS = ['f32', 'f32', 'f32', 'i32', 'f32', 'f32'] as const;

/** The turn of the lattice gradients as its cosine and sine. */
export interface Phase {
  cos: Expr;
  sin: Expr;
}

/**
 * Gradient noise at `p` (lattice of side 1): value about -1 to 1, and its exact gradient.
 * @param seed i32; different seeds give fields that have nothing to do with each other
 */
export function noise(p: Vec3, seed: Expr, phase: Phase): { value: Expr; gradient: Vec3 } {
  const g = p.x.graph;
  const fn = g.define('noise_', NOISE_PARAMS, (_, x, y, z, s, a, b) =>
    gradientNoise(new Vec3(x, y, z), s, a, b, 'z'),
  );
  const [value, dx, dy, dz] = fn(p.x, p.y, p.z, seed, phase.cos, phase.sin);
  return { value: value!, gradient: new Vec3(dx!, dy!, dz!) };
}

export interface Fractal {
  /** i32, the same for all lanes. */
  octaves: Expr;
  /** Amplitude of an octave against the one before it. */
  persistence: Expr;
}

/**
 * Sums octaves of a vector field: each at twice the frequency of the one before, amplitude times
 * `persistence`, then divided by the sum of the amplitudes.
 */
function fractal(
  p: Vec3,
  { octaves, persistence }: Fractal,
  field: (p: Vec3, turn: Expr) => Vec3,
): Vec3 {
  const g = p.x.graph;
  const zero = g.float(0);
  const start = [zero, zero, zero, g.float(1), g.float(1), zero];
  const [x, y, z, , , total] = g.loop(octaves, start, (turn, [sx, sy, sz, amp, freq, sum]) => {
    const f = field(p.scale(freq!), turn);
    return [
      sx!.add(f.x.mul(amp!)),
      sy!.add(f.y.mul(amp!)),
      sz!.add(f.z.mul(amp!)),
      amp!.mul(persistence),
      freq!.mul(2),
      sum!.add(amp!),
    ];
  });
  return new Vec3(x!, y!, z!).scale(g.float(1).div(total!.max(1e-6)));
}

/** Brings the root mean square of one octave of curl noise to 1 (measured in test/noise.test.ts). */
const CURL_SCALE = 1.668;

/**
 * Curl noise: the cross product of the gradients of two noise fields, which has no divergence,
 * since div(∇a × ∇b) = 0. Source: I. DeWolf, "Divergence-Free Noise", 2005; for its use on
 * particles R. Bridson, J. Houriham, M. Nordenstam, "Curl-Noise for Procedural Fluid Flow", 2007.
 * The root mean square of one octave is about 1.
 */
export function curlNoise(p: Vec3, seed: Expr, phase: Phase, sum: Fractal): Vec3 {
  // Both fields in one function share the lattice cell and the fade curves.
  const curl = p.x.graph.define('curl_', NOISE_PARAMS, (_, x, y, z, s, cos, sin) => {
    const q = new Vec3(x, y, z);
    const gradient = ([, dx, dy, dz]: Expr[]): Vec3 => new Vec3(dx!, dy!, dz!);
    const a = gradient(gradientNoise(q, s, cos, sin, 'z'));
    const b = gradient(gradientNoise(q, s.xor(0x5bd1e995), cos, sin, 'x'));
    return a.cross(b).scale(CURL_SCALE).parts;
  });
  return fractal(p, sum, (q, turn) => {
    const [x, y, z] = curl(...q.parts, seed.add(turn.mul(0x3c6ef372)), phase.cos, phase.sin);
    return new Vec3(x!, y!, z!);
  });
}

/** Brings the root mean square of one octave of vector noise to 1 (measured in test/noise.test.ts). */
const VECTOR_SCALE = 3.0173;

/**
 * Three fields of gradient noise, one a component; not free of divergence. The root mean square of one
 * octave is about 1.
 */
export function vectorNoise(p: Vec3, seed: Expr, phase: Phase, sum: Fractal): Vec3 {
  return fractal(p, sum, (q, turn) => {
    const s = seed.add(turn.mul(0x3c6ef372));
    const part = (salt: number): Expr => noise(q, s.xor(salt), phase).value.mul(VECTOR_SCALE);
    return new Vec3(part(0x68bc21eb), part(0x02e5be93), part(0x967a889b | 0));
  });
}
