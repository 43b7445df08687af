import {
  packBy,
  stillBytes,
  STILLS,
  type Drawer,
  type Frame,
  type StillAsked,
} from '@vast-swarm/core/formats';
import { promisify } from 'node:util';
import { constants, deflate } from 'node:zlib';
import { complete } from './stamp';

const deflated = promisify<Uint8Array, { level: number; strategy: number }, Buffer>(deflate);

// Of differences only runs are worth looking for: as small as by a search, and several times as fast.
packBy((bytes) => deflated(bytes, { level: 1, strategy: constants.Z_RLE }));

/**
 * The file of the frame that an engine has drawn last.
 *
 * @param text that it says of itself, see stamp.ts
 */
export async function stillOf(
  asked: StillAsked,
  engine: Drawer,
  frame: Frame,
  text: string,
): Promise<Uint8Array> {
  const bytes = await stillBytes(asked, engine, frame, { comments: text });
  return complete(bytes, STILLS[asked.format]);
}
