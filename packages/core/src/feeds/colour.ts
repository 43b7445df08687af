/** Colours: '#rrggbb' as sRGB in files and in the interface, linear light inside. */

export type Rgb = [number, number, number];

/** One channel of sRGB (0 to 1) as linear light. Source: IEC 61966-2-1. */
export function toLinear(channel: number): number {
  return channel <= 0.04045 ? channel / 12.92 : ((channel + 0.055) / 1.055) ** 2.4;
}

/** Linear light (0 to 1) as one channel of sRGB. */
export function fromLinear(light: number): number {
  return light <= 0.0031308 ? light * 12.92 : 1.055 * light ** (1 / 2.4) - 0.055;
}

/** Each of the 256 values of a channel as linear light. */
export const LIGHT = Float64Array.from({ length: 256 }, (_, i) => toLinear(i / 255));

/** '#rrggbb' as linear light. */
export function linearRgb(hex: string): Rgb {
  const channel = (at: number): number => LIGHT[parseInt(hex.slice(at, at + 2), 16)]!;
  return [channel(1), channel(3), channel(5)];
}

/** Linear light as '#rrggbb', clipped to 0 to 1. */
export function hexOf(rgb: Rgb): string {
  const part = (light: number): string =>
    Math.round(fromLinear(Math.min(1, Math.max(0, light))) * 255)
      .toString(16)
      .padStart(2, '0');
  return `#${rgb.map(part).join('')}`;
}
