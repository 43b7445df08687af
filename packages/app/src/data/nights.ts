import { playedIn, type NightRow } from '@vast-swarm/core/show';
import type { Played } from '@vast-swarm/core/piece';
import { library, type StoredNight } from './db';

/** A night as it was left, with what was played in its last stretch. */
export type LeftNight = StoredNight & { played: readonly Played[] };

export async function loadNight(show: string): Promise<LeftNight | null> {
  const stored = await library.nights.get(show);
  return stored ? { ...stored, played: playedIn(await rowsOf(show), stored.stretch) } : null;
}

/** Keeps how a night stands, and what has happened in it since it was kept last. */
export async function keepNight(night: StoredNight, rows: NightRow[]): Promise<void> {
  const { nights, nightRows } = library;
  await library.transaction('rw', nights, nightRows, async () => {
    await nights.put(night);
    if (rows.length > 0) await nightRows.add({ show: night.id, rows });
  });
}

/** All that has happened in the night of a show. */
export async function rowsOf(show: string): Promise<NightRow[]> {
  const stored = await library.nightRows.where('show').equals(show).sortBy('at');
  return stored.flatMap((s) => s.rows);
}

/** The night is over: the next begins with nothing. */
export async function forgetNight(show: string): Promise<void> {
  const { nights, nightRows } = library;
  await library.transaction('rw', nights, nightRows, async () => {
    await nights.delete(show);
    await nightRows.where('show').equals(show).delete();
  });
}
