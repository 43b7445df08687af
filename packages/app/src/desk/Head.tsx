import { Box, Button, Stack } from '@mui/material';
import { useEffect, useState } from 'react';
import type { OpenShow } from '../show/useShow';
import { COLOURS, MONO } from '../ui/theme';
import { HomeLink } from '../ui/HomeLink';
import { useStanding, type Desk } from './desk';
import { NightMenu } from './NightMenu';
import { clock } from './words';

interface Props {
  id: string;
  desk: Desk;
  open: OpenShow;
  arranging: boolean;
  onArrange: (arranging: boolean) => void;
}

/** The show, its night, and how its output does. */
export function Head({ id, desk, open, arranging, onArrange }: Props) {
  const there = useStanding(desk, (s) => s !== null);
  const test = useStanding(desk, (s) => s?.test ?? false);
  return (
    <Stack
      component="header"
      direction="row"
      sx={{
        height: 52,
        flexShrink: 0,
        alignItems: 'center',
        gap: 1.5,
        px: 1.5,
        borderBottom: `1px solid ${COLOURS.line}`,
      }}
    >
      <HomeLink />
      <Box component="h1" sx={{ fontSize: 17, fontWeight: 600, m: 0, whiteSpace: 'nowrap' }}>
        {open.show.name}
      </Box>
      <Button
        aria-pressed={arranging}
        color={arranging ? 'primary' : 'inherit'}
        variant={arranging ? 'outlined' : 'text'}
        onClick={() => {
          onArrange(!arranging);
        }}
      >
        Arrange
      </Button>
      <Box sx={{ flex: 1 }} />
      {there && <Meters desk={desk} />}
      {there && <Running desk={desk} />}
      <NightMenu {...{ id, desk, open }} />
      {there ? (
        <Button
          aria-pressed={test}
          color={test ? 'primary' : 'inherit'}
          variant="outlined"
          onClick={() => {
            desk.do({ do: 'test', on: !test });
          }}
        >
          Test card
        </Button>
      ) : (
        <Button
          variant="contained"
          onClick={() => {
            window.open(
              `/show/${id}/output${location.search}`,
              `output-${id}`,
              'popup,width=1280,height=720',
            );
          }}
        >
          Open the output
        </Button>
      )}
    </Stack>
  );
}

/** Seconds of the night. */
function Running({ desk }: { desk: Desk }) {
  const began = useStanding(desk, (s) => s?.began ?? null);
  const [now, setNow] = useState(Date.now);
  useEffect(() => {
    const timer = setInterval(() => {
      setNow(Date.now());
    }, 500);
    return () => {
      clearInterval(timer);
    };
  }, []);
  if (began === null) return <Box sx={{ color: COLOURS.faint }}>not begun</Box>;
  return (
    <Box aria-label="Running time" role="timer" sx={{ fontFamily: MONO, fontSize: 17 }}>
      {clock((now - began) / 1000)}
    </Box>
  );
}

/** Frames a second, and those that were late. */
function Meters({ desk }: { desk: Desk }) {
  const fps = useStanding(desk, (s) => Math.round(s?.fps ?? 0));
  const late = useStanding(desk, (s) => s?.lateFrames ?? 0);
  const what = useStanding(desk, (s) => (s?.engine ? `${s.engine.toUpperCase()} ${s.size}` : ''));
  const rate = useStanding(desk, (s) => s?.present?.rate ?? 0);
  const wall = useStanding(desk, (s) =>
    !s || s.wall === 'off' ? '' : s.wall === 'open' ? `wall ${String(s.watts)} W` : 'no wall',
  );
  const slow = rate > 0 && fps > 0 && fps < 0.9 * rate;
  return (
    <Stack
      direction="row"
      sx={{ gap: 1.5, fontFamily: MONO, fontSize: 13, color: COLOURS.faint, whiteSpace: 'nowrap' }}
    >
      {wall && (
        <Box component="span" sx={{ color: wall === 'no wall' ? COLOURS.coral : COLOURS.glass }}>
          {wall}
        </Box>
      )}
      <span>{what}</span>
      <Box component="span" sx={{ color: slow ? COLOURS.coral : COLOURS.glass }}>
        {fps} fps
      </Box>
      <Box component="span">{late} late</Box>
    </Stack>
  );
}
