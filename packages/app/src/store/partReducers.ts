import type { PayloadAction } from '@reduxjs/toolkit';
import { current } from 'immer';
import {
  begunWhole,
  firstSwarm,
  freeName,
  freshIdIn,
  freshName,
  isCalled,
  makeChoice,
  makePart,
  newPart,
  planeZone,
  type Part,
  type PartList,
  type Piece,
  type Swarm,
} from '@vast-swarm/core/piece';
import { kindOf } from '@vast-swarm/core/kinds';
import { edit, type PieceState } from './history';
import {
  castLast,
  followPointer,
  forget,
  freed,
  freeFollowers,
  listen,
  makeOwn,
  valueAt,
  type Path,
  type Tree,
} from './pieceEdits';
import { partsOf, selectionThere } from './selection';

/** Edits of the parts of a piece: added, removed, doubled, of another kind. */
export const partReducers = {
  added(state: PieceState, { payload }: PayloadAction<{ list: PartList; kind: string }>) {
    const { list, kind } = payload;
    const selected = state.selection;
    edit(state, `Add ${kind}`, (piece) => {
      if (list === 'swarms') {
        const swarm = firstSwarm(kind, piece.swarms);
        castLast(piece, kindOf('emitters', kind).dials, swarm.emitter.dials);
        piece.swarms.push(swarm);
      } else {
        const part = newPart(piece, list, kind);
        if (list === 'signals') listen(piece, part, selected);
        castLast(piece, kindOf(list, kind).dials, part.dials);
        piece[list].push(part);
      }
    });
    state.selection = { list, id: state.piece![list].at(-1)!.id };
  },
  /** A zone at the edges of a force's plane. */
  edged(state: PieceState, { payload: id }: PayloadAction<string>) {
    const force = state.piece?.forces.find((f) => f.id === id);
    const zone = force && planeZone(current(state).piece!, force);
    if (!zone) return;
    edit(state, `Add ${zone.name}`, (piece) => void piece.colliders.push(zone));
    state.selection = { list: 'colliders', id: zone.id };
  },
  /** The pointer stirs a medium: signals of it, where there are none yet, and dials that follow them. */
  pointed(state: PieceState, { payload: id }: PayloadAction<string>) {
    edit(state, 'Stir with the pointer', (piece) => {
      followPointer(piece, id);
    });
  },
  removed(state: PieceState, { payload }: PayloadAction<{ list: PartList; id: string }>) {
    const { list, id } = payload;
    edit(state, 'Remove', (piece) => {
      if (list === 'swarms') freeFollowers(piece, id);
      const parts = partsOf(piece, list);
      parts.splice(
        parts.findIndex((p) => p.id === id),
        1,
      );
      forget(piece, list, id);
    });
    state.selection = selectionThere(state.piece as Piece, state.selection);
  },
  /** @param payload.following whether the copy of a swarm goes on having what the first has */
  duplicated(
    state: PieceState,
    { payload }: PayloadAction<{ list: PartList; id: string; following?: boolean }>,
  ) {
    const { list, id, following } = payload;
    let fresh = id;
    edit(state, 'Duplicate', (piece) => {
      const parts = partsOf(piece, list);
      const at = parts.findIndex((p) => p.id === id);
      const copy = structuredClone(JSON.parse(JSON.stringify(parts[at]!)) as Swarm);
      const base = id.replace(/-\d+$/, '');
      copy.id = fresh = freshIdIn(piece, list, base);
      const name = copy.name.replace(/ \d+$/, '');
      copy.name = isCalled(list) ? freeName(piece, name) : freshName(name, parts);
      if (following) {
        copy.follows = copy.follows ?? id;
        copy.own = copy.own ?? [];
      }
      parts.splice(at + 1, 0, copy);
      if (list === 'swarms' || list === 'media') {
        for (const row of Object.values(piece.influence)) {
          if (row[id] !== undefined) row[fresh] = row[id];
        }
      } else if (piece.influence[id]) piece.influence[fresh] = { ...piece.influence[id] };
    });
    state.selection = { list, id: fresh };
  },
  /** A follower has settings of its own from now on: those it had until now. */
  freed(state: PieceState, { payload }: PayloadAction<string>) {
    edit(state, 'Make independent', (piece) => {
      const at = piece.swarms.findIndex((s) => s.id === payload);
      piece.swarms[at] = freed(piece, piece.swarms[at]!);
    });
  },
  moved(
    state: PieceState,
    { payload }: PayloadAction<{ list: PartList; from: number; to: number }>,
  ) {
    const { list, from, to } = payload;
    edit(state, 'Reorder', (piece) => {
      const parts = partsOf(piece, list);
      const [part] = parts.splice(from, 1);
      if (part) parts.splice(to, 0, part);
    });
  },
  /** Another kind in the same place, with its own default dials. */
  kindChanged(
    state: PieceState,
    {
      payload,
    }: PayloadAction<{ path: Path; shelf: Parameters<typeof makeChoice>[0]; kind: string }>,
  ) {
    const { path, shelf, kind } = payload;
    edit(state, 'Change kind', (piece) => {
      makeOwn(piece, path);
      const holder = valueAt(piece, path) as Tree;
      const fresh = makeChoice(shelf, kind);
      castLast(piece, kindOf(shelf, kind).dials, fresh.dials);
      const before = holder.dials as Record<string, unknown>;
      // What both kinds have, as the centre, stays.
      for (const key of Object.keys(fresh.dials)) {
        if (key in before && typeof before[key] === typeof fresh.dials[key]) {
          fresh.dials[key] = before[key] as (typeof fresh.dials)[string];
        }
      }
      Object.assign(holder, fresh);
      const swarm = shelf === 'emitters' ? piece.swarms[path[1] as number]! : null;
      if (swarm && !swarm.follows) begunWhole(swarm);
      // A part of a list, as a body, is called by what it is.
      const among = valueAt(piece, path.slice(0, -1));
      if (!Array.isArray(among)) return;
      const { id, name } = makePart(
        shelf,
        kind,
        (among as Part[]).filter((p) => (p as unknown) !== holder),
      );
      Object.assign(holder, { id, name });
    });
  },
  /** Shown alone: all others of the list off; again: all on. */
  alone(state: PieceState, { payload }: PayloadAction<{ list: PartList; id: string }>) {
    edit(state, 'Show alone', (piece) => {
      const parts = partsOf(piece, payload.list);
      const already = parts.every((p) => p.on === (p.id === payload.id));
      for (const p of parts) p.on = already || p.id === payload.id;
    });
  },
};
