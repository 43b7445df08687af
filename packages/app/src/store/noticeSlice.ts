import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

export interface Notice {
  /** A new notice with the key of an old one takes its place. */
  key: string;
  kind: 'note' | 'wrong';
  message: string;
  /** The act of a button on it. */
  action?:
    'undo' | 'export' | 'restore' | 'restoreShow' | 'keepPiece' | 'keepCopy' | 'cancelReading';
}

const slice = createSlice({
  name: 'notices',
  initialState: [] as Notice[],
  reducers: {
    noticed: (state, { payload }: PayloadAction<Notice>) => [
      ...state.filter((n) => n.key !== payload.key),
      payload,
    ],
    dismissed(state, { payload }: PayloadAction<string>) {
      const at = state.findIndex((n) => n.key === payload);
      if (at >= 0) state.splice(at, 1);
    },
  },
});

export const { noticed, dismissed } = slice.actions;
export const noticeReducer = slice.reducer;
