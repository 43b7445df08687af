import { Box } from '@mui/material';
import { COLOURS } from '../ui/theme';

const [LEAST, MOST] = [340, 720];

/** Between picture and sheet; dragged, or moved with the arrow keys. */
export function SheetDivider({
  width,
  onChange,
}: {
  width: number;
  onChange: (width: number) => void;
}) {
  const put = (w: number): void => {
    onChange(Math.min(MOST, Math.max(LEAST, Math.round(w))));
  };
  return (
    <Box
      role="separator"
      aria-orientation="vertical"
      aria-label="Width of the sheet"
      aria-valuenow={width}
      aria-valuemin={LEAST}
      aria-valuemax={MOST}
      tabIndex={0}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={(event) => {
        if (event.buttons & 1) put(innerWidth - event.clientX);
      }}
      onKeyDown={(event) => {
        if (event.key === 'ArrowLeft') put(width + 20);
        if (event.key === 'ArrowRight') put(width - 20);
      }}
      sx={{
        width: 5,
        cursor: 'col-resize',
        bgcolor: COLOURS.line,
        touchAction: 'none',
        '&:hover': { bgcolor: COLOURS.faint },
      }}
    />
  );
}
