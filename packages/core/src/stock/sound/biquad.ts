/**
 * A filter of the second order in transposed direct form II: y = b0 x + s1, then s1 = b1 x - a1 y + s2,
 * s2 = b2 x - a2 y.
 */
export interface Biquad {
  b0: number;
  b1: number;
  b2: number;
  a1: number;
  a2: number;
}

/** Qualities of the two halves of a Butterworth filter of the fourth order (S. Butterworth, 1930). */
const HALVES = [1 / (2 * Math.cos(Math.PI / 8)), 1 / (2 * Math.cos((3 * Math.PI) / 8))];

/**
 * One half of a low or high pass by the bilinear transform, exact at its cut (R. Bristow-Johnson, "Cookbook
 * formulae for audio EQ biquad filter coefficients").
 */
function half(pass: 'low' | 'high', cut: number, rate: number, quality: number): Biquad {
  const w = (2 * Math.PI * cut) / rate;
  const [cos, alpha] = [Math.cos(w), Math.sin(w) / (2 * quality)];
  const a0 = 1 + alpha;
  const side = pass === 'low' ? 1 - cos : 1 + cos;
  return {
    b0: side / 2 / a0,
    b1: (pass === 'low' ? side : -side) / a0,
    b2: side / 2 / a0,
    a1: (-2 * cos) / a0,
    a2: (1 - alpha) / a0,
  };
}

/**
 * A band filter between two frequencies: a Butterworth high pass and low pass of the fourth
 * order each, 24 dB an octave beyond the cuts and 3 dB down at them. A cut that is out of hearing, or of what
 * the rate can hold, is left out.
 *
 * @param low Hz; 20 and below lets all through
 * @param high Hz; 20,000 and above, or 0.49 of the rate, lets all through
 */
export function bandFilter(low: number, high: number, rate: number): Biquad[] {
  const top = 0.49 * rate;
  const lows = low > 20 ? HALVES.map((q) => half('high', Math.min(low, top), rate, q)) : [];
  const highs = high < 20_000 && high < top ? HALVES.map((q) => half('low', high, rate, q)) : [];
  return [...lows, ...highs];
}

/** How much a chain of filters leaves of a frequency: |H(f)|. */
export function responseAt(filters: readonly Biquad[], frequency: number, rate: number): number {
  const w = (2 * Math.PI * frequency) / rate;
  // |c0 + c1 z⁻¹ + c2 z⁻²| on the unit circle.
  const size = (c0: number, c1: number, c2: number): number =>
    Math.hypot(
      c0 + c1 * Math.cos(w) + c2 * Math.cos(2 * w),
      c1 * Math.sin(w) + c2 * Math.sin(2 * w),
    );
  return filters.reduce(
    (all, { b0, b1, b2, a1, a2 }) => (all * size(b0, b1, b2)) / size(1, a1, a2),
    1,
  );
}
