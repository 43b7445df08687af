import { Box, Stack } from '@mui/material';
import { X } from 'lucide-react';
import { EASES, type Ease, type Move, type Moves } from '@vast-swarm/core/feeds';
import { heldPlace, type Part } from '@vast-swarm/core/piece';
import type { NumberDial } from '@vast-swarm/core/kinds';
import { usePiece } from '../../store/store';
import { COLOURS } from '../../ui/theme';
import { Empty } from '../../ui/Empty';
import { IconAction } from '../../ui/IconAction';
import { FindOne } from '../FindOne';
import { NumberField } from '../../fields/NumberField';
import { SmallSelect } from '../../fields/SmallSelect';

const EASE_TITLES = Object.fromEntries(
  EASES.map((ease) => [ease, ease[0]!.toUpperCase() + ease.slice(1)]),
) as Record<Ease, string>;

interface Props {
  moves: Moves;
  path: (string | number)[];
  onChange: (moves: Moves) => void;
  onSettle: () => void;
}

/** The dials that a control moves, each with its range and its curve. */
export function MovesCell({ moves, path, onChange, onSettle }: Props) {
  const piece = usePiece();
  const control = piece.controls[path[1] as number]!;
  const put = (i: number, part: Partial<Move>): void => {
    onChange(moves.map((m, k) => (k === i ? { ...m, ...part } : m)));
  };
  if (moves.length === 0) {
    return (
      <Empty action={<FindOne what="Find a dial for it" />} sx={{ fontSize: 12.5 }}>
        Nothing yet. The sign beside a dial also puts it forward.
      </Empty>
    );
  }
  return (
    <Stack sx={{ gap: 0.75 }}>
      {moves.map((move, i) => (
        <MoveRow
          key={move.place}
          {...{ control, move, onSettle }}
          onChange={(part) => {
            put(i, part);
          }}
          onRemove={() => {
            onChange(moves.filter((_, k) => k !== i));
            onSettle();
          }}
        />
      ))}
    </Stack>
  );
}

interface RowProps {
  control: Part;
  move: Move;
  onChange: (part: Partial<Move>) => void;
  onSettle: () => void;
  onRemove: () => void;
}

function MoveRow({ control, move, onChange, onSettle, onRemove }: RowProps) {
  const piece = usePiece();
  const place = heldPlace(piece, control, move);
  if (!place) return null;
  const { spec, part, title } = place;
  const name = `${part}: ${title}`;
  const isNumber = spec !== 'on' && (spec.type === 'number' || spec.type === 'vector');
  return (
    <Box role="group" aria-label={name}>
      <Stack direction="row" sx={{ alignItems: 'center', gap: 0.5, fontSize: 13 }}>
        <Box sx={{ flex: 1, minWidth: 0 }}>{name}</Box>
        <IconAction label={`Take back ${name}`} onClick={onRemove}>
          <X size={13} />
        </IconAction>
      </Stack>
      {isNumber && (
        <Stack direction="row" sx={{ alignItems: 'center', gap: 1.5, color: COLOURS.faint }}>
          {(['from', 'to'] as const).map((end) => (
            <NumberField
              key={end}
              label={`${name}, ${end}`}
              value={move[end] ?? (end === 'from' ? spec.min : spec.max)}
              spec={spec as NumberDial}
              rate={piece.frame.rate}
              onChange={(v) => {
                onChange({ [end]: v });
              }}
              onSettle={onSettle}
            />
          ))}
          <SmallSelect
            label={`${name}, curve`}
            value={move.ease ?? 'straight'}
            options={EASE_TITLES}
            onChange={(ease) => {
              onChange({ ease });
              onSettle();
            }}
          />
        </Stack>
      )}
    </Box>
  );
}
