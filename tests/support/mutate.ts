/** Faults for files, by chance that is the same each time. */

/** Whole numbers from 0 to below a limit (linear congruential; D. Knuth, "MMIX"). */
export function dice(seed: number): (below: number) => number {
  let state = BigInt(seed);
  return (below) => {
    state = (state * 6364136223846793005n + 1442695040888963407n) & 0xffffffffffffffffn;
    return Number((state >> 33n) % BigInt(below));
  };
}

/** What can stand where something else did. */
const RUBBISH: readonly unknown[] = [
  null,
  true,
  '',
  'x',
  '#12',
  -1,
  0,
  1e-9,
  1e9,
  1e308,
  [],
  {},
  [[]],
  'constructor',
  '__proto__',
  '../../x',
  '\u0000',
  'a'.repeat(5000),
  { feed: 'spread' },
  { feed: 'gradient' },
  { feed: 7 },
  { feed: 'formula', text: 'sin(', from: 0, to: 1 },
  { feed: 'signal', signal: 'no' },
  [1, 2],
];

type Place = { holder: Record<string, unknown>; key: string };

function placesOf(value: unknown, found: Place[] = []): Place[] {
  if (typeof value !== 'object' || value === null) return found;
  for (const key of Object.keys(value)) {
    found.push({ holder: value as Record<string, unknown>, key });
    placesOf((value as Record<string, unknown>)[key], found);
  }
  return found;
}

/** A document with some faults: things that are gone, doubled, of another kind, or under another name. */
export function mutated(document: unknown, roll: (below: number) => number): unknown {
  const copy = structuredClone(document);
  for (let k = 0; k <= roll(3); k++) {
    const places = placesOf(copy);
    const { holder, key } = places[roll(places.length)]!;
    switch (roll(5)) {
      case 0:
        Reflect.deleteProperty(holder, key);
        break;
      case 1:
        holder[`${key}x`] = holder[key];
        break;
      case 2:
        if (Array.isArray(holder)) (holder as unknown[]).push(structuredClone(holder[Number(key)]));
        break;
      default:
        holder[key] = structuredClone(RUBBISH[roll(RUBBISH.length)]);
    }
  }
  return copy;
}

/** Bytes with some faults: cut off, turned, left out, doubled, or filled with one. */
export function mutatedBytes(bytes: Uint8Array, roll: (below: number) => number): Uint8Array {
  const copy = Uint8Array.from(bytes);
  const at = roll(copy.length);
  switch (roll(5)) {
    case 0:
      return copy.subarray(0, at);
    case 1:
      for (let k = 0; k <= roll(8); k++) copy[roll(copy.length)] = roll(256);
      return copy;
    case 2:
      return Uint8Array.from([...copy.subarray(0, at), ...copy.subarray(at + roll(40))]);
    case 3:
      return Uint8Array.from([...copy.subarray(0, at), ...copy.subarray(Math.max(0, at - 30))]);
    default:
      return copy.fill(roll(2) * 255, at, at + roll(64));
  }
}
