import { InputBase, Stack } from '@mui/material';
import type { Panel } from '@vast-swarm/core/show';
import { SmallSelect } from '../fields/SmallSelect';
import { Labelled } from './Labelled';
import { ShowNumber } from './ShowNumber';

interface Props {
  panel: Panel;
  onChange: (panel: Panel, name: string) => void;
}

/** Settings of a panel: its place and the addresses of its pixels. */
export function PanelSettings({ panel, onChange }: Props) {
  const { order } = panel;
  const number = (
    key: 'x' | 'y' | 'columns' | 'rows' | 'pitch' | 'turn',
    label: string,
    range: [min: number, max: number],
    unit = '',
  ) => (
    <Labelled label={label} width={58}>
      <ShowNumber
        {...{ label, range, unit }}
        whole={key === 'columns' || key === 'rows'}
        value={panel[key]}
        onChange={(value) => {
          onChange({ ...panel, [key]: value }, key);
        }}
      />
    </Labelled>
  );
  const setOrder = (part: Partial<Panel['order']>): void => {
    onChange({ ...panel, order: { ...order, ...part } }, 'order');
  };
  return (
    <Stack role="group" aria-label={panel.name} sx={{ gap: 0.75 }}>
      <InputBase
        value={panel.name}
        inputProps={{ 'aria-label': 'Name of the panel', maxLength: 120 }}
        onChange={({ target }) => {
          if (target.value.trim()) onChange({ ...panel, name: target.value }, 'name');
        }}
        sx={{ fontSize: 15, fontWeight: 600 }}
      />
      <Stack direction="row" sx={{ gap: 2 }}>
        {number('x', 'Across', [-1000, 1000], 'm')}
        {number('y', 'Down', [-1000, 1000], 'm')}
      </Stack>
      <Stack direction="row" sx={{ gap: 2 }}>
        {number('columns', 'Columns', [1, 512])}
        {number('rows', 'Rows', [1, 512])}
      </Stack>
      <Stack direction="row" sx={{ gap: 2 }}>
        {number('pitch', 'Pitch', [0.5, 500], 'mm')}
        {number('turn', 'Turn', [-360, 360], 'deg')}
      </Stack>
      <Labelled label="Addressed along" width={100}>
        <SmallSelect
          label="Addressed along"
          value={order.along}
          options={{ rows: 'rows', columns: 'columns' }}
          onChange={(along) => {
            setOrder({ along });
          }}
        />
      </Labelled>
      <Labelled label="from" width={100}>
        <SmallSelect
          label="From which corner"
          value={order.from}
          options={{
            topLeft: 'the top left',
            topRight: 'the top right',
            bottomLeft: 'the bottom left',
            bottomRight: 'the bottom right',
          }}
          onChange={(from) => {
            setOrder({ from });
          }}
        />
      </Labelled>
      <Labelled label="and" width={100}>
        <SmallSelect
          label="How one follows the other"
          value={order.snake ? 'snake' : 'each'}
          options={{ each: 'each from the same side', snake: 'to and fro' }}
          onChange={(value) => {
            setOrder({ snake: value === 'snake' });
          }}
        />
      </Labelled>
    </Stack>
  );
}
