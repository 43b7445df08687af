import { Box } from '@mui/material';
import type { Part } from '@vast-swarm/core/piece';
import { COLOURS } from '../ui/theme';
import { PictureCanvas } from '../ui/PictureCanvas';
import { useMoving } from '../answers/useMoving';
import { useSeen } from '../answers/useSeen';

const [W, H] = [320, 180];
const EVERY = 120;

/** A moving picture as it is in the frame that is shown. */
export function MovingPreview({ part }: { part: Part }) {
  const moving = useMoving(part);
  const picture = useSeen(moving, EVERY);
  return (
    <Box sx={{ my: 1, color: COLOURS.faint, fontSize: 12.5 }}>
      <PictureCanvas
        picture={picture}
        width={W}
        height={H}
        label={`${part.name} now`}
        sx={{ width: W, maxWidth: '100%', bgcolor: '#060b0c', display: 'block', borderRadius: 0.5 }}
      />
      {!moving && 'Choose a clip, or take one from a file.'}
    </Box>
  );
}
