import { Box, Stack } from '@mui/material';
import { X } from 'lucide-react';
import { restOf, type ControlValue, type Sets } from '@vast-swarm/core';
import { useEngine } from '../../../engine/EngineContext';
import { usePiece } from '../../../store/store';
import { COLOURS } from '../../../theme';
import { IconAction } from '../../../ui/IconAction';
import { NamedSelect } from '../NamedSelect';
import { ControlValueField } from './ControlValueField';

interface Props {
  sets: Sets;
  onChange: (sets: Sets) => void;
  onSettle: () => void;
}

/** What a cue takes controls to; one that is added begins with what it is now. */
export function SetsCell({ sets, onChange, onSettle }: Props) {
  const engine = useEngine();
  const { controls } = usePiece();
  const others = controls.filter((c) => !sets.some((s) => s.control === c.id));
  if (controls.length === 0) {
    return (
      <Box sx={{ color: COLOURS.faint, fontSize: 12.5 }}>
        There are no controls yet. What fills a dial, the button behind it, also puts it forward.
      </Box>
    );
  }
  return (
    <Stack sx={{ gap: 0.5 }}>
      {sets.map(({ control: id, to }, i) => {
        const control = controls.find((c) => c.id === id);
        if (!control) return null;
        return (
          <Stack key={id} direction="row" sx={{ alignItems: 'center', gap: 1, fontSize: 13 }}>
            <Box sx={{ width: 96, overflow: 'hidden', textOverflow: 'ellipsis' }}>
              {control.name}
            </Box>
            <Box sx={{ flex: 1, minWidth: 0 }}>
              <ControlValueField
                control={control}
                value={to}
                label={`${control.name}, taken to`}
                onChange={(value: ControlValue) => {
                  onChange(sets.map((s, k) => (k === i ? { ...s, to: value } : s)));
                }}
                onSettle={onSettle}
              />
            </Box>
            <IconAction
              label={`Leave ${control.name} as it is`}
              onClick={() => {
                onChange(sets.filter((_, k) => k !== i));
                onSettle();
              }}
            >
              <X size={13} />
            </IconAction>
          </Stack>
        );
      })}
      {others.length > 0 && (
        <Box>
          <NamedSelect
            title="Set a control"
            none="Set a control"
            value=""
            options={others}
            onChange={(id) => {
              const control = controls.find((c) => c.id === id);
              if (!control) return;
              const to = engine.report?.controls[id] ?? restOf(control);
              onChange([...sets, { control: id, to }]);
              onSettle();
            }}
          />
        </Box>
      )}
    </Stack>
  );
}
