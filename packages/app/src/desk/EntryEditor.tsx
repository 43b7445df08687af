import { Box, Stack } from '@mui/material';
import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { GripVertical, Trash2 } from 'lucide-react';
import { Link } from 'react-router';
import type { Entry, Starter } from '@vast-swarm/core/show';
import type { Piece } from '@vast-swarm/core/piece';
import { COLOURS, MONO } from '../ui/theme';
import { IconAction } from '../ui/IconAction';
import { NamedSelect } from '../fields/NamedSelect';
import { SmallSelect } from '../fields/SmallSelect';
import { ShowNumber } from './ShowNumber';

/** Columns of the table of entries. */
export const COLUMNS = '28px minmax(180px, 1fr) 110px 110px 120px 260px 34px';

const STARTERS: Record<Starter, string> = { time: 'Its end', cue: 'A cue', hand: 'Your hand' };

interface Props {
  entry: Entry;
  number: number;
  /** Undefined where it is not there any more. */
  piece: Piece | undefined;
  onChange: (entry: Entry, name: string) => void;
  /** So many places down. */
  onMove: (by: number) => void;
  onRemove: () => void;
}

/** One entry of a show: dragged, or moved by keys, and what it plays how. */
export function EntryEditor({ entry, number, piece, onChange, onMove, onRemove }: Props) {
  const { setNodeRef, listeners, transform, transition } = useSortable({ id: entry.id });
  const name = piece?.name ?? 'Not there any more';
  const length = piece ? piece.frame.length / piece.frame.rate : 36_000;
  const seconds = (key: 'from' | 'to' | 'fade', label: string, max: number) => (
    <ShowNumber
      label={`${label}, ${name}`}
      value={key === 'to' && entry.to === 0 ? length : entry[key]}
      range={[0, max]}
      unit="s"
      rate={piece?.frame.rate ?? 30}
      onChange={(value) => {
        // Its own end stays its end, whatever becomes of the piece.
        const put = key === 'to' && value >= length ? 0 : value;
        onChange({ ...entry, [key]: put }, key);
      }}
    />
  );
  return (
    <Box
      ref={setNodeRef}
      role="group"
      aria-label={`Entry ${String(number)}, ${name}`}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      sx={{
        display: 'grid',
        gridTemplateColumns: COLUMNS,
        columnGap: 1.5,
        px: 1,
        py: 0.25,
        alignItems: 'center',
        borderTop: `1px solid ${COLOURS.line}`,
        minHeight: 38,
      }}
    >
      <Box
        {...listeners}
        tabIndex={0}
        role="button"
        aria-label={`Move ${name}: drag, or Alt with the arrow keys`}
        onKeyDown={(event) => {
          if (!event.altKey || !['ArrowUp', 'ArrowDown'].includes(event.key)) return;
          event.preventDefault();
          onMove(event.key === 'ArrowUp' ? -1 : 1);
        }}
        sx={{ cursor: 'grab', color: COLOURS.faint, display: 'flex' }}
      >
        <GripVertical size={16} />
      </Box>
      <Stack direction="row" sx={{ gap: 1.25, alignItems: 'baseline', minWidth: 0 }}>
        <Box sx={{ fontFamily: MONO, color: COLOURS.faint, fontSize: 12.5, width: 18 }}>
          {number}
        </Box>
        {piece ? (
          <Box
            component={Link}
            to={`/piece/${entry.piece}`}
            sx={{ color: COLOURS.text, textDecoration: 'none', fontWeight: 600 }}
          >
            {name}
          </Box>
        ) : (
          <Box sx={{ color: COLOURS.coral }}>{name}: it is passed over</Box>
        )}
      </Stack>
      {seconds('from', 'From', length)}
      {seconds('to', 'To', length)}
      {seconds('fade', 'Comes in over', 60)}
      <Stack direction="row" sx={{ gap: 1.5 }}>
        <SmallSelect
          label={`What starts the next behind ${name}`}
          value={entry.next}
          options={STARTERS}
          onChange={(next) => {
            onChange({ ...entry, next }, 'next');
          }}
        />
        {entry.next === 'cue' && (
          <NamedSelect
            title={`Cue of ${name} that starts the next`}
            none="None"
            value={entry.cue}
            options={piece?.cues ?? []}
            onChange={(cue) => {
              onChange({ ...entry, cue }, 'cue');
            }}
          />
        )}
      </Stack>
      <IconAction label={`Take ${name} out of the show`} onClick={onRemove}>
        <Trash2 size={15} />
      </IconAction>
    </Box>
  );
}
