import { Box, Stack } from '@mui/material';
import { useCallback, type ReactNode } from 'react';
import { signalNames } from '@vast-swarm/core/piece';
import {
  isFixed,
  isFormula,
  isMap,
  isSignal,
  isSpread,
  type FormulaFeed,
  type NumberFeed,
  type SignalFeed,
} from '@vast-swarm/core/feeds';
import type { NumberDial } from '@vast-swarm/core/kinds';
import { useApp } from '../store/store';
import { COLOURS } from '../ui/theme';
import { FormulaField } from './FormulaField';
import { MapCell } from './MapCell';
import { NumberField } from '../fields/NumberField';
import { SignalCurve } from './SignalCurve';

export interface NumberCellProps {
  label: string;
  spec: Pick<NumberDial, 'min' | 'max' | 'unit' | 'whole' | 'drag' | 'varies'>;
  value: NumberFeed;
  rate: number;
  onChange: (value: NumberFeed) => void;
  onSettle: () => void;
  onReset: () => void;
}

/** The value of a number dial, whatever fills it. */
export function NumberCell(props: NumberCellProps) {
  const { label, spec, value, rate, onChange, onSettle, onReset } = props;
  const field = (name: string, v: number, change: (v: number) => void, last = true) => (
    <NumberField
      key={name}
      label={name}
      value={v}
      spec={spec}
      rate={rate}
      width={last ? '100%' : 62}
      hideUnit={!last}
      onChange={change}
      onSettle={onSettle}
      onReset={onReset}
    />
  );
  if (typeof value === 'number') return field(label, value, onChange);
  if (isFixed(value)) {
    return field(label, value.value, (v) => {
      onChange({ ...value, value: v });
    });
  }
  const ends = (
    <Stack direction="row" sx={{ alignItems: 'baseline' }}>
      {field(
        `${label} from`,
        value.from,
        (from) => {
          onChange({ ...value, from });
        },
        false,
      )}
      <Box sx={{ color: COLOURS.faint }}>–</Box>
      {field(`${label} to`, value.to, (to) => {
        onChange({ ...value, to });
      })}
    </Stack>
  );
  if (isSpread(value)) return ends;
  if (isMap(value)) {
    return (
      <MapCell {...{ label, rate, onChange, onSettle }} feed={value}>
        {ends}
      </MapCell>
    );
  }
  if (isSignal(value)) return <Driven label={label} feed={value} ends={ends} />;
  return (
    <Box>
      <FormulaField
        label={label}
        text={value.text}
        particle={spec.varies !== 'frame'}
        onChange={(text) => {
          onChange({ ...value, text } satisfies FormulaFeed);
          onSettle();
        }}
      />
      {isFormula(value) && (
        <Stack direction="row" sx={{ alignItems: 'baseline', color: COLOURS.faint, fontSize: 11 }}>
          kept within {ends}
        </Stack>
      )}
    </Box>
  );
}

/** A dial that follows a signal: its name, its curve now, and the values it goes between. */
function Driven({ label, feed, ends }: { label: string; feed: SignalFeed; ends: ReactNode }) {
  const name = useApp((s) => signalNames(s.piece.piece!).find((p) => p.id === feed.signal)?.name);
  const { from, to } = feed;
  const map = useCallback((v: number) => from + (to - from) * v, [from, to]);
  return (
    <Box sx={{ minWidth: 0 }}>
      <Box sx={{ color: COLOURS.glass, fontSize: 12 }}>{name ?? 'a signal that is gone'}</Box>
      <SignalCurve id={feed.signal} label={label} height={22} map={map} />
      {ends}
    </Box>
  );
}
