import { decodeApng } from 'fast-png';
import { bytesOfPng, checkPngSize } from '../picture';
import { timesOf, type OpenClip } from './opened';

/** An animated PNG; all its pictures are unpacked. */
export function openApng(name: string, bytes: Uint8Array): OpenClip {
  checkPngSize(name, bytes);
  const image = decodeApng(bytes);
  const { width, height } = image;
  const seconds = image.frames.map(
    // A length of 0 is as short as can be; browsers make a tenth of a second of it.
    ({ delayNumber, delayDenominator }) => delayNumber / (delayDenominator || 100) || 0.1,
  );
  return {
    ...{ width, height, times: timesOf(seconds) },
    picture: (index) => ({
      ...{ type: 'picture', width, height },
      pixels: bytesOfPng({ ...image, data: image.frames[index]!.data }),
    }),
  };
}
