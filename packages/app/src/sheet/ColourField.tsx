import { Box, ButtonBase, Popover } from '@mui/material';
import { useState } from 'react';
import { HexColorInput, HexColorPicker } from 'react-colorful';
import { COLOURS, MONO } from '../ui/theme';

interface Props {
  label: string;
  value: string;
  onChange: (hex: string) => void;
  onSettle: () => void;
}

/** A swatch that opens a picker. */
export function ColourField({ label, value, onChange, onSettle }: Props) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <ButtonBase
        aria-label={`${label}: ${value}`}
        onClick={(event) => {
          setAnchor(event.currentTarget);
        }}
        sx={{ gap: 0.75, px: 0.5, borderRadius: 0.5, fontFamily: MONO, fontSize: 12 }}
      >
        <Box
          sx={{
            width: 22,
            height: 16,
            borderRadius: 0.5,
            bgcolor: value,
            border: `1px solid ${COLOURS.faint}`,
          }}
        />
        {value}
      </ButtonBase>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => {
          setAnchor(null);
          onSettle();
        }}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
      >
        <Box sx={{ p: 1.5, display: 'grid', gap: 1 }}>
          <HexColorPicker color={value} onChange={onChange} />
          <HexColorInput
            prefixed
            color={value}
            onChange={onChange}
            aria-label={`${label} as #rrggbb`}
            style={{
              fontFamily: MONO,
              background: COLOURS.ground,
              color: COLOURS.text,
              border: `1px solid ${COLOURS.line}`,
              borderRadius: 4,
              padding: 4,
            }}
          />
        </Box>
      </Popover>
    </>
  );
}
