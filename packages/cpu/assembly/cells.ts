// Sorting slots by the cell of a grid that they are in: a counting sort by one thread, slots of one
// cell in their own order, so that nothing depends on the number of threads.

import { arg } from './args';

// @inline
function at(base: i32, index: i32): usize {
  return <usize>base + ((<usize>index) << 2);
}

/**
 * Arguments: 0 slots, 1 their cells, 2 the sorted slots, 3 where each cell begins (cells + 2 words),
 * 4 number of cells; cell number `cells` holds the dead.
 */
export function sortCells(task: i32, args: usize, thread: i32): void {
  const count = arg(args, 0);
  const cell = arg(args, 1);
  const order = arg(args, 2);
  const start = arg(args, 3);
  const cells = arg(args, 4);
  memory.fill(at(start, 0), 0, (<usize>(cells + 2)) << 2);
  for (let i = 0; i < count; i++) {
    const place = at(start, load<i32>(at(cell, i)));
    store<i32>(place, load<i32>(place) + 1);
  }
  let sum = 0;
  for (let c = 0; c <= cells; c++) {
    sum += load<i32>(at(start, c));
    store<i32>(at(start, c), sum);
  }
  // From the last slot down: the end of each cell moves down to its beginning.
  for (let i = count - 1; i >= 0; i--) {
    const place = at(start, load<i32>(at(cell, i)));
    const n = load<i32>(place) - 1;
    store<i32>(place, n);
    store<i32>(at(order, n), i);
  }
  store<i32>(at(start, cells + 1), count);
}
