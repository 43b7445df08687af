import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

/** A swarm's bake, as far as it is known. */
export interface BakeInfo {
  /** The motion it was made from. */
  key: string;
  bytes: number;
  made: number;
}

export interface BakeState {
  bakes: Record<string, BakeInfo>;
  /** The bake in the making. */
  making: { swarm: string; done: number; total: number } | null;
}

const initialState: BakeState = { bakes: {}, making: null };

const slice = createSlice({
  name: 'bakes',
  initialState,
  reducers: {
    bakesLoaded(state, { payload }: PayloadAction<BakeState['bakes']>) {
      state.bakes = payload;
      state.making = null;
    },
    making(state, { payload }: PayloadAction<BakeState['making']>) {
      state.making = payload;
    },
  },
});

export const bakeActions = slice.actions;
export const bakeReducer = slice.reducer;
