import { Box, Button, IconButton, Stack } from '@mui/material';
import { Trash2 } from 'lucide-react';
import { MOST_SHAPES as MOST, type Mask, type MaskShape } from '@vast-swarm/core/feeds';
import type { StockDial } from '@vast-swarm/core/kinds';
import { useApp, useAppDispatch } from '../store/store';
import { toolActions } from '../store/toolSlice';
import { StockCell } from './StockCell';

interface Props {
  mask: Mask;
  path: (string | number)[];
  onChange: (mask: Mask) => void;
}

const OUTLINE: StockDial = {
  type: 'stock',
  title: 'Outline',
  accepts: ['outline'],
  default: '',
  help: 'An outline whose inside is the shape.',
  group: 'Where',
};

/** Shapes of a mask; they are drawn and moved in the picture. */
export function MaskCell({ mask, path, onChange }: Props) {
  const dispatch = useAppDispatch();
  const tool = useApp((s) => s.tools.tool);
  const on = tool?.kind === 'mask' && tool.path.join('.') === path.join('.');
  const add = (shape: MaskShape): void => {
    onChange([...mask, shape]);
    dispatch(toolActions.toolChosen({ kind: 'mask', path }));
  };
  return (
    <Box>
      <Stack direction="row" sx={{ gap: 1, flexWrap: 'wrap' }}>
        <Button
          disabled={mask.length >= MOST}
          onClick={() => {
            add({ shape: 'ellipse', x: 0.5, y: 0.5, wide: 0.4, high: 0.25, turn: 0 });
          }}
        >
          Add an ellipse
        </Button>
        <Button
          disabled={mask.length >= MOST}
          onClick={() => {
            add({ shape: 'outline', outline: '', x: 0.5, y: 0.5, tall: 0.6, turn: 0 });
          }}
        >
          Add an outline
        </Button>
        <Button
          variant={on ? 'contained' : 'outlined'}
          aria-pressed={on}
          onClick={() => dispatch(toolActions.toolChosen(on ? null : { kind: 'mask', path }))}
        >
          {on ? 'Done' : 'Draw in the picture'}
        </Button>
      </Stack>
      {mask.map((shape, i) => (
        <Stack key={i} direction="row" sx={{ alignItems: 'center', fontSize: 12.5 }}>
          <Box sx={{ flex: 1 }}>
            {shape.shape === 'outline' ? (
              <StockCell
                spec={OUTLINE}
                value={shape.outline}
                path={[...path, i, 'outline']}
                onChange={(outline) => {
                  onChange(mask.map((s, k) => (k === i ? { ...shape, outline } : s)));
                }}
              />
            ) : shape.shape === 'ellipse' ? (
              'Ellipse'
            ) : (
              `Polygon of ${String(shape.points.length / 2)}`
            )}
          </Box>
          <IconButton
            aria-label={`Remove shape ${String(i + 1)} of the mask`}
            sx={{ p: '2px' }}
            onClick={() => {
              onChange(mask.filter((_, k) => k !== i));
            }}
          >
            <Trash2 size={13} />
          </IconButton>
        </Stack>
      ))}
    </Box>
  );
}
