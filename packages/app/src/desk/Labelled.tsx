import { Box, Stack } from '@mui/material';
import type { ReactNode } from 'react';
import { COLOURS } from '../ui/theme';

interface Props {
  label: string;
  /** Pixels of the word, where several stand below each other. */
  width?: number;
  children: ReactNode;
}

/** Something with a word before it. */
export function Labelled({ label, width, children }: Props) {
  return (
    <Stack direction="row" sx={{ alignItems: 'center', gap: 1 }}>
      <Box
        sx={{
          color: COLOURS.faint,
          fontSize: 13,
          whiteSpace: 'nowrap',
          ...(width ? { width } : {}),
        }}
      >
        {label}
      </Box>
      {children}
    </Stack>
  );
}
