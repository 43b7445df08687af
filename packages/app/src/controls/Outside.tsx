import { Box, Button, Stack } from '@mui/material';
import { useOutside, useOutsideTold } from '../control/OutsideContext';
import type { LinkState } from '../live/serverLink';
import { COLOURS } from '../ui/theme';

const WORDS: Record<LinkState, string> = {
  off: '',
  opening: 'Looking for the server…',
  open: 'Heard from outside',
  lost: 'The server is gone; looking for it…',
};

/** Lets the piece be run from outside while it is open. */
export function Outside() {
  const outside = useOutside();
  const state = useOutsideTold((o) => o.runner.state);
  const midi = useOutsideTold((o) => o.midi);
  const on = state !== 'off';
  return (
    <Stack direction="row" sx={{ alignItems: 'center', gap: 1, fontSize: 12 }}>
      <Box role="status" sx={{ color: state === 'lost' ? COLOURS.coral : COLOURS.glass }}>
        {WORDS[state]}
        {on && midi === true && ', MIDI too'}
      </Box>
      <Button
        sx={{ py: 0 }}
        onClick={() => {
          if (on) outside.close();
          else outside.open();
        }}
      >
        {on ? 'Do not listen' : 'Listen to the outside'}
      </Button>
    </Stack>
  );
}
