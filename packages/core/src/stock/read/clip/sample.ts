import type { Picture } from '../../types';
import { StockError } from '../error';
import { pictureOfPlanes, type Coding, type Planes } from './planes';

/** A picture as a decoder gives it: a VideoFrame of WebCodecs, or what a package makes of one. */
export interface DecodedSample {
  readonly format: string | null;
  readonly visibleRect: { readonly width: number; readonly height: number } | null;
  allocationSize: () => number;
  copyTo: (data: Uint8Array<ArrayBuffer>) => Promise<{ offset: number; stride: number }[]>;
}

/**
 * A decoded sample as all clips are read.
 * @throws StockError where it is coded in another way than 8 bits and 4:2:0
 */
export async function pictureOfSample(
  name: string,
  sample: DecodedSample,
  coding: Coding,
): Promise<Picture> {
  const data = new Uint8Array(sample.allocationSize());
  return pictureOfPlanes(await planesOf(name, sample, data), coding);
}

/**
 * The planes of brightness and colour of a sample, in `data`, which has room for `allocationSize` bytes.
 * @throws StockError where it is coded in another way than 8 bits and 4:2:0
 */
export async function planesOf(
  name: string,
  sample: DecodedSample,
  data: Uint8Array<ArrayBuffer>,
): Promise<Planes> {
  const { format, visibleRect } = sample;
  if (!visibleRect || (format !== 'I420' && format !== 'NV12')) {
    const why = `its pictures are coded as ${format ?? 'something unknown'}`;
    throw new StockError(name, `${why}; bring it as H.264, VP9 or AV1 with 8 bits and 4:2:0`);
  }
  const [y, u, v] = await sample.copyTo(data);
  const { width, height } = visibleRect;
  const planar = format === 'I420';
  return {
    width,
    height,
    luma: data.subarray(y!.offset),
    lumaStride: y!.stride,
    blue: data.subarray(u!.offset),
    red: data.subarray(planar ? v!.offset : u!.offset + 1),
    chromaStride: u!.stride,
    chromaStep: planar ? 1 : 2,
  };
}
