import { Box, Stack } from '@mui/material';
import { restOf } from '@vast-swarm/core/piece';
import type { ControlValue, Sets } from '@vast-swarm/core/feeds';
import { useEngine } from '../../engine/EngineContext';
import { usePiece } from '../../store/store';
import { Empty } from '../../ui/Empty';
import { FindOne } from '../FindOne';
import { PickOne } from '../PickOne';
import { ControlValueField } from './ControlValueField';
import { ListRow } from './ListRow';

interface Props {
  sets: Sets;
  onChange: (sets: Sets) => void;
  onSettle: () => void;
}

/** Values that a cue takes controls to; a new one begins with the present value. */
export function SetsCell({ sets, onChange, onSettle }: Props) {
  const engine = useEngine();
  const piece = usePiece();
  const { controls } = piece;
  const others = controls.filter((c) => !sets.some((s) => s.control === c.id));
  if (controls.length === 0) {
    return (
      <Empty action={<FindOne what="Find a dial to put forward" />} sx={{ fontSize: 12.5 }}>
        There are no controls yet. The sign beside a dial also puts it forward.
      </Empty>
    );
  }
  const put = (next: Sets): void => {
    onChange(next);
    onSettle();
  };
  return (
    <Stack sx={{ gap: 0.5 }}>
      {sets.map(({ control: id, to }, i) => {
        const control = controls.find((c) => c.id === id);
        if (!control) return null;
        return (
          <ListRow
            key={id}
            name={control.name}
            remove={`Leave ${control.name} as it is`}
            onRemove={() => {
              put(sets.filter((_, k) => k !== i));
            }}
          >
            <ControlValueField
              piece={piece}
              control={control}
              value={to}
              label={`${control.name}, taken to`}
              onChange={(value: ControlValue) => {
                onChange(sets.map((s, k) => (k === i ? { ...s, to: value } : s)));
              }}
              onSettle={onSettle}
            />
          </ListRow>
        );
      })}
      {others.length > 0 && (
        <Box>
          <PickOne
            title="Set a control"
            options={others}
            onPick={(id) => {
              const to = engine.report?.controls[id] ?? restOf(others.find((c) => c.id === id)!);
              put([...sets, { control: id, to }]);
            }}
          />
        </Box>
      )}
    </Stack>
  );
}
