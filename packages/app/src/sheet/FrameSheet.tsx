import { Box, Switch, Tooltip } from '@mui/material';
import { number, type NumberDial } from '@vast-swarm/core/kinds';
import type { Piece } from '@vast-swarm/core/piece';
import { pieceActions } from '../store/pieceSlice';
import { useAppDispatch } from '../store/store';
import { COLOURS } from '../ui/theme';
import { DialRow } from './DialRow';

const whole = { whole: true, group: 'Frame' };

/** The limits of the file's schema, as dials. */
const FRAME: Readonly<Record<Exclude<keyof Piece['frame'], 'loop'>, NumberDial>> = {
  width: number('Width', 1920, [16, 16384], 'Of the finished frame.', { ...whole, unit: 'px' }),
  height: number('Height', 1080, [16, 16384], 'Of the finished frame.', { ...whole, unit: 'px' }),
  rate: number('Frame rate', 30, [1, 240], 'Frames per second; the simulation goes with it.', {
    varies: 'never',
    group: 'Frame',
    unit: '/s',
  }),
  length: number('Length', 600, [1, 200_000], 'In frames.', { ...whole, unit: 'frames' }),
  preroll: number(
    'Pre-roll',
    0,
    [0, 20_000],
    'Frames simulated before frame 0, so that it is full.',
    {
      ...whole,
      unit: 'frames',
    },
  ),
};
const SEED = number('Seed', 1, [0, 2147483647], 'Another seed, another draw of all chance.', whole);

const DENSITY = number(
  'Density',
  1,
  [0.01, 100],
  'Multiplies how many particles carry the picture; size and opacity make up for it.',
  { varies: 'never', drag: 'log', unit: '×' },
);

/** Whether the end of the piece runs into its beginning. */
function LoopRow({ loop }: { loop: boolean }) {
  const dispatch = useAppDispatch();
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '96px 1fr', alignItems: 'center', py: '3px' }}>
      <Tooltip
        title="The last frame leads to the first without a seam: particles live on across it, and what moves comes round in the length of the piece."
        placement="left"
      >
        <Box sx={{ color: COLOURS.faint, fontSize: 13 }}>Loop</Box>
      </Tooltip>
      <Switch
        size="small"
        checked={loop}
        slotProps={{ input: { 'aria-label': 'Loop' } }}
        onChange={({ target }) => {
          const value = target.checked;
          dispatch(pieceActions.set({ path: ['frame', 'loop'], value, label: 'Loop' }));
        }}
      />
    </Box>
  );
}

export function FrameSheet({ piece }: { piece: Piece }) {
  const { rate } = piece.frame;
  return (
    <>
      <Box
        component="h2"
        sx={{ m: 0, pt: 1.25, pb: 1, fontSize: 16, fontWeight: 600, color: COLOURS.amber }}
      >
        Frame and time
      </Box>
      {(Object.keys(FRAME) as (keyof typeof FRAME)[]).map((key) => (
        <DialRow
          key={key}
          spec={FRAME[key]}
          value={piece.frame[key]}
          path={['frame', key]}
          rate={rate}
        />
      ))}
      <LoopRow loop={piece.frame.loop ?? false} />
      <DialRow spec={SEED} value={piece.seed} path={['seed']} rate={rate} />
      <DialRow spec={DENSITY} value={piece.density} path={['density']} rate={rate} />
    </>
  );
}
