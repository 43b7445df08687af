import type { Snapshot } from '@vast-swarm/core/play';
import type { KeptMemory } from './finish';

/** The state of an engine at the end of a frame, with what its finish remembers. */
export class CpuSnapshot implements Snapshot {
  readonly bytes: number;

  constructor(
    readonly frame: number,
    readonly remembers: boolean,
    /** By swarm, by the name of the state. */
    readonly states: ReadonlyMap<string, ReadonlyMap<string, Float32Array>>,
    /** Of fields and media, by the name of the buffer. */
    readonly fields: ReadonlyMap<string, Float32Array>,
    readonly memory: KeptMemory,
  ) {
    const arrays = [fields, ...states.values()].flatMap((s) => [...s.values()]);
    const planes = [...memory.values()].flatMap((m) => m.planes);
    this.bytes = [...arrays, ...planes].reduce((sum, a) => sum + a.byteLength, 0);
  }

  release(): void {
    // Ordinary memory: nothing to do.
  }
}

/** First bytes of a packed snapshot. */
const MARK = 'vast-swarm state 1';

interface Head {
  mark: string;
  frame: number;
  remembers: boolean;
  /** The arrays behind the head, in order: where each belongs, and how many numbers it has. */
  states: [swarm: string, name: string, length: number][];
  fields: [name: string, length: number][];
  memory: { id: string; frame: number; width: number; height: number; planes: number[] }[];
}

/** A snapshot as bytes: a head of JSON behind its length, and all numbers as they stand in memory (little endian). */
export function packSnapshot(snapshot: Snapshot): Uint8Array {
  if (!(snapshot instanceof CpuSnapshot)) throw new Error('cpu: a snapshot of another engine');
  const { frame, remembers, states, fields, memory } = snapshot;
  const ofSwarms = [...states].flatMap(([id, all]) =>
    [...all].map(([name, values]) => [id, name, values] as const),
  );
  const arrays = [
    ...ofSwarms.map(([, , values]) => values),
    ...fields.values(),
    ...[...memory.values()].flatMap((m) => m.planes),
  ];
  const head: Head = {
    mark: MARK,
    frame,
    remembers,
    states: ofSwarms.map(([id, name, { length }]) => [id, name, length]),
    fields: [...fields].map(([name, { length }]) => [name, length]),
    memory: [...memory].map(([id, { planes, ...of }]) => {
      return { id, ...of, planes: planes.map((p) => p.length) };
    }),
  };
  const text = new TextEncoder().encode(JSON.stringify(head));
  const begin = 4 + text.length;
  const bytes = new Uint8Array(arrays.reduce((sum, a) => sum + a.byteLength, begin));
  new DataView(bytes.buffer).setUint32(0, text.length, true);
  bytes.set(text, 4);
  let at = begin;
  for (const { buffer, byteOffset, byteLength } of arrays) {
    bytes.set(new Uint8Array(buffer, byteOffset, byteLength), at);
    at += byteLength;
  }
  return bytes;
}

/**
 * The snapshot that was packed.
 * @throws Error where these are the bytes of something else, or some are missing
 */
export function unpackSnapshot(bytes: Uint8Array): Snapshot {
  const headLength =
    bytes.length < 4 ? 0 : new DataView(bytes.buffer, bytes.byteOffset).getUint32(0, true);
  const head = headIn(bytes.subarray(4, 4 + headLength));
  let at = 4 + headLength;
  const next = (length: number): Float32Array => {
    const end = at + 4 * length;
    if (end > bytes.length) throw new Error('cpu: this state is cut short');
    const values = new Float32Array(new Uint8Array(bytes.subarray(at, end)).buffer);
    at = end;
    return values;
  };
  const states = new Map<string, Map<string, Float32Array>>();
  for (const [id, name, length] of head.states) {
    const own = states.get(id) ?? new Map<string, Float32Array>();
    states.set(id, own.set(name, next(length)));
  }
  const fields = new Map(head.fields.map(([name, length]) => [name, next(length)]));
  const memory = new Map(
    head.memory.map(({ id, planes, ...of }) => [id, { ...of, planes: planes.map(next) }]),
  );
  return new CpuSnapshot(head.frame, head.remembers, states, fields, memory);
}

function headIn(bytes: Uint8Array): Head {
  let head: Head;
  try {
    head = JSON.parse(new TextDecoder().decode(bytes)) as Head;
  } catch {
    throw new Error('cpu: these bytes are no state');
  }
  if (head.mark !== MARK) throw new Error('cpu: these bytes are no state');
  return head;
}
