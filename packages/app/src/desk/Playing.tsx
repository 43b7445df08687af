import { Box, ButtonBase, Stack } from '@mui/material';
import { useEffect, useMemo, useRef, useSyncExternalStore } from 'react';
import { controlKind, restOf, type Part, type Piece } from '@vast-swarm/core/piece';
import { nextCue } from '../show/showKeys';
import { COLOURS, MONO } from '../ui/theme';
import { useBlobSource } from '../ui/useBlobSource';
import { cueWords } from '../controls/CueList';
import { groupsOf } from '../controls/ControlsTab';
import { OtherTile } from '../controls/OtherTile';
import { Fader, type Told } from '../control/Fader';
import { useStanding, type Desk } from './desk';
import { clock } from './words';

/** Pixels of the small picture. */
const SMALL = { width: 256, height: 144 };

interface Props {
  desk: Desk;
  piece: Piece;
  /** Whether it begins again at its end. */
  loops: boolean;
}

/** The piece that plays: its name, the time that is left, its controls and its cues. */
export function Playing({ desk, piece, loops }: Props) {
  return (
    <Stack component="section" aria-label={piece.name} sx={{ minHeight: 0, minWidth: 0 }}>
      <Left {...{ desk, piece, loops }} />
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: '1fr 1fr',
          gap: 3,
          px: 2.5,
          pb: 2,
          flex: 1,
          minHeight: 0,
        }}
      >
        <Box role="group" aria-label="Controls" sx={{ overflowY: 'auto' }}>
          <Title>Controls</Title>
          {piece.controls.every((c) => !c.on) && <Nothing>This piece puts none forward.</Nothing>}
          {groupsOf(piece.controls.filter((c) => c.on)).map(([group, members]) => (
            <Box key={group} sx={{ mb: 1.5 }}>
              {group && <Box sx={{ color: COLOURS.faint, fontSize: 13, mb: 0.5 }}>{group}</Box>}
              <Stack sx={{ gap: 0.75 }}>
                {members.map((control) => (
                  <DeskControl key={control.id} {...{ desk, piece, control }} />
                ))}
              </Stack>
            </Box>
          ))}
        </Box>
        <Box role="group" aria-label="Cues" sx={{ overflowY: 'auto' }}>
          <Title>Cues</Title>
          {piece.cues.every((c) => !c.on) && <Nothing>This piece has none.</Nothing>}
          <Cues {...{ desk, piece }} />
        </Box>
      </Box>
    </Stack>
  );
}

function Title({ children }: { children: string }) {
  return <Box sx={{ fontSize: 14, fontWeight: 600, py: 1 }}>{children}</Box>;
}

function Nothing({ children }: { children: string }) {
  return <Box sx={{ color: COLOURS.faint }}>{children}</Box>;
}

/** How far it is: written straight on the elements, since it changes at every frame. */
function Left({ desk, piece, loops }: { desk: Desk; piece: Piece; loops: boolean }) {
  const bar = useRef<HTMLDivElement>(null);
  const left = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const show = (): void => {
      const { present } = desk.standing ?? {};
      if (!present || !bar.current || !left.current) return;
      const { frame, from, until, left: seconds } = present;
      const part = Math.min(1, Math.max(0, (frame + 1 - from) / (until - from)));
      bar.current.style.transform = `scaleX(${String(part)})`;
      const words = clock(seconds);
      if (left.current.textContent !== words) left.current.textContent = words;
    };
    show();
    return desk.subscribe(show);
  }, [desk]);
  return (
    <Stack direction="row" sx={{ px: 2.5, pt: 2, pb: 1, gap: 2.5 }}>
      <Seen desk={desk} />
      <Stack sx={{ flex: 1, justifyContent: 'space-between' }}>
        <Box
          component="h2"
          sx={{ fontSize: 30, fontWeight: 600, m: 0, lineHeight: 1.15, color: COLOURS.amber }}
        >
          {piece.name}
        </Box>
        <Stack direction="row" sx={{ alignItems: 'baseline', gap: 2 }}>
          <Box sx={{ color: COLOURS.faint, fontSize: 14, flex: 1 }}>
            {loops ? 'begins again in' : 'left'}
          </Box>
          <Box
            ref={left}
            role="timer"
            aria-label="Time left"
            sx={{ fontFamily: MONO, fontSize: 44, lineHeight: 1, color: COLOURS.text }}
          />
        </Stack>
        <Box sx={{ height: 8, bgcolor: COLOURS.raised, overflow: 'hidden' }}>
          <Box
            ref={bar}
            sx={{
              height: 1,
              bgcolor: COLOURS.amber,
              transformOrigin: 'left',
              transform: 'scaleX(0)',
            }}
          />
        </Box>
      </Stack>
    </Stack>
  );
}

/** The picture that the audience sees, small. */
function Seen({ desk }: { desk: Desk }) {
  const picture = useSyncExternalStore(desk.onPicture, () => desk.picture);
  const source = useBlobSource(picture ?? undefined);
  return (
    <Box sx={{ ...SMALL, bgcolor: '#000', borderRadius: 0.75, overflow: 'hidden' }}>
      {picture && (
        <img ref={source} alt="What is seen now" style={{ ...SMALL, display: 'block' }} />
      )}
    </Box>
  );
}

interface ControlProps {
  desk: Desk;
  piece: Piece;
  control: Part;
}

function DeskControl(props: ControlProps) {
  const { holds } = controlKind(props.control);
  return holds === 'number' ? <DeskFader {...props} /> : <DeskTile {...props} />;
}

/** A number moves at every frame, so it is told the fader itself. */
function DeskFader({ desk, control }: ControlProps) {
  const { id, name } = control;
  const told = useMemo(
    (): Told<number> => ({
      read: () => (desk.controls[id] ?? restOf(control)) as number,
      subscribe: desk.subscribe,
    }),
    [desk, id, control],
  );
  const [min, max] = controlKind(control).range!(control.dials);
  const set = (to: number, hold = false): void => {
    desk.do({ do: 'act', act: { control: id, to, hold } });
  };
  return (
    <Fader
      {...{ name, min, max, told }}
      unit={control.dials.unit as string}
      height={46}
      onSet={set}
      onLetGo={() => {
        desk.do({ do: 'letGo', control: id });
      }}
      onReset={() => {
        set(restOf(control) as number);
      }}
    />
  );
}

function DeskTile({ desk, piece, control }: ControlProps) {
  const { id } = control;
  const text = useStanding(desk, (s) => JSON.stringify(s?.controls[id] ?? restOf(control)));
  return (
    <OtherTile
      {...{ piece, control, text }}
      height={46}
      onSet={(to) => {
        desk.do({ do: 'act', act: { control: id, to } });
      }}
    />
  );
}

function Cues({ desk, piece }: { desk: Desk; piece: Piece }) {
  const last = useStanding(desk, (s) => s?.cue ?? null);
  const next = nextCue(piece, last);
  return (
    <Stack sx={{ gap: 0.75 }}>
      {piece.cues
        .filter((c) => c.on)
        .map((cue) => (
          <ButtonBase
            key={cue.id}
            aria-label={`Fire ${cue.name}`}
            aria-current={cue.id === last || undefined}
            onClick={() => {
              desk.do({ do: 'act', act: { cue: cue.id } });
            }}
            sx={{
              minHeight: 46,
              px: 1.5,
              borderRadius: 1,
              gap: 1.5,
              fontFamily: 'inherit',
              justifyContent: 'flex-start',
              textAlign: 'left',
              bgcolor: COLOURS.raised,
              border: `2px solid ${cue.id === next ? COLOURS.amber : 'transparent'}`,
              color: cue.id === last ? COLOURS.amber : COLOURS.text,
              '&:hover': { borderColor: COLOURS.faint },
            }}
          >
            <Box sx={{ flex: 1, fontSize: 15.5, fontWeight: 600 }}>{cue.name}</Box>
            <Box sx={{ color: COLOURS.faint, fontFamily: MONO, fontSize: 12 }}>{cueWords(cue)}</Box>
            <Box sx={{ color: COLOURS.amber, fontSize: 13, width: 34 }}>
              {cue.id === next ? 'next' : cue.id === last ? 'last' : ''}
            </Box>
          </ButtonBase>
        ))}
    </Stack>
  );
}
