import { Box, Button, Stack } from '@mui/material';
import { useEffect, useState, useSyncExternalStore } from 'react';
import { offerOf } from '@vast-swarm/core';
import { Runner, type RunnerState } from '../../control/runner';
import { useEngine } from '../../engine/EngineContext';
import { store } from '../../store/store';
import { COLOURS } from '../../theme';
import { actsOf } from './useActs';

const WORDS: Record<RunnerState, string> = {
  off: '',
  opening: 'Looking for the server…',
  open: 'Heard from outside',
  lost: 'The server is gone; looking for it…',
};

/** Lets the piece be run from outside while it is open: by Open Sound Control, and by JSON. */
export function Outside() {
  const engine = useEngine();
  const [runner] = useState(() => {
    const acts = actsOf(engine);
    return new Runner(
      () => engine.report?.controls ?? {},
      (act) => {
        if ('cue' in act) acts.fire(act.cue);
        else engine.act(act);
      },
    );
  });
  const state = useSyncExternalStore(runner.told, () => runner.state);
  useEffect(() => {
    const tell = (): void => {
      const { piece } = store.getState().piece;
      if (piece) runner.setOffer(offerOf(piece));
    };
    tell();
    const stop = store.subscribe(tell);
    return () => {
      stop();
      runner.close();
    };
  }, [runner]);
  const on = state !== 'off';
  return (
    <Stack direction="row" sx={{ alignItems: 'center', gap: 1, fontSize: 12 }}>
      <Box role="status" sx={{ color: state === 'lost' ? COLOURS.coral : COLOURS.glass }}>
        {WORDS[state]}
      </Box>
      <Button
        sx={{ py: 0 }}
        onClick={() => {
          if (on) runner.close();
          else runner.open();
        }}
      >
        {on ? 'Do not listen' : 'Listen to the outside'}
      </Button>
    </Stack>
  );
}
