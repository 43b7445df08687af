import Papa from 'papaparse';
import { actOf, NotFollowed, type Offer, type PieceAct } from './controlDoor';
import type { ControlValue } from '../feeds/control';
import { EASES, type Ease } from '../feeds/shape';
import { calledName } from '../piece/controls';
import type { Played } from '../piece/played';
import type { Piece } from '../piece/types';

const COLUMNS = ['time', 'name', 'value', 'over', 'ease'] as const;

/** A table of what was played that cannot be read: which line, why, and what is wanted. */
export class TableError extends Error {
  override readonly name = 'TableError';
}

/**
 * The record of a piece's controls and cues as a table (CSV): seconds, the name of a control or a cue, what the control was
 * set to, over how many seconds, and how. Cues have their name and nothing more.
 */
export function playedTable({ controls, cues, played }: Piece): string {
  const called = (parts: readonly { id: string; name: string }[], id: string): string =>
    calledName(parts.find((p) => p.id === id)?.name ?? id);
  const rows = played.map((p) =>
    'cue' in p
      ? [p.at, called(cues, p.cue), '', '', '']
      : [p.at, called(controls, p.control), controlValueText(p.to), p.over ?? '', p.ease ?? ''],
  );
  return `${Papa.unparse([[...COLUMNS], ...rows])}\r\n`;
}

/** A value as it stands in a table. */
export function controlValueText(value: ControlValue): string {
  if (typeof value === 'boolean') return value ? 'on' : 'off';
  return Array.isArray(value) ? JSON.stringify(value) : String(value);
}

/** The most rows that are read, and the most mistakes that are told. */
const [MOST_ROWS, MOST_TOLD] = [200_000, 10];

type Row = Record<string, string>;

/**
 * Reads the rows of a table.
 *
 * @param wanted columns that have to be there
 * @param read one row, the other columns of which may be missing
 * @throws TableError with each line that cannot be read; nothing is half read
 */
export function readRows<T>(text: string, wanted: readonly string[], read: (row: Row) => T): T[] {
  const { data, meta } = Papa.parse<Row>(text.replace(/^\uFEFF/, ''), {
    header: true,
    skipEmptyLines: 'greedy',
    transformHeader: (name) => name.trim().toLowerCase(),
  });
  const columns = meta.fields ?? [];
  const missing = wanted.find((name) => !columns.includes(name));
  if (missing) {
    throw new TableError(
      `line 1: there is no column '${missing}'; wanted are ${wanted.join(', ')}, and over and ease where they are needed`,
    );
  }
  if (data.length > MOST_ROWS) {
    throw new TableError(`there are ${String(data.length)} rows; ${String(MOST_ROWS)} are read`);
  }
  const wrong: string[] = [];
  const rows = data.flatMap((row, i): T[] => {
    try {
      return [read(row)];
    } catch (error) {
      if (!(error instanceof NotFollowed)) throw error;
      wrong.push(`line ${String(i + 2)}: ${error.message}`);
      return [];
    }
  });
  if (wrong.length > 0) {
    const more = wrong.length - MOST_TOLD;
    const rest = more > 0 ? [`and ${String(more)} more lines`] : [];
    throw new TableError([...wrong.slice(0, MOST_TOLD), ...rest].join('\n'));
  }
  return rows;
}

/**
 * Reads a table of what is to be played, in any order of rows and columns; `over` and `ease` may be left out.
 *
 * @param offer what there is to be played
 * @throws TableError with each line that cannot be played; nothing is half read
 */
export function readPlayed(offer: Offer, text: string): Played[] {
  const played = readRows(text, ['time', 'name', 'value'], (row) => {
    const at = numberOf(row.time, 'time');
    if (at === undefined || Math.abs(at) > 1e6) {
      throw new NotFollowed('it has no time, in seconds');
    }
    return { at, ...actIn(offer, row) };
  });
  return played.sort((a, b) => a.at - b.at);
}

/** A number in a cell; undefined where it is empty. */
export function numberOf(text: string | undefined, what: string): number | undefined {
  const plain = text?.trim() ?? '';
  if (plain === '') return undefined;
  const value = Number(plain);
  if (Number.isFinite(value)) return value;
  throw new NotFollowed(`'${plain.slice(0, 40)}' is no ${what}; a number of seconds is wanted`);
}

/** The act of a row: a cue, or a value for a control. */
export function actIn(offer: Offer, row: Row): PieceAct {
  const name = row.name?.trim() ?? '';
  const value = row.value?.trim() ?? '';
  const cue = offer.cues.find((c) => calledName(c.name) === calledName(name));
  if (cue) return { cue: cue.id };
  const control = offer.controls.find((c) => calledName(c.name) === calledName(name));
  const isText = control !== undefined && ['colour', 'picture', 'option'].includes(control.holds);
  const over = numberOf(row.over, 'duration');
  const ease = row.ease?.trim() ?? '';
  if (ease && !EASES.includes(ease as Ease)) {
    throw new NotFollowed(`there is no ease '${ease.slice(0, 40)}'; there are ${EASES.join(', ')}`);
  }
  return actOf(offer, {
    set: name,
    to: isText ? value : plainValue(value),
    ...(over ? { over } : {}),
    ...(ease ? { ease: ease as Ease } : {}),
  });
}

/** A number, `on` or `off`, or a gradient as JSON. */
function plainValue(text: string): unknown {
  if (text !== '' && Number.isFinite(Number(text))) return Number(text);
  if (!text.startsWith('[')) return text;
  try {
    return JSON.parse(text) as unknown;
  } catch {
    return text;
  }
}
