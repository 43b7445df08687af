import { StockError } from '../error';
import type { Motion, Performer } from '../../types';

/** A motion of joints that all have finite places. */
export function motionOf(name: string, times: Float64Array, performers: Performer[]): Motion {
  for (const { name: who, joints, places } of performers) {
    const bad = places.findIndex((v) => !Number.isFinite(v));
    if (bad < 0) continue;
    const at = Math.floor(bad / 3);
    const joint = joints[at % joints.length]!.name;
    const sample = String(Math.floor(at / joints.length) + 1);
    throw new StockError(
      name,
      `joint '${joint}' of '${who}' has no finite place in frame ${sample}`,
    );
  }
  return { type: 'motion', times, performers };
}
