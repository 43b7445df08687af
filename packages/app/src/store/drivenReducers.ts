import type { PayloadAction } from '@reduxjs/toolkit';
import { newPart, type Played } from '@vast-swarm/core/piece';
import { takeKey } from '@vast-swarm/core/plan';
import type { DialValue, Take } from '@vast-swarm/core/feeds';
import { putForward, takeBack } from './controlEdits';
import { edit, type PieceState } from './history';
import { followOther, makeOwn, putOwn, type Path } from './pieceEdits';

/** Edits of drives of dials: signals that feed them, controls that hold them, and takes of both. */
export const drivenReducers = {
  /** Fills a dial from a signal that is made for it. */
  signalled(
    state: PieceState,
    { payload }: PayloadAction<{ path: Path; from: number; to: number }>,
  ) {
    const { path, from, to } = payload;
    edit(state, 'Drive by a wave', (piece) => {
      const part = newPart(piece, 'signals', 'wave');
      piece.signals.push(part);
      putOwn(piece, path, { feed: 'signal', signal: part.id, from, to } satisfies DialValue);
    });
  },
  /** Dials that a signal feeds follow another one, or a part of one, from now on. */
  swapped(
    state: PieceState,
    { payload }: PayloadAction<{ paths: Path[]; signal: string; other: string; name: string }>,
  ) {
    const { paths, signal, other, name } = payload;
    edit(state, `Follow ${name}`, (piece) => {
      followOther(piece, paths, signal, other);
    });
  },
  /** Keeps what was recorded of a signal that was moved by hand. */
  took(state: PieceState, { payload }: PayloadAction<{ signal: string; take: Take }>) {
    const { signal, take } = payload;
    edit(state, 'Record', (piece) => {
      const part = piece.signals.find((s) => s.id === signal);
      const key = part && takeKey(part);
      if (key) part.dials[key] = take;
    });
  },
  /** Keeps what was played of controls and cues. */
  played(state: PieceState, { payload }: PayloadAction<Played[]>) {
    edit(state, 'Play', (piece) => {
      piece.played = payload;
    });
  },
  /** Puts a dial, or the switch of a part, forward: under a control of its own, or one that there is. */
  putForward(state: PieceState, { payload }: PayloadAction<{ path: Path; control?: string }>) {
    const { path, control } = payload;
    const before = state.piece?.controls.length ?? 0;
    edit(state, 'Put forward', (piece) => {
      makeOwn(piece, path);
      putForward(piece, path, control);
    });
    const fresh = state.piece?.controls[before];
    if (fresh) state.selection = { list: 'controls', id: fresh.id };
  },
  /** A dial that a control holds is as it is itself again. */
  takenBack(state: PieceState, { payload: place }: PayloadAction<string>) {
    edit(state, 'Take back', (piece) => {
      takeBack(piece, place);
    });
  },
};
