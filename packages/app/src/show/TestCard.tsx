import { Box } from '@mui/material';
import { COLOURS, MONO } from '../ui/theme';

const CELLS = { across: 16, down: 9 };

/** The test card for projectors: edges, centre, squares, circles, steps of grey, pure colours. */
export function TestCard({ name, size }: { name: string; size: string }) {
  const { across, down } = CELLS;
  const lines = (count: number, span: number): number[] =>
    Array.from({ length: count + 1 }, (_, i) => (i * span) / count);
  const greys = Array.from({ length: 11 }, (_, i) => i / 10);
  const pure = ['#f00', '#0f0', '#00f', '#0ff', '#f0f', '#ff0'];
  return (
    <Box
      role="img"
      aria-label="Test card"
      sx={{ position: 'absolute', inset: 0, bgcolor: '#000', display: 'grid' }}
    >
      <svg viewBox="0 0 1600 900" preserveAspectRatio="none" width="100%" height="100%">
        <g stroke="#4d6669" strokeWidth={2}>
          {lines(across, 1600).map((x) => (
            <line key={x} x1={x} x2={x} y1={0} y2={900} />
          ))}
          {lines(down, 900).map((y) => (
            <line key={y} x1={0} x2={1600} y1={y} y2={y} />
          ))}
        </g>
        <rect x={1} y={1} width={1598} height={898} fill="none" stroke="#fff" strokeWidth={2} />
        <path d="M800 0V900M0 450H1600" stroke={COLOURS.amber} strokeWidth={3} />
        {[
          [800, 450, 400],
          [150, 150, 100],
          [1450, 150, 100],
          [150, 750, 100],
          [1450, 750, 100],
        ].map(([x, y, r]) => (
          <ellipse
            key={`${String(x)} ${String(y)}`}
            cx={x}
            cy={y}
            rx={r}
            ry={r}
            fill="none"
            stroke="#fff"
            strokeWidth={3}
          />
        ))}
        {greys.map((grey, i) => (
          <rect
            key={grey}
            x={360 + i * 80}
            y={600}
            width={80}
            height={70}
            fill={`rgb(${[0, 1, 2].map(() => String(Math.round(255 * grey))).join()})`}
          />
        ))}
        {pure.map((colour, i) => (
          <rect key={colour} x={440 + i * 120} y={690} width={120} height={50} fill={colour} />
        ))}
      </svg>
      <Box
        sx={{
          position: 'absolute',
          left: 0,
          right: 0,
          top: '27%',
          textAlign: 'center',
          fontFamily: MONO,
          fontSize: 'min(4vw, 7vh)',
          color: '#fff',
        }}
      >
        {name}
        <Box sx={{ fontSize: '0.6em', color: COLOURS.amber }}>{size}</Box>
      </Box>
    </Box>
  );
}
