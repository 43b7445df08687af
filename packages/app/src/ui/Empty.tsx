import { Box, type SxProps } from '@mui/material';
import type { ReactNode } from 'react';
import { COLOURS } from './theme';

interface Props {
  /** The words of an empty place. */
  children: ReactNode;
  /** The way on, right here. */
  action?: ReactNode;
  sx?: SxProps;
}

/** Stands where there is nothing yet, with the next thing to do. */
export function Empty({ children, action, sx }: Props) {
  return (
    <Box sx={sx}>
      <Box sx={{ color: COLOURS.faint }}>{children}</Box>
      {action && <Box sx={{ mt: 0.75 }}>{action}</Box>}
    </Box>
  );
}
