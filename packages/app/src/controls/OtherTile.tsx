import { Box, ButtonBase, Popover, Stack } from '@mui/material';
import { useState } from 'react';
import type { ControlValue } from '@vast-swarm/core/feeds';
import type { Part, Piece } from '@vast-swarm/core/piece';
import { COLOURS } from '../ui/theme';
import { ControlValueField } from '../sheet/controls/ControlValueField';
import { gradientCss } from '../sheet/GradientTools';

interface Props {
  piece: Piece;
  control: Part;
  /** Its value as JSON: another text only where it is another value. */
  text: string;
  /** Pixels. */
  height: number;
  onSet: (to: ControlValue) => void;
}

/** A control that is no number: a switch, a colour, a gradient, a picture, a choice. */
export function OtherTile({ piece, control, text, height, onSet }: Props) {
  const { name } = control;
  const value = JSON.parse(text) as ControlValue;
  const fontSize = height > 40 ? 15.5 : 13;
  if (typeof value === 'boolean') {
    return (
      <ButtonBase
        role="switch"
        aria-checked={value}
        onClick={() => {
          onSet(!value);
        }}
        sx={{
          height,
          px: 1,
          borderRadius: 0.75,
          width: '100%',
          gap: 1,
          fontSize,
          justifyContent: 'flex-start',
          fontFamily: 'inherit',
          bgcolor: COLOURS.raised,
          color: value ? COLOURS.glass : COLOURS.faint,
        }}
      >
        <Box sx={{ flex: 1, textAlign: 'left', color: COLOURS.text }}>{name}</Box>
        {value ? 'On' : 'Off'}
      </ButtonBase>
    );
  }
  return (
    <Stack
      direction="row"
      sx={{
        alignItems: 'center',
        minHeight: height,
        px: 1,
        gap: 1,
        fontSize,
        bgcolor: COLOURS.raised,
        borderRadius: 0.75,
      }}
    >
      <Box sx={{ flex: 1, minWidth: 60 }}>{name}</Box>
      <TileField
        {...{ piece, control, value }}
        label={name}
        onChange={onSet}
        onSettle={() => undefined}
      />
    </Stack>
  );
}

/** The value of a control, where there is little room: a gradient is seen, and opens when it is pressed. */
function TileField(props: Parameters<typeof ControlValueField>[0]) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const { value, label } = props;
  if (!Array.isArray(value)) return <ControlValueField {...props} />;
  return (
    <>
      <ButtonBase
        aria-label={`${label}: change the gradient`}
        onClick={(event) => {
          setAnchor(event.currentTarget);
        }}
        sx={{ width: 120, height: 16, borderRadius: 0.5, background: gradientCss(value) }}
      />
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => {
          setAnchor(null);
        }}
        anchorOrigin={{ vertical: 'top', horizontal: 'left' }}
        transformOrigin={{ vertical: 'bottom', horizontal: 'left' }}
      >
        <Box sx={{ p: 1.5, width: 300 }}>
          <ControlValueField {...props} />
        </Box>
      </Popover>
    </>
  );
}
