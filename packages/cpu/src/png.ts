import { encode } from 'fast-png';
import { goesOn } from '@vast-swarm/core';
import type { Frame, Light } from './engine';

/** Says that values are sRGB, for a picture of the perceptual kind (W3C, PNG, 11.3.2.5), with its length and its sum. */
const SRGB = [0, 0, 0, 1, 0x73, 0x52, 0x47, 0x42, 0, 0xae, 0xce, 0x1c, 0xe9];
/** Bytes of the signature and the head, behind which it stands. */
const HEAD = 33;
/** Bytes a second that are packed on a slow machine at least; nothing is said on the way. */
const SPEED = 10e6;

function srgbPng(
  width: number,
  height: number,
  depth: 8 | 16,
  channels: 3 | 4,
  data: Uint8Array | Uint16Array,
): Uint8Array<ArrayBuffer> {
  goesOn('', 0, data.byteLength / SPEED);
  const png = encode({ width, height, data, channels, depth }, { zlib: { level: 4 } });
  const file = new Uint8Array(png.length + SRGB.length);
  file.set(png.subarray(0, HEAD));
  file.set(SRGB, HEAD);
  file.set(png.subarray(HEAD), HEAD + SRGB.length);
  return file;
}

/** A frame as a PNG file of 8 bits and three channels, in sRGB. */
export function encodePng({ width, height, pixels }: Frame): Uint8Array<ArrayBuffer> {
  const data = new Uint8Array(width * height * 3);
  for (let i = 0, o = 0; o < data.length; i += 4, o += 3) {
    data[o] = pixels[i]!;
    data[o + 1] = pixels[i + 1]!;
    data[o + 2] = pixels[i + 2]!;
  }
  return srgbPng(width, height, 8, 3, data);
}

/** Linear light, 0 to 1, as sRGB (IEC 61966-2-1), 0 to 1; beyond it is cut. */
function srgb(light: number): number {
  const inside = Math.min(1, Math.max(0, light));
  return inside <= 0.0031308 ? 12.92 * inside : 1.055 * inside ** (1 / 2.4) - 0.055;
}

/** What stands in a PNG for a pixel: colours that are not multiplied by how much they cover. */
function apart(r: number, g: number, b: number, cover: number): [number, number, number, number] {
  // Light that covers nothing could not be seen at all: it covers as much as it is bright.
  const alpha = Math.min(1, Math.max(cover, r, g, b));
  const part = (v: number): number => (alpha > 0 ? srgb(v / alpha) : 0);
  return [part(r), part(g), part(b), alpha];
}

/**
 * A frame's light in sRGB, pixel by pixel: in 16 bits it is fine enough to need no dither. Where there is no backdrop
 * it has a fourth channel, and colours that are not multiplied by it.
 */
export function samplesOf(
  { planes, cover }: Light,
  depth: 8 | 16,
): { channels: 3 | 4; data: Uint8Array | Uint16Array } {
  const [red, green, blue] = planes;
  const channels = cover ? 4 : 3;
  const most = 2 ** depth - 1;
  const data = new (depth === 8 ? Uint8Array : Uint16Array)(red.length * channels);
  for (let i = 0, o = 0; i < red.length; i++, o += channels) {
    const [r, g, b] = [red[i]!, green[i]!, blue[i]!];
    const values = cover ? apart(r, g, b, cover[i]!) : [srgb(r), srgb(g), srgb(b)];
    for (let c = 0; c < channels; c++) data[o + c] = Math.round(most * values[c]!);
  }
  return { channels, data };
}

/** A frame's light as a PNG file in sRGB (W3C, PNG, 4.4.1). */
export function encodeLight(light: Light, depth: 8 | 16): Uint8Array<ArrayBuffer> {
  const { channels, data } = samplesOf(light, depth);
  return srgbPng(light.width, light.height, depth, channels, data);
}
