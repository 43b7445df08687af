import type { PayloadAction } from '@reduxjs/toolkit';
import { freshName, newPart, type Piece, type Swarm } from '@vast-swarm/core/piece';
import { kindOf, type DialValues } from '@vast-swarm/core/kinds';
import type { StockEntry } from '@vast-swarm/core/stock';
import type { RecordedList } from '@vast-swarm/core/kinds';
import { edit, type PieceState } from './history';
import { playEntry, put, putOwn, readersOf, type Path } from './pieceEdits';

/** Edits that bring things of the stock into a piece: files, clips, performers, sounds, takes. */
export const stockReducers = {
  /** @param payload.look dials of the swarm at `path`, as they fit to what is put there */
  stocked(
    state: PieceState,
    { payload }: PayloadAction<{ entry: StockEntry; path?: Path; look?: DialValues | undefined }>,
  ) {
    const { entry, path, look } = payload;
    const change = (piece: Piece): void => {
      const at = piece.stock.findIndex((s) => s.id === entry.id);
      if (at < 0) piece.stock.push(entry);
      else piece.stock[at] = entry;
      if (!path) return;
      putOwn(piece, path, entry.id);
      if (look) Object.assign(piece.swarms[path[1] as number]!.dials, look);
    };
    // What is typed or dragged is one step until it is settled.
    if (path) edit(state, `Add ${entry.name}`, change);
    else edit(state, `Change ${entry.name}`, change, `stock ${entry.id}`);
  },
  /** A swarm that is born from a thing of the stock, which comes with it. */
  bornFrom(state: PieceState, { payload }: PayloadAction<{ entry: StockEntry; swarm: Swarm }>) {
    const { entry, swarm } = payload;
    edit(state, `Add ${entry.name}`, (piece) => {
      if (entry.type === 'clip' || entry.type === 'motion') {
        const playing = playEntry(piece, entry);
        const dials = Object.entries(swarm.emitter.dials);
        const [key] = dials.find(([, value]) => value === entry.id)!;
        piece.swarms.push({
          ...swarm,
          emitter: { ...swarm.emitter, dials: { ...swarm.emitter.dials, [key]: playing } },
        });
        return;
      }
      piece.stock.push(entry);
      piece.swarms.push(swarm);
    });
    state.selection = { list: 'swarms', id: swarm.id };
  },
  /** A moving picture for a dial: a made map of a kind, or one that plays a clip of the stock, which comes with it. */
  pictured(
    state: PieceState,
    { payload }: PayloadAction<{ path?: Path } & ({ kind: string } | { entry: StockEntry })>,
  ) {
    let fresh = '';
    edit(state, 'Add a moving picture', (piece) => {
      fresh = 'entry' in payload ? playEntry(piece, payload.entry) : '';
      if ('kind' in payload) {
        const part = newPart(piece, 'pictures', payload.kind);
        piece.pictures.push(part);
        fresh = part.id;
      }
      if (payload.path) putOwn(piece, payload.path, fresh);
    });
    if (!payload.path) state.selection = { list: 'pictures', id: fresh };
  },
  /** A performer for a dial, of a motion of the stock, which comes with them. */
  cast(
    state: PieceState,
    { payload: { entry, path } }: PayloadAction<{ entry: StockEntry; path: Path }>,
  ) {
    edit(state, 'Add a performer', (piece) => {
      putOwn(piece, path, playEntry(piece, entry));
    });
  },
  /** All that reads the joints of a performer reads those of another from now on. */
  recast(state: PieceState, { payload }: PayloadAction<{ from: string; to: string }>) {
    const { from, to } = payload;
    edit(state, 'Take over', (piece) => {
      for (const path of readersOf(piece, from)) put(piece, path, to);
    });
  },
  /** A sound from a thing of the stock, which comes with it. */
  heard(state: PieceState, { payload: entry }: PayloadAction<StockEntry>) {
    edit(state, `Add ${entry.name}`, (piece) => {
      const part = newPart(piece, 'sounds', 'played');
      part.name = freshName(entry.name, piece.sounds);
      part.dials.sound = entry.id;
      piece.stock.push(entry);
      piece.sounds.push(part);
    });
    state.selection = { list: 'sounds', id: state.piece!.sounds.at(-1)!.id };
  },
  /** A take of a live input, which counts from now on. */
  recorded(
    state: PieceState,
    {
      payload,
    }: PayloadAction<{
      list: RecordedList;
      id: string;
      entry: StockEntry;
      start: number;
    }>,
  ) {
    const { list, id, entry, start } = payload;
    edit(state, 'Record', (piece) => {
      const part = piece[list].find((s) => s.id === id);
      const records = part && kindOf(list, part.kind).records;
      piece.stock.push(entry);
      if (records) Object.assign(part.dials, { [records.take]: entry.id, [records.start]: start });
    });
  },
};
