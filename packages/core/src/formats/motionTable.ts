import Papa from 'papaparse';
import { JOINT_COLUMNS } from '../stock/read/motion/isJointTable';
import type { Motion } from '../stock/types';

/**
 * A motion as a table of joints (CSV): seconds, metres, and on which joint each hangs. Read again (`motionOfTable`) it has
 * the same numbers, bit for bit.
 *
 * @returns the text in parts, one for each time
 */
export function* motionTable({ times, performers }: Motion): Generator<string> {
  yield `${[...JOINT_COLUMNS, 'parent'].join(',')}\r\n`;
  const named = performers.map(({ name, joints }) =>
    joints.map(({ name: joint, parent }) => ({
      names: Papa.unparse([[name, joint]]),
      parent: parent < 0 ? '' : Papa.unparse([[joints[parent]!.name]]),
    })),
  );
  for (const [k, time] of times.entries()) {
    let part = '';
    performers.forEach(({ joints, places }, who) => {
      named[who]!.forEach(({ names, parent }, i) => {
        const at = 3 * (k * joints.length + i);
        const place = places.subarray(at, at + 3).join(',');
        part += `${String(time)},${names},${place},${parent}\r\n`;
      });
    });
    yield part;
  }
}
