import type { Expr } from '@vast-swarm/kernel';
import { sharedDials } from '../../../language/dialReader';
import type { PartReader } from '../../../language/partReader';
import { divide } from '../../../language/divide';
import { shuffled } from '../../../stock/places/shuffle';
import { choice, type ChoiceDial } from '../../../language/dials';

type Order = 'random' | 'shuffled' | 'numbered';

/** In which order births go over places that are numbered. */
export const orderDial = (value: Order = 'random'): ChoiceDial<Order> =>
  choice(
    'Order',
    value,
    { random: 'Any at random', shuffled: 'Each once, mixed', numbered: 'As numbered' },
    'Which place each birth takes; where births give each place one, at random is mixed.',
  );

/** The number of the place, 0 to below `count`, that this birth takes (i32), by the dial `order`. */
export function placeNumber(part: PartReader, count: number): Expr {
  const dial = sharedDials(part, { order: orderDial() });
  const order = dial.choice('order');
  if (order !== 'random' || part.particle?.onePlaceEach !== undefined) {
    return placeInTurn(part, count, order === 'numbered');
  }
  const size = dial.constant('placeCount', Math.max(1, count), 'i32');
  const last = size.sub(1);
  return dial.random('place').mul(size.toFloat()).toInt().min(last);
}

/** The place that this birth takes where they go round in turn: as they are numbered, or mixed. */
export function placeInTurn(part: PartReader, count: number, numbered = true): Expr {
  const size = part.constant('placeCount', Math.max(1, count), 'i32');
  const { id, onePlaceEach: each } = part.particle!;
  const { seed } = part.builder;
  // With another density fewer or more are born than there are places: some of them, or some twice.
  const turn =
    each === undefined || each === count
      ? id
      : divide(id, part.constant('eachPlace', Math.max(1, each), 'i32')).rest;
  if (each !== undefined && each < count) {
    return part.block(someOf(count, each, seed, numbered), turn, 'i32');
  }
  const { rest } = divide(turn, size);
  return numbered ? rest : part.block(orderOf(count, seed), rest, 'i32');
}

const orders = new Map<string, Float32Array>();

/** The same array for the same key, so that engines need not take it again. */
function kept(key: string, make: () => Float32Array): Float32Array {
  let order = orders.get(key);
  if (!order) {
    if (orders.size > 16) orders.clear();
    orders.set(key, (order = make()));
  }
  return order;
}

function orderOf(count: number, seed: number): Float32Array {
  return kept([count, seed].join('./'), () => shuffled(count, seed));
}

/** So many of the places, none twice, mixed or in order. */
function someOf(count: number, some: number, seed: number, numbered: boolean): Float32Array {
  return kept([count, seed, some, numbered].join('./'), () => {
    const chosen = orderOf(count, seed).slice(0, Math.max(1, some));
    if (numbered) new Int32Array(chosen.buffer).sort();
    return chosen;
  });
}

/** The birth's place among as many even places as there are, as a part of the whole: 0 to below 1. */
export function evenPart(dial: PartReader, count: number): Expr {
  const places = dial.constant('placeCount', count, 'i32');
  return placeInTurn(dial, count).toFloat().div(places.toFloat());
}

/** Picks a row of an alias table (see stock/alias.ts), i32. */
export function pickRow(
  dial: PartReader,
  { own, other }: { own: Float32Array; other: Float32Array },
): Expr {
  const count = dial.constant('rows', own.length, 'i32');
  const row = dial.random('row').mul(count.toFloat()).toInt().min(count.sub(1));
  const keep = dial.random('own').lt(dial.block(own, row));
  return keep.select(row, dial.block(other, row, 'i32'));
}
