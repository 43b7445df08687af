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
  data: Uint8Array | Uint16Array,
): Uint8Array<ArrayBuffer> {
  goesOn('', 0, data.byteLength / SPEED);
  const png = encode({ width, height, data, channels: 3, depth }, { zlib: { level: 4 } });
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
  return srgbPng(width, height, 8, data);
}

/** Linear light, 0 to 1, as 16 bits of sRGB (IEC 61966-2-1); beyond it is cut. */
function srgb16(light: number): number {
  const inside = Math.min(1, Math.max(0, light));
  const value = inside <= 0.0031308 ? 12.92 * inside : 1.055 * inside ** (1 / 2.4) - 0.055;
  return Math.round(65535 * value);
}

/** A frame's light as a PNG file of 16 bits and three channels, in sRGB: fine enough to need no dither. */
export function encodePng16({ width, height, planes }: Light): Uint8Array<ArrayBuffer> {
  const data = new Uint16Array(width * height * 3);
  planes.forEach((plane, channel) => {
    for (let i = 0; i < plane.length; i++) data[3 * i + channel] = srgb16(plane[i]!);
  });
  return srgbPng(width, height, 16, data);
}
