import { Box, InputBase, Stack } from '@mui/material';
import type { ReactNode } from 'react';
import { FASTEST, type Show } from '@vast-swarm/core';
import { COLOURS } from '../theme';
import { NumberField } from '../workshop/sheet/NumberField';
import { SmallSelect } from '../workshop/sheet/SmallSelect';

interface Props {
  show: Show;
  onPut: (part: Partial<Show>, name: string) => void;
}

/** What is said of a show as a whole. */
export function ShowSettings({ show, onPut }: Props) {
  const { size } = show;
  const side = (key: 'width' | 'height', label: string) => (
    <NumberField
      label={label}
      value={size![key]}
      spec={{ min: 16, max: 16_384, unit: 'px', whole: true }}
      rate={30}
      onChange={(value) => {
        onPut({ size: { ...size!, [key]: value } }, key);
      }}
      onSettle={() => undefined}
      width={84}
    />
  );
  return (
    <Stack direction="row" sx={{ gap: 3.5, alignItems: 'center', flexWrap: 'wrap' }}>
      <Labelled label="Name">
        <InputBase
          value={show.name}
          inputProps={{ 'aria-label': 'Name of the show', maxLength: 120 }}
          onChange={({ target }) => {
            if (target.value.trim()) onPut({ name: target.value }, 'name');
          }}
          sx={{ fontSize: 15, fontWeight: 600, width: 190 }}
        />
      </Labelled>
      <Labelled label="Output">
        <SmallSelect
          label="Size of the output"
          value={size ? 'fixed' : 'screen'}
          options={{ screen: 'All of its screen', fixed: 'A fixed size' }}
          onChange={(value) => {
            const fixed = { width: 1920, height: 1080 };
            onPut({ size: value === 'fixed' ? fixed : null }, 'size');
          }}
        />
        {size && side('width', 'Width of the output')}
        {size && side('height', 'Height of the output')}
      </Labelled>
      <Labelled label="Begins at brightness">
        <NumberField
          label="Brightness at the beginning"
          value={show.brightness}
          spec={{ min: 0, max: 1, unit: '' }}
          rate={30}
          onChange={(brightness) => {
            onPut({ brightness }, 'brightness');
          }}
          onSettle={() => undefined}
          width={64}
        />
      </Labelled>
      <Labelled label="and speed">
        <NumberField
          label="Speed at the beginning"
          value={show.speed}
          spec={{ min: 0, max: FASTEST, unit: '×' }}
          rate={30}
          onChange={(speed) => {
            onPut({ speed }, 'speed');
          }}
          onSettle={() => undefined}
          width={64}
        />
      </Labelled>
      <Labelled label="Behind the last">
        <SmallSelect
          label="What comes behind the last entry"
          value={show.again ? 'again' : 'rests'}
          options={{ rests: 'it rests', again: 'the first again' }}
          onChange={(value) => {
            onPut({ again: value === 'again' }, 'again');
          }}
        />
      </Labelled>
    </Stack>
  );
}

function Labelled({ label, children }: { label: string; children: ReactNode }) {
  return (
    <Stack direction="row" sx={{ alignItems: 'center', gap: 1 }}>
      <Box sx={{ color: COLOURS.faint, fontSize: 13, whiteSpace: 'nowrap' }}>{label}</Box>
      {children}
    </Stack>
  );
}
