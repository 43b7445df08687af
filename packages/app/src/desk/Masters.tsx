import { Box, ButtonBase, Stack } from '@mui/material';
import { Pause, Play, SkipForward } from 'lucide-react';
import { useMemo } from 'react';
import { FASTEST } from '@vast-swarm/core/formats';
import type { OpenShow } from '../show/useShow';
import { COLOURS } from '../ui/theme';
import { useStanding, type Desk } from './desk';
import { Fader, type Told } from '../control/Fader';
import { HoldButton } from './HoldButton';

interface Props {
  desk: Desk;
  open: OpenShow;
}

/** Controls of the whole show. */
export function Masters({ desk, open }: Props) {
  const there = useStanding(desk, (s) => s !== null);
  const blackout = useStanding(desk, (s) => s?.blackout ?? false);
  const held = useStanding(desk, (s) => s?.held ?? false);
  return (
    <Stack
      component="section"
      direction="row"
      aria-label="All of the show"
      sx={{
        gap: 1.25,
        p: 1.25,
        borderTop: `1px solid ${COLOURS.line}`,
        height: 84,
        // Without an output nothing of it does anything: it has no colour, and can be read still.
        alignItems: 'stretch',
        filter: there ? 'none' : 'saturate(0)',
      }}
    >
      <Next {...{ desk, open }} />
      <Big
        label={held ? 'Go on' : 'Hold time'}
        pressed={held}
        onClick={() => {
          desk.do({ do: 'act', act: { all: 'held', to: !held } });
        }}
      >
        {held ? <Play size={20} /> : <Pause size={20} />}
        {held ? 'Go on' : 'Hold time'}
      </Big>
      <Stack sx={{ flex: 1, minWidth: 160, gap: 0.5, justifyContent: 'center' }}>
        <Master desk={desk} what="brightness" most={1} rest={open.show.brightness} />
        <Master desk={desk} what="speed" most={FASTEST} rest={open.show.speed} />
      </Stack>
      <HoldButton
        label="Panic: hold"
        colour={COLOURS.coral}
        onDone={() => {
          desk.do({ do: 'panic' });
        }}
        width={110}
      >
        Panic
      </HoldButton>
      <HoldButton
        label={blackout ? 'Blackout is on: hold to end it' : 'Blackout: hold'}
        colour={COLOURS.text}
        pressed={blackout}
        onDone={() => {
          desk.do({ do: 'act', act: { all: 'blackout', to: !blackout } });
        }}
        width={150}
      >
        Blackout
      </HoldButton>
    </Stack>
  );
}

function Next({ desk, open }: Props) {
  const coming = useStanding(desk, (s) => s?.coming?.entry ?? null);
  const began = useStanding(desk, (s) => (s?.present ?? null) !== null);
  const wanted = useStanding(desk, (s) => s?.wanted ?? false);
  const entry = open.show.entries.find((e) => e.id === coming);
  const name = (entry && open.pieces.get(entry.piece)?.name) ?? '';
  const words = began ? 'Next' : 'Begin';
  return (
    <ButtonBase
      disabled={!name}
      onClick={() => {
        desk.do({ do: 'act', act: { all: 'go' } });
      }}
      sx={{
        width: 250,
        borderRadius: 1,
        gap: 1.5,
        px: 2,
        fontFamily: 'inherit',
        border: `2px solid ${COLOURS.amber}`,
        justifyContent: 'flex-start',
        bgcolor: wanted ? COLOURS.amber : 'transparent',
        color: wanted ? COLOURS.ground : COLOURS.amber,
        '&.Mui-disabled': { borderColor: COLOURS.line, color: COLOURS.faint },
      }}
    >
      <SkipForward size={24} />
      <Box sx={{ textAlign: 'left', minWidth: 0 }}>
        <Box sx={{ fontSize: 13 }}>{name ? `${words}:` : words}</Box>
        <Box
          sx={{
            fontSize: 17,
            fontWeight: 600,
            whiteSpace: 'nowrap',
            overflow: 'hidden',
            textOverflow: 'ellipsis',
          }}
        >
          {name || 'nothing more'}
        </Box>
      </Box>
    </ButtonBase>
  );
}

interface BigProps {
  label: string;
  pressed: boolean;
  onClick: () => void;
  children: React.ReactNode;
}

function Big({ label, pressed, onClick, children }: BigProps) {
  return (
    <ButtonBase
      aria-label={label}
      onClick={onClick}
      sx={{
        width: 128,
        borderRadius: 1,
        gap: 1,
        fontFamily: 'inherit',
        fontSize: 15.5,
        fontWeight: 600,
        border: `2px solid ${pressed ? COLOURS.amber : COLOURS.line}`,
        color: pressed ? COLOURS.amber : COLOURS.text,
      }}
    >
      {children}
    </ButtonBase>
  );
}

interface MasterProps {
  desk: Desk;
  what: 'brightness' | 'speed';
  most: number;
  rest: number;
}

function Master({ desk, what, most, rest }: MasterProps) {
  const told = useMemo(
    (): Told<number> => ({
      read: () => desk.standing?.[what] ?? rest,
      subscribe: desk.subscribe,
    }),
    [desk, what, rest],
  );
  const set = (to: number): void => {
    desk.do({ do: 'act', act: { all: what, to } });
  };
  return (
    <Fader
      name={what === 'brightness' ? 'Brightness' : 'Speed'}
      unit={what === 'speed' ? '×' : ''}
      min={0}
      max={most}
      height={28}
      told={told}
      onSet={set}
      onLetGo={() => undefined}
      onReset={() => {
        set(rest);
      }}
    />
  );
}
