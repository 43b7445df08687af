import { Box, Button, ButtonBase, Stack } from '@mui/material';
import { DndContext, PointerSensor, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core';
import { SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { Play } from 'lucide-react';
import { cueBehind, type Part } from '@vast-swarm/core/piece';
import { cueDials, valuesOf } from '@vast-swarm/core/kinds';
import { useReport } from '../engine/EngineContext';
import { pieceActions } from '../store/pieceSlice';
import { useApp, useAppDispatch } from '../store/store';
import { COLOURS, MONO } from '../ui/theme';
import { IconAction } from '../ui/IconAction';
import type { Acts } from '../control/useActs';

/** Key, cause and length of a cue, in a few words. */
export function cueWords(cue: Part): string {
  const { over, wait, by, at, key, next } = valuesOf(cueDials, cue.dials);
  const words = [
    ...(by === 'yes' ? [`at ${String(at)} s`] : []),
    ...(key ? [`key ${key.toUpperCase()}`] : []),
    ...(wait > 0 ? [`waits ${String(wait)} s`] : []),
    over > 0 ? `${String(over)} s` : 'at once',
    ...(next === 'together' ? ['+ next'] : next === 'after' ? ['→ next'] : []),
  ];
  return words.join(' · ');
}

/** The cues in the order of the night: fired, chosen, dragged to another place. */
export function CueList({ acts }: { acts: Acts }) {
  const dispatch = useAppDispatch();
  const cues = useApp((s) => s.piece.piece!.cues);
  const chosen = useApp((s) => (s.piece.selection?.list === 'cues' ? s.piece.selection.id : ''));
  const last = useReport((r) => r?.cue?.cue ?? '');
  const next = cueBehind(cues, last)?.id;
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const end = ({ active, over }: DragEndEvent): void => {
    if (!over || active.id === over.id) return;
    const at = (id: string | number): number => cues.findIndex((c) => c.id === id);
    dispatch(pieceActions.moved({ list: 'cues', from: at(active.id), to: at(over.id) }));
  };
  return (
    <Stack sx={{ gap: '2px' }}>
      <DndContext sensors={sensors} onDragEnd={end}>
        <SortableContext items={cues.map((c) => c.id)} strategy={verticalListSortingStrategy}>
          {cues.map((cue) => (
            <CueRow
              key={cue.id}
              {...{ cue, acts }}
              state={cue.id === last ? 'last' : cue.id === next ? 'next' : 'rests'}
              chosen={cue.id === chosen}
            />
          ))}
        </SortableContext>
      </DndContext>
      <Box>
        <Button onClick={() => dispatch(pieceActions.added({ list: 'cues', kind: 'cue' }))}>
          Add a cue
        </Button>
      </Box>
    </Stack>
  );
}

interface RowProps {
  cue: Part;
  acts: Acts;
  /** Whether it is the one that began last, or the one that comes. */
  state: 'last' | 'next' | 'rests';
  chosen: boolean;
}

function CueRow({ cue, acts, state, chosen }: RowProps) {
  const dispatch = useAppDispatch();
  const { setNodeRef, listeners, transform, transition } = useSortable({ id: cue.id });
  const line = state === 'next' ? COLOURS.amber : 'transparent';
  return (
    <Stack
      ref={setNodeRef}
      {...listeners}
      direction="row"
      style={{ transform: CSS.Translate.toString(transform), transition }}
      sx={{
        alignItems: 'center',
        borderRadius: 0.75,
        border: `1px solid ${line}`,
        bgcolor: chosen ? COLOURS.raised : 'transparent',
        color: state === 'last' ? COLOURS.amber : cue.on ? COLOURS.text : COLOURS.faint,
      }}
    >
      <IconAction
        label={`Fire ${cue.name}`}
        disabled={!cue.on}
        onClick={() => {
          acts.fire(cue.id);
        }}
      >
        <Play size={14} />
      </IconAction>
      <ButtonBase
        aria-pressed={chosen}
        onClick={() => dispatch(pieceActions.selected({ list: 'cues', id: cue.id }))}
        sx={{
          flex: 1,
          minWidth: 0,
          justifyContent: 'flex-start',
          gap: 1,
          minHeight: 26,
          fontSize: 13,
          fontFamily: 'inherit',
          whiteSpace: 'nowrap',
        }}
      >
        {cue.name}
        {state === 'next' && <Box sx={{ color: COLOURS.amber, fontSize: 11.5 }}>next</Box>}
        <Box
          sx={{
            ml: 'auto',
            pr: 1,
            color: COLOURS.faint,
            fontFamily: MONO,
            fontSize: 11.5,
            overflow: 'hidden',
            textOverflow: 'ellipsis',
          }}
        >
          {cueWords(cue)}
        </Box>
      </ButtonBase>
    </Stack>
  );
}
