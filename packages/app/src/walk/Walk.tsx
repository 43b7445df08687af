import { Box, Button } from '@mui/material';
import { useEffect, useRef } from 'react';
import { store, useApp, useAppDispatch } from '../store/store';
import { toolActions } from '../store/toolSlice';
import { COLOURS } from '../ui/theme';
import { isNewcomer, STEPS, storedStep, storeStep } from './steps';

/** The next step of the walk through a first piece: done by doing it, never in the way, and never again once done. */
export function Walk() {
  const dispatch = useAppDispatch();
  const step = useApp((s) => s.tools.walk);
  useBegin();
  useDoing(step);
  if (step === null) return null;
  return (
    <Box
      role="status"
      aria-label="First steps"
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 1.5,
        px: 2,
        py: 0.5,
        fontSize: 13,
        bgcolor: COLOURS.raised,
        borderTop: `1px solid ${COLOURS.amber}`,
      }}
    >
      <Box sx={{ color: COLOURS.amber, whiteSpace: 'nowrap' }}>
        First steps, {step + 1} of {STEPS.length}
      </Box>
      <Box sx={{ flex: 1 }}>{STEPS[step]!.text}</Box>
      <Button
        size="small"
        onClick={() => {
          storeStep(null);
          dispatch(toolActions.walkSet(null));
        }}
      >
        Skip
      </Button>
    </Box>
  );
}

/** Somebody new who opens a piece without anything in it is taken along; who was on the way goes on. */
function useBegin(): void {
  const dispatch = useAppDispatch();
  useEffect(() => {
    const { piece } = store.getState().piece;
    if (isNewcomer() && piece?.swarms.length === 0) storeStep(0);
    dispatch(toolActions.walkSet(storedStep()));
  }, [dispatch]);
}

/** Goes on to the next step as soon as this one is done. */
function useDoing(step: number | null): void {
  const dispatch = useAppDispatch();
  const piece = useApp((s) => s.piece.piece!);
  const future = useApp((s) => s.piece.future.length);
  const began = useRef({ step: -1, piece, future });
  useEffect(() => {
    if (step === null) return;
    if (began.current.step !== step) began.current = { step, piece, future };
    const { piece: before, future: had } = began.current;
    if (!STEPS[step]!.done({ piece, before, undone: future > had })) return;
    storeStep(step + 1);
    dispatch(toolActions.walkSet(storedStep()));
  }, [step, piece, future, dispatch]);
}
