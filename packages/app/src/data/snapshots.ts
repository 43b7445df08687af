import type { Piece } from '@vast-swarm/core';
import { library } from './db';

/** Keeps a version of a piece as it is now, under a name of its own. */
export async function keepSnapshot(of: string, piece: Piece): Promise<void> {
  const made = Date.now();
  const count = await library.snapshots.where('of').equals(of).count();
  const name = `Version ${String(count + 1)}`;
  await library.snapshots.add({ id: crypto.randomUUID(), of, name, made, piece });
}
