import { Box, Button, Menu, MenuItem, Stack } from '@mui/material';
import { DndContext, PointerSensor, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core';
import { arrayMove, SortableContext, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { makeEntry, type Entry, type Show } from '@vast-swarm/core/show';
import { library, type StoredPiece } from '../data/db';
import { newId } from '../data/tab';
import { useLive } from '../data/useLive';
import type { OpenShow } from '../show/useShow';
import { COLOURS } from '../ui/theme';
import { EntryEditor, COLUMNS } from './EntryEditor';
import { ShowSettings } from './ShowSettings';
import { useShowEdits } from './useShowEdits';
import { WallEditor } from './WallEditor';
import { clock, secondsOf } from './words';

const allPieces = (): Promise<StoredPiece[]> => library.pieces.toArray();

/** The show put together: its entries in order, what is between them, and what the night begins with. */
export function Arrange({ id, open }: { id: string; open: OpenShow }) {
  const { show, pieces } = open;
  const edits = useShowEdits(id, show);
  const put = (part: Partial<Show>, name: string): void => {
    edits.put({ ...show, ...part }, name);
  };
  const setEntry = (changed: Entry, name: string): void => {
    const entries = show.entries.map((e) => (e.id === changed.id ? changed : e));
    put({ entries }, `${changed.id} ${name}`);
  };
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const move = (from: number, to: number): void => {
    if (to < 0 || to >= show.entries.length) return;
    put({ entries: arrayMove(show.entries, from, to) }, 'order');
  };
  const end = ({ active, over }: DragEndEvent): void => {
    if (!over || active.id === over.id) return;
    const at = (key: string | number): number => show.entries.findIndex((e) => e.id === key);
    move(at(active.id), at(over.id));
  };
  const total = show.entries.reduce((sum, entry) => {
    const piece = pieces.get(entry.piece);
    return sum + (piece ? secondsOf(entry, piece) : 0);
  }, 0);
  return (
    <Box component="main" sx={{ flex: 1, minHeight: 0, overflowY: 'auto', px: 2.5, py: 1.5 }}>
      <ShowSettings show={show} onPut={put} />
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: COLUMNS,
          columnGap: 1.5,
          px: 1,
          color: COLOURS.faint,
          fontSize: 12.5,
          pt: 2,
          pb: 0.5,
        }}
      >
        <span />
        <span>Piece</span>
        <span>From</span>
        <span>To</span>
        <span>Comes in over</span>
        <span>What starts the next</span>
        <span />
      </Box>
      <DndContext sensors={sensors} onDragEnd={end}>
        <SortableContext
          items={show.entries.map((e) => e.id)}
          strategy={verticalListSortingStrategy}
        >
          {show.entries.map((entry, i) => (
            <EntryEditor
              key={entry.id}
              entry={entry}
              number={i + 1}
              piece={pieces.get(entry.piece)}
              onChange={setEntry}
              onMove={(by) => {
                move(i, i + by);
              }}
              onRemove={() => {
                put({ entries: show.entries.filter((e) => e.id !== entry.id) }, 'remove');
              }}
            />
          ))}
        </SortableContext>
      </DndContext>
      {show.entries.length === 0 && (
        <Box sx={{ color: COLOURS.faint, py: 2, px: 1 }}>
          Nothing plays in this show yet. Add its first piece.
        </Box>
      )}
      <Stack direction="row" sx={{ alignItems: 'center', gap: 2, pt: 1, px: 1 }}>
        <AddPiece
          onAdd={(piece) => {
            put({ entries: [...show.entries, makeEntry(piece, newId())] }, 'add');
          }}
        />
        <Box sx={{ color: COLOURS.faint }}>
          {show.entries.length} {show.entries.length === 1 ? 'entry' : 'entries'}, {clock(total)} in
          all where nothing waits
        </Box>
      </Stack>
      <WallEditor
        wall={show.wall}
        onPut={(wall, name) => {
          put({ wall }, `wall ${name}`);
        }}
      />
    </Box>
  );
}

function AddPiece({ onAdd }: { onAdd: (piece: string) => void }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const pieces = useLive(allPieces, []);
  const named = [...pieces].sort((a, b) => a.piece.name.localeCompare(b.piece.name));
  return (
    <>
      <Button
        variant="outlined"
        aria-haspopup="menu"
        startIcon={<Plus size={15} />}
        onClick={(event) => {
          setAnchor(event.currentTarget);
        }}
      >
        Add a piece
      </Button>
      <Menu
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => {
          setAnchor(null);
        }}
        slotProps={{ paper: { sx: { maxHeight: 420 } } }}
      >
        {named.map(({ id, piece }) => (
          <MenuItem
            key={id}
            onClick={() => {
              setAnchor(null);
              onAdd(id);
            }}
          >
            {piece.name}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}
