import { Box, Stack } from '@mui/material';
import { DndContext, PointerSensor, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core';
import { horizontalListSortingStrategy, SortableContext } from '@dnd-kit/sortable';
import { memo, useMemo, type ReactNode } from 'react';
import { shallowEqual } from 'react-redux';
import { kindOf } from '@vast-swarm/core/kinds';
import type { Part, Piece, Swarm, PartList } from '@vast-swarm/core/piece';
import { sectionLists, wordsOf } from '../sections/sections';
import { pieceActions } from '../store/pieceSlice';
import { useApp, useAppDispatch } from '../store/store';
import { COLOURS } from '../ui/theme';
import { PartChooser } from './PartChooser';
import { PartTag, type TagPart } from './PartTag';
import { Tag } from './Tag';

function iconOf(list: PartList, part: Swarm | Part): string {
  if (list === 'swarms') return kindOf('emitters', (part as Swarm).emitter.kind).icon;
  return kindOf(list, (part as Part).kind).icon;
}

const FRAME_ICON = 'M3 6h18v12H3zM7 6v12M17 6v12';

/** Every part of the piece, in the order the work is done. */
export function LineUp() {
  const backdrop = useApp((s) => kindOf('backdrops', s.piece.piece!.backdrop.kind).icon);
  const camera = useApp((s) => kindOf('cameras', s.piece.piece!.camera.kind).icon);
  return (
    <Box
      component="nav"
      aria-label="Line-up"
      sx={{
        display: 'flex',
        flexWrap: 'wrap',
        flexShrink: 0,
        // Of very many parts the rest is scrolled to: the picture keeps its room.
        maxHeight: 136,
        overflowY: 'auto',
        columnGap: 2,
        rowGap: '2px',
        px: 1.5,
        py: '5px',
        borderBottom: `1px solid ${COLOURS.line}`,
        bgcolor: COLOURS.sheet,
      }}
    >
      {sectionLists().map((list) => (
        <Section key={list} title={wordsOf(list).title}>
          <Parts list={list} />
          {list === 'colliders' && (
            <>
              <FixedTag list="camera" name="Camera" icon={camera} />
              <FixedTag list="backdrop" name="Backdrop" icon={backdrop} />
              <FixedTag list="frame" name="Frame" icon={FRAME_ICON} />
            </>
          )}
        </Section>
      ))}
    </Box>
  );
}

/** The parts of a list, to be put into another order by dragging. */
const Parts = memo(function Parts({ list }: { list: PartList }) {
  // Only what the tags show: a dragged dial changes the piece and not the line-up.
  const shown = useApp((s) => JSON.stringify(tagsOf(s.piece.piece!, list)));
  const parts = useMemo(() => JSON.parse(shown) as TagPart[], [shown]);
  // The same array as long as the order is the same: another one reaches all tags.
  const order = useApp((s) => s.piece.piece![list].map((p) => p.id), shallowEqual);
  const dispatch = useAppDispatch();
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const end = ({ active, over }: DragEndEvent): void => {
    if (!over || active.id === over.id) return;
    const at = (id: string | number): number => order.indexOf(String(id));
    dispatch(pieceActions.moved({ list, from: at(active.id), to: at(over.id) }));
  };
  return (
    <>
      <DndContext sensors={sensors} onDragEnd={end}>
        <SortableContext items={order} strategy={horizontalListSortingStrategy}>
          {parts.map((part) => (
            <PartTag key={part.id} list={list} {...part} />
          ))}
        </SortableContext>
      </DndContext>
      <PartChooser list={list} />
    </>
  );
});

function tagsOf(piece: Piece, list: PartList): TagPart[] {
  return (piece[list] as (Swarm | Part)[]).map((part) => {
    const { id, name, on } = part;
    return { id, name, on, icon: iconOf(list, part) };
  });
}

interface FixedProps {
  list: 'camera' | 'backdrop' | 'frame';
  name: string;
  icon: string;
}

/** A tag of a part that each piece has one of. */
function FixedTag({ list, name, icon }: FixedProps) {
  const selected = useApp((s) => s.piece.selection?.list === list);
  const dispatch = useAppDispatch();
  return (
    <Tag
      name={name}
      icon={icon}
      selected={selected}
      onSelect={() => dispatch(pieceActions.selected({ list, id: '' }))}
    />
  );
}

function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Stack
      direction="row"
      role="group"
      aria-label={title}
      sx={{ alignItems: 'center', gap: '2px', flexWrap: 'wrap', minWidth: 0 }}
    >
      <Box sx={{ color: COLOURS.faint, fontSize: 11.5, mr: 0.5 }}>{title}</Box>
      {children}
    </Stack>
  );
}
