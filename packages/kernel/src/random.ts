import type { Expr } from './graph';

/**
 * Random numbers without state: a hash of (particle id, purpose, seed), so that any particle's
 * numbers can be had again at any time, in any order, on any machine.
 */

/** Integer mixing with low bias. Source: C. Wellons, "Prospecting for hash functions", 2018. */
export function hash(x: Expr): Expr {
  let h = x;
  h = h.xor(h.shrU(16)).mul(0x7feb352d);
  h = h.xor(h.shrU(15)).mul(0x846ca68b | 0);
  return h.xor(h.shrU(16));
}

/** The same mixing in plain numbers; for the host. */
export function hashNumber(x: number): number {
  let h = x | 0;
  h = Math.imul(h ^ (h >>> 16), 0x7feb352d);
  h = Math.imul(h ^ (h >>> 15), 0x846ca68b);
  return (h ^ (h >>> 16)) | 0;
}

/** Uniform in [0, 1) on a grid of 2^-24, by a whole number; for the host. */
export function unitNumber(x: number): number {
  return (hashNumber(x) >>> 8) * 2 ** -24;
}

/** A key for a purpose, mixed with the seed on the host: FNV-1a over the text, then `hash`. */
export function randomKey(purpose: string, seed: number): number {
  let h = 0x811c9dc5 | 0;
  for (let i = 0; i < purpose.length; i++) h = Math.imul(h ^ purpose.charCodeAt(i), 0x01000193);
  return hashNumber(h ^ hashNumber(seed));
}

/** Uniform in [0, 1) on a grid of 2^-24; `key` is a randomKey. */
export function random(id: Expr, key: Expr): Expr {
  return hash(hash(id).xor(key))
    .shrU(8)
    .toFloat()
    .mul(2 ** -24);
}
