import type { Expr } from '@vast-swarm/kernel';
import { sharedDials } from '../../language/dialReader';
import type { PartReader } from '../../language/partReader';
import { divide } from '../../language/divide';
import { shuffled } from '../../stock/places/shuffle';
import { choice, type ChoiceDial } from '../../language/dials';

type Order = 'random' | 'shuffled' | 'numbered';

/** In which order births go over places that are numbered. */
export const orderDial = (value: Order = 'random'): ChoiceDial<Order> =>
  choice(
    'Order',
    value,
    { random: 'Any at random', shuffled: 'Each once, mixed', numbered: 'As numbered' },
    'Which place each birth takes.',
  );

/** The number of the place, 0 to below `count`, that this birth takes (i32). */
export function placeNumber(part: PartReader, count: number): Expr {
  const dial = sharedDials(part, { order: orderDial() });
  const size = dial.constant('placeCount', Math.max(1, count), 'i32');
  const order = dial.choice('order');
  if (order === 'random') {
    const last = size.sub(1);
    return dial.random('place').mul(size.toFloat()).toInt().min(last);
  }
  const { rest } = divide(dial.particle!.id, size);
  if (order === 'numbered') return rest;
  return dial.block(orderOf(count, dial.builder.seed), rest, 'i32');
}

const orders = new Map<string, Float32Array>();

/** The same array for the same order, so that engines need not take it again. */
function orderOf(count: number, seed: number): Float32Array {
  const key = `${String(count)}.${String(seed)}`;
  let order = orders.get(key);
  if (!order) {
    if (orders.size > 16) orders.clear();
    orders.set(key, (order = shuffled(count, seed)));
  }
  return order;
}

/** The birth's place among as many even places as there are (i32), as a part of the whole: 0 to below 1. */
export function evenPart(dial: PartReader, places: Expr): Expr {
  return divide(dial.particle!.id, places).rest.toFloat().div(places.toFloat());
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
