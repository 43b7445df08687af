import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import type { Piece } from '@vast-swarm/core/piece';
import { bakeReducer } from './bakeSlice';
import { noticeReducer } from './noticeSlice';
import { pieceReducer } from './pieceSlice';
import { toolReducer } from './toolSlice';

export const store = configureStore({
  reducer: { piece: pieceReducer, notices: noticeReducer, tools: toolReducer, bakes: bakeReducer },
  // Pieces are large and plain; walking them after every drag event costs more than it tells.
  middleware: (defaults) => defaults({ immutableCheck: false, serializableCheck: false }),
});

export type RootState = ReturnType<typeof store.getState>;
export const useApp = useSelector.withTypes<RootState>();
export const useAppDispatch = useDispatch.withTypes<typeof store.dispatch>();

/** The open piece; only for parts of a view that is shown with one. */
export function usePiece(): Piece {
  const piece = useApp((s) => s.piece.piece);
  if (!piece) throw new Error('no piece is open');
  return piece;
}
