/** Packets of Open Sound Control 1.0 (and the further types of its list), written from the specification. */

const padded = (bytes: Buffer): Buffer =>
  Buffer.concat([bytes, Buffer.alloc(4 - (bytes.length % 4 || 4))]);
export const text = (s: string): Buffer => padded(Buffer.from(`${s}\0`));

function written(size: number, write: (bytes: Buffer) => void): Buffer {
  const bytes = Buffer.alloc(size);
  write(bytes);
  return bytes;
}

export type Arg =
  | { f: number }
  | { i: number }
  | { d: number }
  | { h: bigint }
  | { s: string }
  | { S: string }
  | { r: [number, number, number, number] }
  | { b: Buffer }
  | { T: true }
  | { F: true }
  | { N: true }
  | { I: true };

function bytesOf(arg: Arg): Buffer {
  if ('f' in arg) return written(4, (b) => b.writeFloatBE(arg.f));
  if ('i' in arg) return written(4, (b) => b.writeInt32BE(arg.i));
  if ('d' in arg) return written(8, (b) => b.writeDoubleBE(arg.d));
  if ('h' in arg) return written(8, (b) => b.writeBigInt64BE(arg.h));
  if ('s' in arg) return text(arg.s);
  if ('S' in arg) return text(arg.S);
  if ('r' in arg) return Buffer.from(arg.r);
  if ('b' in arg) {
    return Buffer.concat([written(4, (b) => b.writeInt32BE(arg.b.length)), padded(arg.b)]);
  }
  return Buffer.alloc(0);
}

/** A message with arguments of any type. */
export function typed(address: string, ...args: Arg[]): Buffer {
  const types = args.map((a) => Object.keys(a)[0]!).join('');
  return Buffer.concat([text(address), text(`,${types}`), ...args.map(bytesOf)]);
}

/** A message with floats. */
export function message(address: string, ...values: number[]): Buffer {
  return typed(address, ...values.map((f) => ({ f })));
}

/** A bundle at a second since 1970; 0 is at once. */
export function bundle(seconds: number, ...elements: Buffer[]): Buffer {
  const tag = Buffer.alloc(8);
  tag.writeUInt32BE(seconds === 0 ? 0 : Math.floor(seconds) + 2_208_988_800, 0);
  tag.writeUInt32BE(seconds === 0 ? 1 : Math.floor((seconds % 1) * 2 ** 32), 4);
  const parts = elements.flatMap((e) => [written(4, (b) => b.writeInt32BE(e.length)), e]);
  return Buffer.concat([text('#bundle'), tag, ...parts]);
}

/** Reads a message with ints, floats and texts, as answers are. */
export function readMessage(packet: Buffer): { address: string; args: (number | string)[] } {
  let at = 0;
  const word = (): string => {
    const end = packet.indexOf(0, at);
    const found = packet.toString('utf8', at, end);
    at = end + 4 - (end % 4);
    return found;
  };
  const address = word();
  const args = Array.from(word().slice(1), (type) => {
    if (type === 's') return word();
    const value = type === 'i' ? packet.readInt32BE(at) : packet.readFloatBE(at);
    at += 4;
    return value;
  });
  return { address, args };
}
