import { StockError } from '../error';

/** The parts of a BVH file that was found whole. */
export interface CheckedBvh {
  /** Its text up to the motion. */
  hierarchy: string;
  /** The numbers of each frame, as text. */
  frames: string[];
  /** Seconds. */
  frameTime: number;
}

const CHANNEL = /^[XYZ](position|rotation)$/;
const MOST_JOINTS = 2000;
/** Numbers of all joints in all frames. */
const MOST_NUMBERS = 60_000_000;

/**
 * Sees that a BVH file is whole: readers of it go on over what is missing.
 *
 * @throws StockError with the line
 */
export function checkBvh(name: string, text: string): CheckedBvh {
  const lines = text.split(/\r\n|\r|\n/);
  const wrong = (line: number, what: string): StockError =>
    new StockError(name, `line ${String(line + 1)}: ${what}`);
  const motion = lines.findIndex((l) => l.trim() === 'MOTION');
  if (lines.find((l) => l.trim() !== '')?.trim() !== 'HIERARCHY') {
    throw wrong(0, "a BVH file begins with 'HIERARCHY'");
  }
  if (motion < 0) throw wrong(lines.length - 1, 'it ends before its motion; the file is cut off');
  const { joints, channels } = checkHierarchy(lines.slice(0, motion), wrong);
  const rest = lines.map((l, i) => [l.trim(), i] as const).slice(motion + 1);
  const [count, time, ...numbers] = rest.filter(([l]) => l !== '');
  const frames = Number(/^Frames:\s*(\d+)$/.exec(count?.[0] ?? '')?.[1]);
  const frameTime = Number(/^Frame Time:\s*(\S+)$/.exec(time?.[0] ?? '')?.[1]);
  if (!(frames >= 0))
    throw wrong(count?.[1] ?? motion, "wanted is 'Frames:' and how many there are");
  if (!(frameTime > 0 && frameTime <= 3600)) {
    throw wrong(time?.[1] ?? motion, "wanted is 'Frame Time:' and the seconds of a frame");
  }
  if (frames === 0) throw wrong(count![1], 'there are no frames in it');
  if (numbers.length < frames) {
    const has = `there are ${String(numbers.length)} of ${String(frames)} frames`;
    throw wrong(lines.length - 1, `${has}; the file is cut off`);
  }
  if (frames * joints * 3 > MOST_NUMBERS) {
    throw new StockError(name, `${String(frames)} frames of ${String(joints)} joints are too many`);
  }
  for (const [line, at] of numbers.slice(0, frames)) {
    const fields = line.split(/\s+/);
    if (fields.length !== channels) {
      const has = `the frame has ${String(fields.length)} numbers`;
      throw wrong(at, `${has}; its joints have ${String(channels)} channels`);
    }
    const bad = fields.find((f) => !Number.isFinite(Number(f)));
    if (bad !== undefined) throw wrong(at, `'${bad}' is no number`);
  }
  const kept = numbers.slice(0, frames).map(([line]) => line);
  return { hierarchy: `${lines.slice(0, motion).join('\n')}\n`, frames: kept, frameTime };
}

function checkHierarchy(
  lines: readonly string[],
  wrong: (line: number, what: string) => StockError,
): { joints: number; channels: number } {
  let [joints, channels, depth, roots] = [0, 0, 0, 0];
  lines.forEach((raw, at) => {
    const [word, ...fields] = raw.trim().split(/\s+/);
    switch (word) {
      case '':
      case 'HIERARCHY':
        return;
      case 'ROOT':
      case 'JOINT':
        if (fields.length === 0) throw wrong(at, 'the joint has no name');
        if (word === 'ROOT' && ++roots > 1) {
          throw wrong(at, 'a second ROOT; bring each performer as a file of its own');
        }
        joints += 1;
        return;
      case 'End':
        joints += 1;
        return;
      case '{':
        depth += 1;
        return;
      case '}':
        depth -= 1;
        return;
      case 'OFFSET':
        if (fields.length !== 3 || fields.some((f) => !Number.isFinite(Number(f)))) {
          throw wrong(at, 'an OFFSET has three numbers');
        }
        return;
      case 'CHANNELS': {
        const [count, ...names] = fields;
        const odd = names.find((n) => !CHANNEL.test(n));
        if (odd !== undefined) {
          throw wrong(at, `the channel '${odd}' is not known; known are Xposition to Zrotation`);
        }
        if (Number(count) !== names.length) {
          throw wrong(at, `it says ${count ?? 'no'} channels and names ${String(names.length)}`);
        }
        channels += names.length;
        return;
      }
      default:
        throw wrong(at, `'${word ?? ''}' is not known here`);
    }
  });
  if (depth !== 0) throw wrong(lines.length, 'a bracket is missing before the motion');
  if (roots === 0) throw wrong(lines.length, 'there is no ROOT');
  if (joints > MOST_JOINTS)
    throw wrong(0, `${String(joints)} joints; ${String(MOST_JOINTS)} is the most`);
  return { joints, channels };
}
