import { z } from '../zod';

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

/** The rate that is meant by one that was typed with a few digits: 29.97 is 30000 / 1001. */
export function exactRate(rate: number): number {
  const [frames, seconds] = rateAsFraction(rate);
  return frames / seconds;
}

/** A rate as it stands in a file: a whole number, or a fraction as `30000/1001`. */
export function rateText(rate: number): number | string {
  const [frames, seconds] = rateAsFraction(rate);
  return seconds === 1 ? frames : `${String(frames)}/${String(seconds)}`;
}

const limited = z.number().min(1).max(240);
const error = "is a number from 1 to 240, or a fraction as '30000/1001'";

function ofText(text: string): number {
  const [frames, seconds] = text.split('/').map(Number);
  return frames! / seconds!;
}

/** Frames a second in a piece file: a number, or whole frames in whole seconds. */
export const rateSchema: z.ZodType<number> = z
  .union(
    [
      limited,
      z
        .string()
        .regex(/^[1-9]\d{0,6}\/[1-9]\d{0,6}$/, error)
        .transform(ofText),
    ],
    { error },
  )
  .transform((rate) => exactRate(rate))
  .pipe(limited);
