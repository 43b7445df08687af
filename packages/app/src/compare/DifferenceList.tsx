import { Box, Button, Stack } from '@mui/material';
import { useMemo } from 'react';
import type { Piece } from '@vast-swarm/core/piece';
import { COLOURS, MONO } from '../ui/theme';
import { differences, type Difference } from './differences';

interface Props {
  here: Piece;
  there: Piece;
  onTake: (title: string, change: Difference['change']) => void;
}

/** The dials in which two versions differ, each with a button that takes it over. */
export function DifferenceList({ here, there, onTake }: Props) {
  const found = useMemo(() => differences(here, there), [here, there]);
  return (
    <>
      <Box component="h2" sx={{ m: 0, mb: 1, fontSize: 14, fontWeight: 600 }}>
        {found.length === 0
          ? 'Nothing differs'
          : `${String(found.length)} ${found.length === 1 ? 'difference' : 'differences'}`}
      </Box>
      {found.map(({ key, title, here: own, there: other, change }) => (
        <Stack
          key={key}
          direction="row"
          role="group"
          aria-label={title}
          sx={{ alignItems: 'center', gap: 1, py: 0.5, borderTop: `1px solid ${COLOURS.line}` }}
        >
          <Box sx={{ flex: 1, minWidth: 0, fontSize: 12.5 }}>
            {title}
            <Box
              sx={{
                fontFamily: MONO,
                fontSize: 11.5,
                color: COLOURS.faint,
                overflowWrap: 'anywhere',
              }}
            >
              {own ?? 'not here'} →{' '}
              <span style={{ color: COLOURS.glass }}>{other ?? 'not there'}</span>
            </Box>
          </Box>
          <Button
            size="small"
            onClick={() => {
              onTake(title, change);
            }}
          >
            {'remove' in change ? 'Remove' : 'Take over'}
          </Button>
        </Stack>
      ))}
    </>
  );
}
