import { Box } from '@mui/material';
import { visuallyHidden } from '@mui/utils';
import { useEffect, useRef, useState } from 'react';
import { universesOf, validateWall, type Wall } from '@vast-swarm/core/show';
import { ServerLink, type LinkState } from '../live/serverLink';
import { COLOURS, MONO } from '../ui/theme';
import { WallPainter } from './wallPainter';

/** Counts of the stand-in beside levels. */
interface Counts {
  packets: number;
  refused: number;
  late: number;
  universes: number;
}

/** A wall of LED panels as it would look, for whoever has none. */
export default function WallView() {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [state, setState] = useState<LinkState>('opening');
  const [counts, setCounts] = useState<Counts | null>(null);
  const [wall, setWall] = useState<Wall | null>(null);
  useEffect(() => {
    document.title = 'Vast Swarm wall';
    let painter: WallPainter | null = null;
    let frame: number | null = null;
    const fit = new ResizeObserver(() => painter?.paint());
    fit.observe(canvas.current!);
    const link = new ServerLink('/wall/levels', {
      heard: (data) => {
        if (typeof data !== 'string') {
          painter?.take(new DataView(data));
          // As often as it is seen, however often levels come.
          frame ??= requestAnimationFrame(() => {
            frame = null;
            painter?.paint();
          });
          return;
        }
        const told = JSON.parse(data) as { wall?: unknown; counts?: Counts };
        if (told.counts) setCounts(told.counts);
        if (!told.wall) return;
        const map = validateWall(told.wall);
        painter = new WallPainter(map, canvas.current!);
        setWall(map);
        painter.paint();
      },
    });
    const end = link.told(() => {
      setState(link.state);
    });
    link.open();
    return () => {
      end();
      link.close();
      if (frame !== null) cancelAnimationFrame(frame);
      fit.disconnect();
    };
  }, []);
  return (
    <Box
      component="main"
      data-whole
      sx={{ flex: 1, minHeight: 0, bgcolor: '#05080a', display: 'flex', flexDirection: 'column' }}
    >
      <h1 style={visuallyHidden}>The wall</h1>
      <canvas
        ref={canvas}
        role="img"
        aria-label="The wall of panels"
        data-testid="wall"
        style={{ flex: 1, minHeight: 0, width: '100%' }}
      />
      <Box
        role="status"
        sx={{ px: 2, py: 1, color: COLOURS.faint, fontSize: 13, fontFamily: MONO }}
      >
        {state === 'open' && wall
          ? `${String(wall.panels.length)} panels, ${String(universesOf(wall).length)} universes · ${told(counts)}`
          : state === 'opening'
            ? 'Looking for the wall…'
            : 'No wall is here. Start one: npx vast-swarm stand-in wall'}
      </Box>
    </Box>
  );
}

function told(counts: Counts | null): string {
  if (!counts || counts.packets === 0) return 'nothing has been heard yet';
  const { universes, packets, refused, late } = counts;
  return [
    `${String(universes)} universes heard`,
    `${packets.toLocaleString('en-GB')} packets`,
    ...(late > 0 ? [`${String(late)} late`] : []),
    ...(refused > 0 ? [`${String(refused)} that are no sACN`] : []),
  ].join(' · ');
}
