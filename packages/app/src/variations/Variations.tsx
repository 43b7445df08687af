import { Box, Button, IconButton, Slider, Stack, Tooltip } from '@mui/material';
import { Blend, ChevronLeft, ChevronRight, X } from 'lucide-react';
import { useEffect, useState } from 'react';
import { NINE, VARIED, type Varied } from '@vast-swarm/core/piece';
import { useReport } from '../engine/EngineContext';
import { StillPicture } from '../stills/StillPicture';
import { useStills } from '../stills/useStills';
import { pieceActions } from '../store/pieceSlice';
import { useApp, useAppDispatch, usePiece } from '../store/store';
import { toolActions, type Varying } from '../store/toolSlice';
import { COLOURS, MONO } from '../ui/theme';
import { NumberField } from '../fields/NumberField';
import { useNine, type Neighbour } from './useNine';

/** Pixels of the longer side of a small picture. */
const LONG = 256;

/** Nine neighbours of the open piece, in place of the tabs below the picture. */
export function Variations({ varying }: { varying: Varying }) {
  const dispatch = useAppDispatch();
  const nine = useNine(varying);
  const { width, height } = usePiece().frame;
  const shrink = LONG / Math.max(width, height);
  const size = { width: Math.round(width * shrink), height: Math.round(height * shrink) };
  const stills = useStills(useDrawn(nine), usePresentFrame(nine), size);
  useEffect(
    () => () => {
      dispatch(toolActions.trialSet(null));
    },
    [dispatch],
  );
  return (
    <Box
      component="section"
      aria-label="Variations"
      sx={{ height: 268, borderTop: `1px solid ${COLOURS.line}`, px: 1.5, overflow: 'hidden' }}
    >
      <Head varying={varying} />
      <Box
        component="ul"
        sx={{
          display: 'grid',
          gap: 0.75,
          p: 0,
          m: 0,
          listStyle: 'none',
          alignItems: 'start',
          gridTemplateColumns: 'repeat(5, minmax(0, 1fr))',
        }}
      >
        {nine.map((neighbour, i) => (
          <Card
            key={neighbour.name}
            neighbour={neighbour}
            marked={varying.marked.includes(neighbour.number)}
            markable={!varying.parents}
          >
            <StillPicture still={stills[i]} size={size} />
          </Card>
        ))}
        <Box component="li" sx={{ px: 1, fontSize: 12, color: COLOURS.faint }}>
          The picture plays the one under the pointer. A click takes it; the next nine go on from
          there. Locks in the sheet keep a dial.
        </Box>
      </Box>
    </Box>
  );
}

/** The pieces, the same list as long as they are the same. */
function useDrawn(nine: readonly Neighbour[]) {
  const [kept, setKept] = useState({ nine, pieces: nine.map((n) => n.piece) });
  if (kept.nine === nine) return kept.pieces;
  const pieces = nine.map((n) => n.piece);
  setKept({ nine, pieces });
  return pieces;
}

/** The frame that is looked at: where it rests, or where it was when the neighbours were made. */
function usePresentFrame(nine: readonly Neighbour[]): number {
  const frame = useReport((r) => r?.frame ?? 0);
  const playing = useApp((s) => s.tools.playing);
  const [kept, setKept] = useState({ nine, frame });
  const anew = kept.nine !== nine || (!playing && kept.frame !== frame);
  if (anew) setKept({ nine, frame });
  return Math.max(0, anew ? frame : kept.frame);
}

interface CardProps {
  neighbour: Neighbour;
  marked: boolean;
  markable: boolean;
  children: React.ReactNode;
}

/** One neighbour: under the pointer the picture plays it, a click takes it. */
function Card({ neighbour, marked, markable, children }: CardProps) {
  const dispatch = useAppDispatch();
  const { number, name, piece } = neighbour;
  const show = (on: boolean) => (): void => {
    dispatch(toolActions.trialSet(on ? piece : null));
  };
  return (
    <Box component="li" sx={{ position: 'relative' }}>
      <Box
        component="button"
        aria-label={`Take ${name}`}
        onPointerEnter={show(true)}
        onPointerLeave={show(false)}
        onFocus={show(true)}
        onBlur={show(false)}
        onClick={() => {
          dispatch(toolActions.trialSet(null));
          dispatch(pieceActions.varied({ piece, label: name }));
          dispatch(toolActions.varyingSet({ parents: null, marked: [] }));
        }}
        sx={{
          display: 'block',
          width: '100%',
          p: 0,
          cursor: 'pointer',
          bgcolor: '#060b0c',
          border: `1px solid ${marked ? COLOURS.amber : COLOURS.line}`,
          borderRadius: 0.5,
          '&:hover, &:focus-visible': { borderColor: COLOURS.amber, outline: 'none' },
        }}
      >
        {children}
      </Box>
      <Box
        sx={{
          position: 'absolute',
          left: 6,
          bottom: 4,
          fontFamily: MONO,
          fontSize: 11,
          color: COLOURS.text,
          textShadow: '0 0 4px #000',
          pointerEvents: 'none',
        }}
      >
        {number}
      </Box>
      {markable && (
        <Tooltip title="Mark it to be crossed with another one">
          <IconButton
            aria-label={`Mark variation ${String(number)} to be crossed`}
            aria-pressed={marked}
            onClick={() => dispatch(toolActions.variationMarked(number))}
            sx={{
              position: 'absolute',
              right: 3,
              bottom: 3,
              p: '3px',
              color: marked ? COLOURS.amber : COLOURS.text,
            }}
          >
            <Blend size={13} />
          </IconButton>
        </Tooltip>
      )}
    </Box>
  );
}

const NUMBER = { min: 1, max: 999_999, unit: '', whole: true };

function Head({ varying }: { varying: Varying }) {
  const dispatch = useAppDispatch();
  const { first, reach, groups, only, marked, parents } = varying;
  const set = (change: Partial<Varying>): void => {
    dispatch(toolActions.varyingSet(change));
  };
  const selected = useApp(({ piece: { piece, selection } }) => {
    if (!selection) return null;
    const parts = selection.id ? piece![selection.list as 'swarms'] : [];
    return parts.find((p) => p.id === selection.id)?.name ?? selection.list;
  });
  return (
    <Stack direction="row" sx={{ alignItems: 'center', gap: 1, height: 42, fontSize: 12.5 }}>
      {Object.entries(VARIED).map(([group, title]) => (
        <Toggle
          key={group}
          on={groups.includes(group as Varied)}
          onClick={() => {
            const others = groups.filter((g) => g !== group);
            set({
              groups: others.length < groups.length ? others : [...groups, group as Varied],
            });
          }}
        >
          {title}
        </Toggle>
      ))}
      {selected && (
        <Tooltip title="Only the dials of the part whose sheet is open are turned">
          <span>
            <Toggle
              on={only}
              onClick={() => {
                set({ only: !only });
              }}
            >
              Only {selected}
            </Toggle>
          </span>
        </Tooltip>
      )}
      <Box sx={{ flex: 1 }} />
      <span>Little</span>
      <Slider
        aria-label="Reach"
        size="small"
        min={0.05}
        max={1}
        step={0.05}
        value={reach}
        onChange={(_, v) => {
          set({ reach: v });
        }}
        sx={{ width: 90 }}
      />
      <span>Wild</span>
      <Numbers {...{ first, set }} />
      {parents ? (
        <Button
          variant="outlined"
          onClick={() => {
            set({ parents: null });
          }}
        >
          Leave the crossing
        </Button>
      ) : (
        <Button
          variant="outlined"
          disabled={marked.length !== 2}
          onClick={() => {
            set({ parents: [marked[0]!, marked[1]!], first: 1 });
          }}
        >
          Cross two
        </Button>
      )}
      <IconButton
        aria-label="Close the variations"
        onClick={() => dispatch(toolActions.varied(false))}
      >
        <X size={16} />
      </IconButton>
    </Stack>
  );
}

/** The number of the first of the nine, and the way to nine others. */
function Numbers({ first, set }: { first: number; set: (change: Partial<Varying>) => void }) {
  return (
    <>
      <IconButton
        aria-label="Nine before"
        disabled={first <= 1}
        onClick={() => {
          set({ first: Math.max(1, first - NINE) });
        }}
      >
        <ChevronLeft size={16} />
      </IconButton>
      <NumberField
        label="First number"
        value={first}
        spec={NUMBER}
        rate={30}
        width={52}
        onChange={(v) => {
          set({ first: v });
        }}
        onSettle={() => undefined}
      />
      <IconButton
        aria-label="Nine more"
        onClick={() => {
          set({ first: Math.min(NUMBER.max, first + NINE) });
        }}
      >
        <ChevronRight size={16} />
      </IconButton>
    </>
  );
}

function Toggle({
  on,
  onClick,
  children,
}: {
  on: boolean;
  onClick: () => void;
  children: React.ReactNode;
}) {
  return (
    <Button
      size="small"
      aria-pressed={on}
      onClick={onClick}
      sx={{
        minWidth: 0,
        px: 1,
        py: '1px',
        fontSize: 12.5,
        color: on ? COLOURS.amber : COLOURS.faint,
        borderBottom: `2px solid ${on ? COLOURS.amber : 'transparent'}`,
        borderRadius: 0,
      }}
    >
      {children}
    </Button>
  );
}
