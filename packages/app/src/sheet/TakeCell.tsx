import { Box, Button, Slider, Stack } from '@mui/material';
import { useEffect, useState } from 'react';
import type { Take } from '@vast-swarm/core/feeds';
import { useEngine } from '../engine/EngineContext';
import { usePiece } from '../store/store';
import { COLOURS } from '../ui/theme';

interface Props {
  take: Take;
  path: (string | number)[];
  onChange: (take: Take) => void;
}

const NOTHING: Take = { rate: 30, first: 0, values: [] };

function toldOf({ rate, first, values }: Take): string {
  if (values.length === 0) return 'Nothing recorded. Move it while the piece plays.';
  const seconds = [first, first + values.length].map((n) => (n / rate).toFixed(1));
  return `Recorded from ${seconds[0]!} s to ${seconds[1]!} s.`;
}

/** A slider that moves a signal by hand, and its take. */
export function TakeCell({ take, path, onChange }: Props) {
  const engine = useEngine();
  const signal = usePiece().signals[path[1] as number]!.id;
  const [value, setValue] = useState(take.values.at(-1) ?? 0);
  // Taken from the sheet while it is held, it is let go.
  useEffect(() => () => engine.drive(signal, null), [engine, signal]);
  return (
    <Box sx={{ pr: 1 }}>
      <Slider
        size="small"
        aria-label="By hand"
        min={0}
        max={1}
        step={0.001}
        value={value}
        onChange={(_, next) => {
          setValue(next);
          engine.drive(signal, next);
        }}
        onChangeCommitted={(event) => {
          // Moved by keys it is held until the focus goes elsewhere.
          if (event.type !== 'change') engine.drive(signal, null);
        }}
        onBlur={() => {
          engine.drive(signal, null);
        }}
      />
      <Stack direction="row" sx={{ alignItems: 'center', gap: 1, fontSize: 12 }}>
        <Box sx={{ color: COLOURS.faint, flex: 1 }}>{toldOf(take)}</Box>
        <Button
          disabled={take.values.length === 0}
          onClick={() => {
            onChange(NOTHING);
          }}
        >
          Forget it
        </Button>
      </Stack>
    </Box>
  );
}
