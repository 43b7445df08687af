import { Checkbox, MenuItem, TextField } from '@mui/material';
import { FRAME_PASSES, type FramePass } from '@vast-swarm/core/plan';
import { LAYER_TITLES, type FieldsProps } from '../formats/settings';

const titlesOf = (layers: readonly FramePass[]): string =>
  layers.map((layer) => LAYER_TITLES[layer]).join(', ');

/** Layers of OpenEXR frames beside the picture. */
export function LayersField({ settings, running, put }: FieldsProps) {
  const { layers } = settings;
  return (
    <TextField
      select
      label="Layers beside the picture"
      size="small"
      value={layers}
      disabled={running}
      helperText=" "
      fullWidth
      slotProps={{
        inputLabel: { shrink: true },
        select: {
          multiple: true,
          displayEmpty: true,
          renderValue: () => titlesOf(layers) || 'None',
        },
      }}
      onChange={(e) => {
        const picked = e.target.value as unknown as readonly FramePass[];
        put({ layers: FRAME_PASSES.filter((layer) => picked.includes(layer)) });
      }}
    >
      {FRAME_PASSES.map((layer) => (
        <MenuItem key={layer} value={layer} dense>
          <Checkbox size="small" checked={layers.includes(layer)} tabIndex={-1} />
          {LAYER_TITLES[layer]}
        </MenuItem>
      ))}
    </TextField>
  );
}
