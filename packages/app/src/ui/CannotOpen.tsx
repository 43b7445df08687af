import { Box, Button, Typography } from '@mui/material';
import { Link } from 'react-router';

/** A piece or show at an address that cannot be opened, and why. */
export function CannotOpen({ what, trouble }: { what: 'piece' | 'show'; trouble: string }) {
  return (
    <Box sx={{ p: 6, maxWidth: 560 }} role="alert">
      <Typography variant="h2" gutterBottom>
        This {what} cannot be opened
      </Typography>
      <Typography sx={{ mb: 2, whiteSpace: 'pre-line' }}>{trouble}</Typography>
      <Button component={Link} to="/" variant="outlined">
        To the pieces
      </Button>
    </Box>
  );
}
