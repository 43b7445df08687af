import { InputBase, Stack } from '@mui/material';
import { FASTEST } from '@vast-swarm/core/formats';
import type { Show } from '@vast-swarm/core/show';
import { SmallSelect } from '../fields/SmallSelect';
import { Labelled } from './Labelled';
import { ShowNumber } from './ShowNumber';

interface Props {
  show: Show;
  onPut: (part: Partial<Show>, name: string) => void;
}

/** Settings of a show as a whole. */
export function ShowSettings({ show, onPut }: Props) {
  const { size } = show;
  const side = (key: 'width' | 'height', label: string) => (
    <ShowNumber
      label={label}
      value={size![key]}
      range={[16, 16_384]}
      unit="px"
      whole
      onChange={(value) => {
        onPut({ size: { ...size!, [key]: value } }, key);
      }}
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
        <ShowNumber
          label="Brightness at the beginning"
          value={show.brightness}
          range={[0, 1]}
          onChange={(brightness) => {
            onPut({ brightness }, 'brightness');
          }}
        />
      </Labelled>
      <Labelled label="and speed">
        <ShowNumber
          label="Speed at the beginning"
          value={show.speed}
          range={[0, FASTEST]}
          unit="×"
          onChange={(speed) => {
            onPut({ speed }, 'speed');
          }}
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
