import { Box, Button, Stack } from '@mui/material';
import type { Strokes } from '@vast-swarm/core/feeds';
import { useApp, useAppDispatch } from '../store/store';
import { toolActions } from '../store/toolSlice';
import { COLOURS } from '../ui/theme';
import { NumberField } from '../fields/NumberField';

interface Props {
  strokes: Strokes;
  path: (string | number)[];
  onChange: (strokes: Strokes) => void;
}

const RADIUS = { min: 0.005, max: 1, unit: '' };
const STRENGTH = { min: 0, max: 10, unit: '' };

/** The flow brush: its size and strength, and what has been brushed. */
export function StrokesCell({ strokes, path, onChange }: Props) {
  const dispatch = useAppDispatch();
  const { tool, brush } = useApp((s) => s.tools);
  const on = tool?.kind === 'brush' && tool.path.join('.') === path.join('.');
  return (
    <Box sx={{ gridColumn: 'span 2' }}>
      <Stack direction="row" sx={{ gap: 1, flexWrap: 'wrap' }}>
        <Button
          variant={on ? 'contained' : 'outlined'}
          aria-pressed={on}
          onClick={() => dispatch(toolActions.toolChosen(on ? null : { kind: 'brush', path }))}
        >
          {on ? 'Put the brush away' : 'Take the flow brush'}
        </Button>
        <Button
          disabled={strokes.length === 0}
          onClick={() => {
            onChange(strokes.slice(0, -1));
          }}
        >
          Last stroke away
        </Button>
      </Stack>
      <Stack direction="row" sx={{ alignItems: 'baseline', fontSize: 12, color: COLOURS.faint }}>
        Radius
        <NumberField
          label="Brush radius"
          value={brush.radius}
          spec={RADIUS}
          rate={30}
          onChange={(radius) => dispatch(toolActions.brushSet({ radius }))}
          onSettle={() => undefined}
        />
        Strength
        <NumberField
          label="Brush strength"
          value={brush.strength}
          spec={STRENGTH}
          rate={30}
          onChange={(strength) => dispatch(toolActions.brushSet({ strength }))}
          onSettle={() => undefined}
        />
        <span>{`${String(strokes.length)} stroke${strokes.length === 1 ? '' : 's'}`}</span>
      </Stack>
    </Box>
  );
}
