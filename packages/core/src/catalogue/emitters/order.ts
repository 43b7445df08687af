import type { Expr } from '@vast-swarm/kernel';
import type { DialReader } from '../../plan/dialReader';
import { divide } from '../../plan/divide';
import { shuffled } from '../../stock/shuffle';
import { choice, type ChoiceDial } from '../dials';

/** In which order births go over places that are numbered. */
export const orderDial = (value = 'random'): ChoiceDial =>
  choice(
    'Order',
    value,
    { random: 'Any at random', shuffled: 'Each once, mixed', numbered: 'As numbered' },
    'Which place each birth takes.',
  );

/** The number of the place, 0 to below `count`, that this birth takes (i32). */
export function placeNumber(dial: DialReader, count: number): Expr {
  const size = dial.builder.uniform(`${dial.scope}.placeCount`, Math.max(1, count), 'i32');
  const order = dial.choice('order');
  if (order === 'random') {
    const last = size.sub(1);
    return dial.random('place').mul(size.toFloat()).toInt().min(last);
  }
  const { rest } = divide(dial.particle!.id, size);
  if (order === 'numbered') return rest;
  const { seed } = dial.builder;
  const name = `data/order.${String(count)}.${String(seed)}`;
  return dial.builder.block(name, orderOf(count, seed), rest, 'i32');
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

/** The birth's place among as many even places as a dial says, as a part of the whole: 0 to below 1. */
export function evenPart(dial: DialReader, key: string): Expr {
  const places = dial.whole(key);
  return divide(dial.particle!.id, places).rest.toFloat().div(places.toFloat());
}

/** Picks a row of an alias table (see stock/alias.ts), i32. */
export function pickRow(
  dial: DialReader,
  name: string,
  { own, other }: { own: Float32Array; other: Float32Array },
): Expr {
  const { builder } = dial;
  const count = builder.uniform(`${dial.scope}.rows`, own.length, 'i32');
  const row = dial.random('row').mul(count.toFloat()).toInt().min(count.sub(1));
  const keep = dial.random('own').lt(builder.block(`${name}.own`, own, row));
  return keep.select(row, builder.block(`${name}.other`, other, row, 'i32'));
}
