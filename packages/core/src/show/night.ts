import Papa from 'papaparse';
import { NotFollowed, type Offer, type PieceAct, type ShowAct } from '../formats/controlDoor';
import { offerOf } from '../formats/offer';
import { actIn, controlValueText, numberOf, readRows, TableError } from '../formats/playedTable';
import { calledName } from '../piece/controls';
import type { Played } from '../piece/played';
import type { Piece } from '../piece/types';
import type { Show } from './show';

/** An act on a whole show as it is written down, with the entry it led to. */
export type Done =
  Exclude<ShowAct, { all: 'go' }> | { all: 'go'; entry: string } | { all: 'jump'; to: number };

/** Something that happened in a night. */
export interface NightRow {
  /** Seconds since the night began. */
  time: number;
  /** Which stretch of the night it belongs to, from 1: each begins where an entry does, or where its time jumps. */
  stretch: number;
  /** The id of the entry that was seen. */
  entry: string;
  /** Acts count from this second of the piece on; all others came when their frame was shown. */
  at: number;
  act: Done | PieceAct;
}

/** Acts on the piece in a stretch of a night: the piece, run with them, gives the same pictures again. */
export function playedIn(rows: readonly NightRow[], stretch: number): Played[] {
  return rows.flatMap(({ at, act, stretch: own }): Played[] =>
    own !== stretch || 'all' in act ? [] : [{ at, ...act }],
  );
}

/** Acts on the whole show in a stretch, in order. */
export function doneIn(rows: readonly NightRow[], stretch: number): { at: number; act: Done }[] {
  return rows.flatMap(({ at, act, stretch: own }) =>
    own === stretch && 'all' in act ? [{ at, act }] : [],
  );
}

const COLUMNS = ['time', 'name', 'value', 'over', 'ease', 'stretch', 'entry', 'at', 'piece'];

/** Of seconds of a night: a thousandth is enough to read by. */
const shown = (time: number): string => time.toFixed(3);

/**
 * A night as a table (CSV): seconds of the night, the name of a control or a cue, its value, seconds that it takes, how
 * it goes; the stretch, the entry by its id, the second of its piece, and what that is called. What is done with all of
 * the show has names that begin with `show/`.
 *
 * @param pieceOf the piece of an entry; null where it is gone
 */
export function nightTable(
  show: Show,
  rows: readonly NightRow[],
  pieceOf: (piece: string) => Piece | null,
): string {
  const table = rows.map(({ time, stretch, entry, at, act }) => {
    const piece = pieceOf(show.entries.find((e) => e.id === entry)?.piece ?? '');
    const called = (list: 'controls' | 'cues', id: string): string =>
      calledName(piece?.[list].find((p) => p.id === id)?.name ?? id);
    const where = [stretch, entry, at, piece?.name ?? ''];
    if ('cue' in act) return [shown(time), called('cues', act.cue), '', '', '', ...where];
    if ('control' in act) {
      const { control, to, over = '', ease = '' } = act;
      return [shown(time), called('controls', control), controlValueText(to), over, ease, ...where];
    }
    const value = act.all === 'go' ? act.entry : controlValueText(act.to);
    const over = 'over' in act ? act.over : '';
    return [shown(time), `show/${act.all}`, value, over, '', ...where];
  });
  return `${Papa.unparse([COLUMNS, ...table])}\r\n`;
}

/**
 * Reads such a table.
 *
 * @throws TableError with each line that cannot be read; nothing is half read
 */
export function readNight(
  show: Show,
  text: string,
  pieceOf: (piece: string) => Piece | null,
): NightRow[] {
  const number = (row: Record<string, string>, column: string): number => {
    const value = numberOf(row[column], column);
    if (value === undefined) throw new NotFollowed(`there is nothing in its column '${column}'`);
    return value;
  };
  return readRows(text, ['time', 'name', 'value', 'stretch', 'entry', 'at'], (row): NightRow => {
    const entry = row.entry?.trim() ?? '';
    const piece = show.entries.find((e) => e.id === entry)?.piece;
    const found = piece === undefined ? null : pieceOf(piece);
    if (!found) throw new NotFollowed(`there is no entry '${entry.slice(0, 64)}' in this show`);
    const name = row.name?.trim() ?? '';
    return {
      time: number(row, 'time'),
      stretch: number(row, 'stretch'),
      entry,
      at: number(row, 'at'),
      act: name.startsWith('show/') ? doneBy(name.slice(5), row) : actIn(offerOf(found), row),
    };
  });
}

/**
 * The record of a piece in a stretch of a night, out of the night's table: rows of others, and what was done with all of
 * the show, are passed over.
 *
 * @throws TableError with each line of the stretch that cannot be played, or where it has none
 */
export function readStretch(offer: Offer, text: string, stretch: number): Played[] {
  const rows = readRows(text, ['name', 'value', 'stretch', 'at'], (row): Played[] | null => {
    if (Number(row.stretch) !== stretch) return null;
    const at = numberOf(row.at, 'second');
    if (at === undefined) throw new NotFollowed("there is nothing in its column 'at'");
    return row.name?.startsWith('show/') ? [] : [{ at, ...actIn(offer, row) }];
  });
  const own = rows.filter((row) => row !== null);
  if (own.length === 0) throw new TableError(`there is no stretch ${String(stretch)} in it`);
  return own.flat().sort((a, b) => a.at - b.at);
}

function doneBy(name: string, row: Record<string, string>): Done {
  const value = row.value?.trim() ?? '';
  const number = (): number => numberOf(value, 'number') ?? 0;
  const over = numberOf(row.over, 'duration');
  switch (name) {
    case 'go':
      return { all: name, entry: value };
    case 'jump':
      return { all: name, to: number() };
    case 'speed':
      return { all: name, to: number() };
    case 'brightness':
      return { all: name, to: number(), ...(over ? { over } : {}) };
    case 'blackout':
      return { all: name, to: value === 'on' };
    case 'held':
      return { all: name, to: value === 'on' };
  }
  throw new NotFollowed(`there is no 'show/${name.slice(0, 40)}'`);
}
