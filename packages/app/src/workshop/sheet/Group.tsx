import { Box, Stack } from '@mui/material';
import type { ReactNode } from 'react';
import { COLOURS } from '../../theme';

/** Dials that belong together, under a title. */
export function Group(props: { title: string; aside?: ReactNode; children: ReactNode }) {
  return (
    <Box
      component="section"
      aria-label={props.title}
      sx={{ borderTop: `1px solid ${COLOURS.line}`, mt: 0.75, pt: 0.75 }}
    >
      <Stack
        direction="row"
        sx={{ justifyContent: 'space-between', alignItems: 'end', gap: 1, mb: 0.25 }}
      >
        <Box component="h3" sx={{ m: 0, fontSize: 12.5, fontWeight: 600, color: COLOURS.text }}>
          {props.title}
        </Box>
        {props.aside}
      </Stack>
      {props.children}
    </Box>
  );
}
