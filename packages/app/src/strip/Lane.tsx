import { Box } from '@mui/material';
import type { ReactNode } from 'react';
import { COLOURS } from '../ui/theme';

interface Props {
  height: number;
  /** The name before it. */
  name: ReactNode;
  children: ReactNode;
  line?: boolean;
}

/** A row of the strip: its name before it, and in it only what is in view. */
export function Lane({ height, name, children, line = true }: Props) {
  return (
    <Box
      sx={{ position: 'relative', height, ...(line && { borderTop: `1px solid ${COLOURS.line}` }) }}
    >
      {name}
      <Box sx={{ position: 'absolute', inset: 0, overflow: 'hidden' }}>{children}</Box>
    </Box>
  );
}
