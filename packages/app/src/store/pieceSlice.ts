import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import equal from 'fast-deep-equal';
import { applyPatches, current, isDraft } from 'immer';
import { dialsOf, livingForEver, type PartRef, type Piece } from '@vast-swarm/core/piece';
import { drivenReducers } from './drivenReducers';
import { edit, type PieceState } from './history';
import { partReducers } from './partReducers';
import { put, putOwn, valueAt, type Path } from './pieceEdits';
import { alongWith, selectedParts, selectionThere, type Selection } from './selection';
import { stockReducers } from './stockReducers';

const initialState: PieceState = {
  id: null,
  piece: null,
  selection: null,
  past: [],
  future: [],
  left: null,
};

/** The whole piece is another one, in one step. */
function becomes(
  state: PieceState,
  { piece: other, label }: { piece: Piece; label: string },
): void {
  edit(state, label, (piece) => {
    Object.assign(piece, other);
  });
}

const slice = createSlice({
  name: 'piece',
  initialState,
  reducers: {
    opened(state, { payload }: PayloadAction<{ id: string; piece: Piece }>) {
      const [first] = payload.piece.swarms;
      const selection: Selection = first
        ? { list: 'swarms', id: first.id }
        : { list: 'frame', id: '' };
      // As it is in itself: a draft is not equal to what it is a draft of.
      const { left } = current(state);
      const same = left?.id === payload.id && equal(left.piece, payload.piece);
      const steps = same ? { past: left.past, future: left.future } : {};
      return { ...initialState, ...payload, ...steps, selection };
    },
    closed: (state) => {
      const { id, piece, past, future } = state;
      // Closed once more, what was left before is still what was left.
      return id === null ? state : { ...initialState, left: { id, piece, past, future } };
    },
    selected(state, { payload }: PayloadAction<Selection>) {
      state.selection = payload;
    },
    /** Another part of the list is selected too, or no more; of another list, it alone is. */
    alsoSelected(state, { payload }: PayloadAction<PartRef>) {
      const { list, id } = payload;
      const now = selectedParts(state).filter((r) => r.list === list);
      const others = now.map((r) => r.id).filter((other) => other !== id);
      const [first, ...also] = others.length < now.length ? others : [...others, id];
      if (first !== undefined) state.selection = { list, id: first, also };
    },
    /** Sets one value of the piece. */
    set(
      state,
      { payload }: PayloadAction<{ path: Path; value: unknown; label: string; merge?: string }>,
    ) {
      const { path, value, label, merge } = payload;
      edit(
        state,
        label,
        (piece) => {
          for (const own of [path, ...alongWith(state, piece, path)]) {
            putOwn(piece, own, value);
          }
          const swarm =
            path[0] === 'swarms' && path[3] === 'lasts' && piece.swarms[path[1] as number];
          if (swarm && value === 'ever' && !swarm.follows) livingForEver(swarm);
        },
        merge ?? null,
      );
    },
    /** Takes dials over from another version of the piece, in one step. */
    varied(state, { payload }: PayloadAction<{ piece: Piece; label: string }>) {
      const { piece: other, label } = payload;
      edit(state, label, (piece) => {
        const now = current(piece);
        for (const { path, value } of dialsOf(other)) {
          if (!equal(valueAt(now, path), value)) put(piece, path, value);
        }
      });
    },
    /** The whole piece is another version of it. */
    replaced(state, { payload }: PayloadAction<{ piece: Piece; label: string }>) {
      becomes(state, payload);
      state.selection = selectionThere(state.piece as Piece, state.selection);
    },
    /** Parts that were pasted: the piece as it is with them. */
    pasted(
      state,
      { payload }: PayloadAction<{ piece: Piece; added: readonly PartRef[]; label: string }>,
    ) {
      becomes(state, payload);
      const [first, ...more] = payload.added;
      if (first) {
        state.selection = {
          ...first,
          also: more.filter((r) => r.list === first.list).map((r) => r.id),
        };
      }
    },
    /** The next change of the same dial is a step of its own. */
    settled(state) {
      const last = state.past.at(-1);
      if (last) last.merge = null;
    },
    ...partReducers,
    ...stockReducers,
    ...drivenReducers,
    /** As another tab has made it. */
    followed(state, { payload }: PayloadAction<Piece>) {
      const recipe = (piece: Piece): void => {
        // What is the same stays the same thing: nothing is made anew for it.
        const before = isDraft(piece) ? current(piece) : piece;
        for (const key of Object.keys(payload) as (keyof Piece)[]) {
          if (!equal(before[key], payload[key])) Object.assign(piece, { [key]: payload[key] });
        }
      };
      edit(state, 'Change in another tab', recipe, 'elsewhere');
      if (state.piece) state.selection = selectionThere(state.piece, state.selection);
    },
    undone(state) {
      const step = state.past.at(-1);
      if (!step || !state.piece) return;
      state.piece = applyPatches(state.piece, step.inverse);
      state.past = state.past.slice(0, -1);
      state.future = [...state.future, { ...step, merge: null }];
      state.selection = selectionThere(state.piece, state.selection);
    },
    redone(state) {
      const step = state.future.at(-1);
      if (!step || !state.piece) return;
      state.piece = applyPatches(state.piece, step.patches);
      state.future = state.future.slice(0, -1);
      state.past = [...state.past, step];
      state.selection = selectionThere(state.piece, state.selection);
    },
  },
});

export const pieceActions = slice.actions;
export const pieceReducer = slice.reducer;
