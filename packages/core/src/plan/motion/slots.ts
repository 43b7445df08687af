import type { BirthEvent } from './births';

/** Neighbouring slots for births: slots `begin` to `end` hold the ids slot + idOffset. */
export interface SlotRange {
  begin: number;
  end: number;
  idOffset: number;
}

/** The slots of an event; at most the last `capacity` births find room. */
export function slotRanges({ first, count }: BirthEvent, capacity: number): SlotRange[] {
  const skipped = Math.max(0, count - capacity);
  const from = first + skipped;
  const left = count - skipped;
  const begin = from % capacity;
  const straight = Math.min(left, capacity - begin);
  const ranges = [{ begin, end: begin + straight, idOffset: from - begin }];
  if (left > straight) {
    ranges.push({ begin: 0, end: left - straight, idOffset: from + straight });
  }
  return ranges;
}

export interface Move {
  from: number;
  to: number;
  count: number;
}

/** How slots move when the capacity changes: the youngest `born` ids keep their states. */
export function remap(born: number, oldCapacity: number, newCapacity: number): Move[] {
  const moves: Move[] = [];
  const kept = Math.min(born, oldCapacity, newCapacity);
  for (let id = born - kept; id < born;) {
    const from = id % oldCapacity;
    const to = id % newCapacity;
    const count = Math.min(born - id, oldCapacity - from, newCapacity - to);
    moves.push({ from, to, count });
    id += count;
  }
  return moves;
}
