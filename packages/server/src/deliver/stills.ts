import { stillBytes, type CpuEngine, type Frame, type StillAsked } from '@vast-swarm/cpu';
import { complete, completePng } from './stamp';

/**
 * The file of the frame that an engine has drawn last.
 *
 * @param text that it says of itself, see stamp.ts
 */
export function stillOf(
  asked: StillAsked,
  engine: CpuEngine,
  frame: Frame,
  text: string,
): Uint8Array {
  const bytes = stillBytes(asked, engine, frame, { comments: text });
  return asked.format === 'exr' ? complete(bytes) : completePng(bytes, text);
}
