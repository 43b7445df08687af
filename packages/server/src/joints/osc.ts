import type { OscMessageOutput } from 'osc-min';
import { posesOf, type SentPose } from '@vast-swarm/core/formats';
import type { TimedMessage } from '../oscMessages';

/**
 * The poses in messages of Open Sound Control 1.0: `/performer/<who>/joint/<name>` with x, y, z in metres, y up, and
 * `/performer/<who>/bone/<joint>` with the name of the joint it hangs on. What stands in one bundle is one pose, at the
 * time of its tag. `_` in an address is a space.
 *
 * @throws Error that says what is wrong, and where
 */
export function posesOfMessages(messages: readonly TimedMessage[]): SentPose[] {
  const poses = new Map<string, SentPose>();
  for (const { message, time } of messages) {
    const [, performer, what, joint] = addressOf(message);
    const key = `${performer!} ${String(time)}`;
    const pose = poses.get(key) ?? { performer: performer!, time, joints: {}, bones: {} };
    poses.set(key, pose);
    const values = message.args.map((arg) => ('value' in arg ? arg.value : null));
    if (what === 'joint') pose.joints[joint!] = values as [number, number, number];
    else pose.bones[joint!] = values[0] as string;
  }
  return posesOf([...poses.values()]);
}

function addressOf({ address }: OscMessageOutput): string[] {
  const parts = /^\/performer\/([^/]+)\/(joint|bone)\/([^/]+)$/.exec(address);
  if (parts) return [...parts].map((p) => p.replaceAll('_', ' '));
  const shown = JSON.stringify(address.slice(0, 80));
  throw new Error(`${shown} is not known; known is /performer/<who>/joint/<name>`);
}
