import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Notice } from '@vast-swarm/core';

type Path = (string | number)[];

/** What the pointer does in the picture beside moving the camera. */
export interface ToolState {
  /** The pen draws an outline for a dial; the flow brush lays strokes into one; masks are shapes. */
  tool: { kind: 'pen' | 'brush' | 'mask'; path: Path } | null;
  brush: { radius: number; strength: number };
  /** Whether the piece plays. */
  playing: boolean;
  /** Outlines and handles of the selected part. */
  handles: boolean;
  /** Whether a particle's readings are shown. */
  following: boolean;
  /** Titles of groups in the sheet that are folded away, in whatever part. */
  folded: readonly string[];
  /** What the engine says of the piece, in numbers. */
  notices: readonly Notice[];
}

const initialState: ToolState = {
  tool: null,
  brush: { radius: 0.12, strength: 1 },
  playing: true,
  handles: true,
  following: false,
  folded: [],
  notices: [],
};

const slice = createSlice({
  name: 'tools',
  initialState,
  reducers: {
    toolChosen(state, { payload }: PayloadAction<ToolState['tool']>) {
      state.tool = payload;
    },
    brushSet(state, { payload }: PayloadAction<Partial<ToolState['brush']>>) {
      Object.assign(state.brush, payload);
    },
    playSet(state, { payload }: PayloadAction<boolean>) {
      state.playing = payload;
    },
    handlesToggled(state) {
      state.handles = !state.handles;
    },
    followingSet(state, { payload }: PayloadAction<boolean>) {
      state.following = payload;
    },
    noticesTold(state, { payload }: PayloadAction<ToolState['notices']>) {
      state.notices = [...payload];
    },
    groupFolded(state, { payload }: PayloadAction<string>) {
      const others = state.folded.filter((title) => title !== payload);
      state.folded = others.length < state.folded.length ? others : [...others, payload];
    },
    toolsReset: ({ folded }) => ({ ...initialState, folded }),
  },
});

export const toolActions = slice.actions;
export const toolReducer = slice.reducer;
