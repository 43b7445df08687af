import type { Sound } from '../stock/types';

const HEAD = 44;

/** A sound as a WAV file: 16 bits, its rate, its channels in turn (Microsoft and IBM, "RIFF MCI", 1991). */
export function wavBytes({ rate, channels }: Sound): Uint8Array<ArrayBuffer> {
  const { length } = channels[0]!;
  const frame = 2 * channels.length;
  const view = new DataView(new ArrayBuffer(HEAD + frame * length));
  const word = (at: number, text: string): void => {
    for (let i = 0; i < 4; i++) view.setUint8(at + i, text.charCodeAt(i));
  };
  word(0, 'RIFF');
  view.setUint32(4, HEAD - 8 + frame * length, true);
  word(8, 'WAVE');
  word(12, 'fmt ');
  view.setUint32(16, 16, true);
  view.setUint16(20, 1, true);
  view.setUint16(22, channels.length, true);
  view.setUint32(24, rate, true);
  view.setUint32(28, rate * frame, true);
  view.setUint16(32, frame, true);
  view.setUint16(34, 16, true);
  word(36, 'data');
  view.setUint32(40, frame * length, true);
  channels.forEach((channel, c) => {
    for (let i = 0; i < length; i++) view.setInt16(HEAD + i * frame + 2 * c, channel[i]!, true);
  });
  return new Uint8Array(view.buffer);
}
