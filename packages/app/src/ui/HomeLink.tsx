import { Box } from '@mui/material';
import { Link } from 'react-router';
import { COLOURS } from './theme';

/** The way to all pieces, before the name of what is open. */
export function HomeLink() {
  return (
    <>
      <Box
        component={Link}
        to="/"
        sx={{
          color: COLOURS.faint,
          textDecoration: 'none',
          fontWeight: 600,
          whiteSpace: 'nowrap',
        }}
      >
        Vast Swarm
      </Box>
      <Box sx={{ color: COLOURS.faint }} aria-hidden>
        ▸
      </Box>
    </>
  );
}
