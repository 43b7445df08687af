import { Box, ButtonBase, Popover, Stack } from '@mui/material';
import { useMemo, useState } from 'react';
import { controlKind, restOf, type ControlValue, type Part } from '@vast-swarm/core';
import { Fader, type Told } from '../../desk/Fader';
import { useEngine, useReport } from '../../engine/EngineContext';
import { COLOURS } from '../../theme';
import { ControlValueField } from '../sheet/controls/ControlValueField';
import { gradientCss } from '../sheet/GradientTools';
import type { Acts } from './useActs';

interface Props {
  control: Part;
  acts: Acts;
}

/** A control as it is moved: at once seen, and recorded while the piece plays. */
export function ControlTile({ control, acts }: Props) {
  const engine = useEngine();
  const { id, name } = control;
  const kind = controlKind(control);
  const told = useMemo(
    (): Told<number> => ({
      read: () => (engine.report?.controls[id] ?? restOf(control)) as number,
      subscribe: engine.subscribe,
    }),
    [engine, id, control],
  );
  if (kind.holds !== 'number') return <OtherTile {...{ control, acts }} />;
  const [min, max] = kind.range!(control.dials);
  return (
    <Fader
      {...{ name, min, max, told }}
      unit={control.dials.unit as string}
      height={28}
      onSet={(value, held) => {
        acts.set(id, value, held);
      }}
      onLetGo={() => {
        acts.letGo(id);
      }}
      onReset={() => {
        acts.set(id, restOf(control));
      }}
    />
  );
}

function OtherTile({ control, acts }: Props) {
  const { id, name } = control;
  // As a text, so that it is drawn again when it is another.
  const text = useReport((r) => JSON.stringify(r?.controls[id] ?? restOf(control)));
  const value = JSON.parse(text) as ControlValue;
  const set = (to: ControlValue): void => {
    acts.set(id, to);
  };
  if (typeof value === 'boolean') {
    return (
      <ButtonBase
        role="switch"
        aria-checked={value}
        onClick={() => {
          set(!value);
        }}
        sx={{
          ...{ height: 28, px: 1, borderRadius: 0.75, width: '100%', gap: 1, fontSize: 13 },
          ...{ justifyContent: 'flex-start', fontFamily: 'inherit', bgcolor: COLOURS.raised },
          color: value ? COLOURS.glass : COLOURS.faint,
        }}
      >
        <Box sx={{ flex: 1, textAlign: 'left', color: COLOURS.text }}>{name}</Box>
        {value ? 'On' : 'Off'}
      </ButtonBase>
    );
  }
  return (
    <Stack
      direction="row"
      sx={{
        ...{ alignItems: 'center', minHeight: 28, px: 1, gap: 1, fontSize: 13 },
        ...{ bgcolor: COLOURS.raised, borderRadius: 0.75 },
      }}
    >
      <Box sx={{ flex: 1, minWidth: 60 }}>{name}</Box>
      <TileField {...{ control, value }} label={name} onChange={set} onSettle={() => undefined} />
    </Stack>
  );
}

/** What a control is set to, where there is little room: a gradient is seen, and opens when it is pressed. */
function TileField(props: Parameters<typeof ControlValueField>[0]) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const { value, label } = props;
  if (!Array.isArray(value)) return <ControlValueField {...props} />;
  return (
    <>
      <ButtonBase
        aria-label={`${label}: change the gradient`}
        onClick={(event) => {
          setAnchor(event.currentTarget);
        }}
        sx={{ width: 120, height: 16, borderRadius: 0.5, background: gradientCss(value) }}
      />
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => {
          setAnchor(null);
        }}
        anchorOrigin={{ vertical: 'top', horizontal: 'left' }}
        transformOrigin={{ vertical: 'bottom', horizontal: 'left' }}
      >
        <Box sx={{ p: 1.5, width: 300 }}>
          <ControlValueField {...props} />
        </Box>
      </Popover>
    </>
  );
}
