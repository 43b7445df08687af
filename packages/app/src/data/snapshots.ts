import type { Piece } from '@vast-swarm/core/piece';
import { library } from './db';

/** A piece that has changed is kept as it is after so many milliseconds. */
const EVERY = 10 * 60_000;
/** Versions of a piece that are kept by themselves; older ones go. Those that were asked for stay. */
const MOST = 60;

/** Keeps a version of a piece as it is now, under a name of its own. */
export async function keepSnapshot(
  of: string,
  piece: Piece,
  { thumb, auto = false }: { thumb?: Blob | null; auto?: boolean } = {},
): Promise<void> {
  const made = Date.now();
  const all = await library.snapshots.where('of').equals(of).sortBy('made');
  const last = Math.max(0, ...all.map((s) => Number(/^Version (\d+)$/.exec(s.name)?.[1] ?? 0)));
  await library.snapshots.add({
    id: crypto.randomUUID(),
    of,
    name: `Version ${String(last + 1)}`,
    made,
    piece,
    ...(thumb ? { thumb } : {}),
    ...(auto ? { auto } : {}),
  });
  const own = all.filter((s) => s.auto);
  const old = own.slice(0, Math.max(0, own.length + (auto ? 1 : 0) - MOST));
  await library.snapshots.bulkDelete(old.map((s) => s.id));
}

/** Looks now and then whether the open piece is to be kept. */
export class History {
  private last: { piece: Piece; at: number } | null = null;

  /**
   * @param now milliseconds
   * @returns whether it has changed for ten minutes since it was opened, or kept
   */
  due(piece: Piece, now: number): boolean {
    this.last ??= { piece, at: now };
    if (piece === this.last.piece) {
      // The time counts from the first change.
      this.last.at = now;
      return false;
    }
    if (now - this.last.at < EVERY) return false;
    this.last = { piece, at: now };
    return true;
  }
}
