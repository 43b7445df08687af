import { Box, Stack } from '@mui/material';
import { DndContext, PointerSensor, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core';
import { horizontalListSortingStrategy, SortableContext } from '@dnd-kit/sortable';
import { useMemo, type ReactNode } from 'react';
import { kindOf, type Part, type Piece, type Swarm, type PartList } from '@vast-swarm/core';
import { pieceActions, selectedParts, type Selection } from '../../store/pieceSlice';
import { useApp, useAppDispatch } from '../../store/store';
import { COLOURS } from '../../theme';
import { PartChooser } from './PartChooser';
import { PartTag, type TagPart } from './PartTag';
import { Tag } from './Tag';

function iconOf(list: PartList, part: Swarm | Part): string {
  if (list === 'swarms') return kindOf('emitters', (part as Swarm).emitter.kind).icon;
  return kindOf(list, (part as Part).kind).icon;
}

const FRAME_ICON = 'M3 6h18v12H3zM7 6v12M17 6v12';

/** What the line-up shows of a part. */

interface Tags {
  lists: Record<PartList, TagPart[]>;
  backdrop: string;
  camera: string;
}

function tagsOf(piece: Piece): Tags {
  const list = (name: PartList): TagPart[] =>
    (piece[name] as (Swarm | Part)[]).map((part) => {
      const { id, on } = part;
      return { id, name: part.name, on, icon: iconOf(name, part) };
    });
  return {
    lists: {
      ...{ swarms: list('swarms'), forces: list('forces'), colliders: list('colliders') },
      media: list('media'),
      ...{
        lights: list('lights'),
        performers: list('performers'),
        pictures: list('pictures'),
        sounds: list('sounds'),
        signals: list('signals'),
        finish: list('finish'),
        controls: list('controls'),
        cues: list('cues'),
      },
    },
    backdrop: kindOf('backdrops', piece.backdrop.kind).icon,
    camera: kindOf('cameras', piece.camera.kind).icon,
  };
}

/** Every part of the piece, in the order the work is done. */
export function LineUp() {
  // Only what the tags show: a dragged dial changes the piece and not the line-up.
  const shown = useApp((s) => JSON.stringify(tagsOf(s.piece.piece!)));
  const { lists, backdrop, camera } = useMemo(() => JSON.parse(shown) as Tags, [shown]);
  const selection = useApp((s) => s.piece.selection);
  const dispatch = useAppDispatch();
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const select = (to: Selection): void => void dispatch(pieceActions.selected(to));

  const chosen = useApp((s) =>
    selectedParts(s.piece)
      .map((r) => `${r.list} ${r.id}`)
      .join('\n'),
  );
  const isSelected = (list: PartList, id: string): boolean =>
    chosen.split('\n').includes(`${list} ${id}`);

  const tags = (list: PartList) => {
    const parts = lists[list];
    const end = ({ active, over }: DragEndEvent): void => {
      if (!over || active.id === over.id) return;
      const at = (id: string | number): number => parts.findIndex((p) => p.id === id);
      dispatch(pieceActions.moved({ list, from: at(active.id), to: at(over.id) }));
    };
    return (
      <>
        <DndContext sensors={sensors} onDragEnd={end}>
          <SortableContext items={parts.map((p) => p.id)} strategy={horizontalListSortingStrategy}>
            {parts.map((part) => (
              <PartTag key={part.id} list={list} part={part} selected={isSelected(list, part.id)} />
            ))}
          </SortableContext>
        </DndContext>
        <PartChooser list={list} />
      </>
    );
  };
  const fixed = (list: 'camera' | 'backdrop' | 'frame', name: string, icon: string) => (
    <Tag
      key={list}
      name={name}
      icon={icon}
      selected={selection?.list === list}
      onSelect={() => {
        select({ list, id: '' });
      }}
    />
  );
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
      <Section title="Swarms">{tags('swarms')}</Section>
      <Section title="Forces">{tags('forces')}</Section>
      <Section title="Surroundings">
        {tags('colliders')}
        {fixed('camera', 'Camera', camera)}
        {fixed('backdrop', 'Backdrop', backdrop)}
        {fixed('frame', 'Frame', FRAME_ICON)}
      </Section>
      <Section title="Media">{tags('media')}</Section>
      <Section title="Lights">{tags('lights')}</Section>
      <Section title="Performers">{tags('performers')}</Section>
      <Section title="Pictures">{tags('pictures')}</Section>
      <Section title="Sounds">{tags('sounds')}</Section>
      <Section title="Signals">{tags('signals')}</Section>
      <Section title="Finish">{tags('finish')}</Section>
      <Section title="Controls">{tags('controls')}</Section>
      <Section title="Cues">{tags('cues')}</Section>
    </Box>
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
