/**
 * Frames a second as a fraction, as files of video and film have them: 23.976, 29.97 and 59.94 are 24, 30 and 60 over
 * 1.001 (SMPTE ST 12-1).
 */
export function rateAsFraction(rate: number): [frames: number, seconds: number] {
  if (Number.isInteger(rate)) return [rate, 1];
  const slowed = Math.round(rate * 1.001);
  if (Math.abs(slowed / 1.001 - rate) < 5e-4) return [1000 * slowed, 1001];
  return [Math.round(rate * 1000), 1000];
}
