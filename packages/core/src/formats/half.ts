const float = new Float32Array(1);
const bits = new Int32Array(float.buffer);

/** A number in half precision, from its own bits in single precision. */
function halfOfBits(word: number, value: number): number {
  const sign = (word >>> 16) & 0x8000;
  const size = word & 0x7fffffff;
  if (size >= 0x7f800000) return sign | (size > 0x7f800000 ? 0x7e00 : 0x7c00);
  // The smallest that has its own power of two; below, all have the same.
  if (size < 0x38800000) {
    const parts = Math.abs(value) * 2 ** 24;
    const low = Math.floor(parts);
    const rest = parts - low;
    return sign | (rest > 0.5 || (rest === 0.5 && low % 2 === 1) ? low + 1 : low);
  }
  const rounded = size + 0xfff + ((size >>> 13) & 1);
  return sign | Math.min(0x7c00, (rounded - 0x38000000) >>> 13);
}

/**
 * A number of half precision (IEEE 754-2008, binary16) as its bits: rounded to the nearest, to the even one of two that
 * are as near; what is too large is infinite.
 */
export function halfOf(value: number): number {
  float[0] = value;
  return halfOfBits(bits[0]!, value);
}

/** Writes numbers in half precision, low byte first. */
export function putHalves(values: Float32Array, to: Uint8Array, at: number): void {
  const words = new Int32Array(values.buffer, values.byteOffset, values.length);
  for (let i = 0; i < words.length; i++) {
    const half = halfOfBits(words[i]!, values[i]!);
    to[at++] = half & 0xff;
    to[at++] = half >>> 8;
  }
}

/** The number that bits of half precision stand for. */
export function ofHalf(half: number): number {
  const sign = half & 0x8000 ? -1 : 1;
  const power = (half >> 10) & 31;
  const part = half & 0x3ff;
  if (power === 31) return part ? NaN : sign * Infinity;
  return sign * (power === 0 ? part * 2 ** -24 : (1024 + part) * 2 ** (power - 25));
}
