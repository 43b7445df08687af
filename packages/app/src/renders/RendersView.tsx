import { Box, Stack, Typography } from '@mui/material';
import { HomeLink } from '../ui/HomeLink';
import { BrowserShelf } from './BrowserShelf';
import { TellSwitch } from './TellSwitch';
import { ServerShelf } from './ServerShelf';

/** All renders: those of this browser, and those of the server. */
export default function RendersView() {
  return (
    <Box component="main" sx={{ overflowY: 'auto', flex: 1 }}>
      <Box sx={{ maxWidth: 1120, mx: 'auto', px: 4, py: 3 }}>
        <Stack direction="row" sx={{ gap: 1, alignItems: 'baseline' }}>
          <HomeLink />
          <Typography variant="h1">Renders</Typography>
        </Stack>
        <BrowserShelf />
        <ServerShelf />
        <Box sx={{ mt: 4 }}>
          <TellSwitch />
        </Box>
      </Box>
    </Box>
  );
}
