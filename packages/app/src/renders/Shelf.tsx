import { Box, Typography } from '@mui/material';
import type { ReactNode } from 'react';
import { COLOURS } from '../ui/theme';
import { Empty } from '../ui/Empty';

interface Props {
  title: string;
  about: string;
  /** The words of an empty shelf; null where there is something. */
  empty: string | null;
  /** The way on from an empty shelf. */
  next?: ReactNode;
  children: ReactNode;
}

/** The renders of one place. */
export function Shelf({ title, about, empty, next, children }: Props) {
  return (
    <Box component="section" aria-label={title} sx={{ mt: 3.5 }}>
      <Typography variant="h2">{title}</Typography>
      <Typography sx={{ color: COLOURS.faint, fontSize: 13, mb: 1 }}>{about}</Typography>
      {empty !== null && (
        <Empty action={next} sx={{ py: 1.5 }}>
          {empty}
        </Empty>
      )}
      <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {children}
      </Box>
    </Box>
  );
}
