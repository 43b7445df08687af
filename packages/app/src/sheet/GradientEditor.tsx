import { Box, Stack } from '@mui/material';
import { useState, type KeyboardEvent, type MouseEvent, type PointerEvent } from 'react';
import { gradientAt, hexOf, linearRgb, type Rgb, type Stop } from '@vast-swarm/core/feeds';
import { COLOURS } from '../ui/theme';
import { useHolding } from '../ui/useHolding';
import { ColourField } from './ColourField';
import { gradientCss, GradientTools } from './GradientTools';
import { NumberField } from '../fields/NumberField';
import { EaseSelect } from './ShapeEditor';

interface Props {
  label: string;
  stops: Stop[];
  onChange: (stops: Stop[]) => void;
  onSettle: () => void;
  rate: number;
}

/** Light over 1 is shown as its own colour at full strength. */
function screenColour(rgb: Rgb): string {
  const most = Math.max(1, ...rgb);
  return hexOf(rgb.map((c) => c / most) as Rgb);
}

/** The part of the bar, 0 to 1, that the pointer is over. */
function placeOf({ currentTarget, clientX }: MouseEvent): number {
  const box = currentTarget.getBoundingClientRect();
  return Math.min(1, Math.max(0, (clientX - box.left) / box.width));
}

/** Stops with one of them changed; it stays between its neighbours. */
function withStop(stops: Stop[], i: number, part: Partial<Stop>): Stop[] {
  const low = stops[i - 1]?.at ?? 0;
  const high = stops[i + 1]?.at ?? 1;
  const next = { ...stops[i]!, ...part };
  const at = Math.round(Math.min(high, Math.max(low, next.at)) * 1000) / 1000;
  return stops.map((s, k) => (k === i ? { ...next, at } : s));
}

/** Stops with one more, of the colour that is there already; and which it is. */
function withMore(stops: Stop[], at: number): [Stop[], number] {
  const rgb = gradientAt(stops, at);
  const light = Math.max(1, ...rgb);
  const fresh: Stop = { at, colour: hexOf(rgb.map((c) => c / light) as Rgb), light };
  const before = stops.findIndex((s) => s.at > at);
  const index = before < 0 ? stops.length : before;
  return [[...stops.slice(0, index), fresh, ...stops.slice(index)], index];
}

/** A gradient: drag stops, double-click to add one, Delete to remove it; light over 1 glows. */
export function GradientEditor({ label, stops, onChange, onSettle, rate }: Props) {
  const [chosen, setChosen] = useState(0);
  const current = Math.min(chosen, stops.length - 1);
  const change = (i: number, part: Partial<Stop>): void => {
    onChange(withStop(stops, i, part));
  };
  const { surface, hold, handlers } = useHolding<HTMLDivElement>((i, event) => {
    change(i, { at: placeOf(event) });
  }, onSettle);
  return (
    <Box>
      <Box
        ref={surface}
        role="group"
        aria-label={`${label} gradient`}
        onDoubleClick={(event) => {
          const [next, index] = withMore(stops, placeOf(event));
          onChange(next);
          onSettle();
          setChosen(index);
        }}
        {...handlers}
        sx={{ position: 'relative', height: 30, touchAction: 'none' }}
      >
        <Box sx={{ height: 18, borderRadius: 0.5, background: gradientCss(stops) }} />
        {stops.map((stop, i) => (
          <StopMark
            key={i}
            label={`${label}, stop ${String(i + 1)}`}
            stop={stop}
            chosen={i === current}
            onChoose={() => {
              setChosen(i);
            }}
            onHold={(pointer) => {
              hold(i, pointer);
            }}
            onMove={(by) => {
              change(i, { at: stop.at + by });
            }}
            onRemove={() => {
              if (stops.length <= 2) return;
              onChange(stops.filter((_, k) => k !== i));
              onSettle();
            }}
          />
        ))}
      </Box>
      <StopNumbers
        {...{ label, stops, rate, onSettle }}
        stop={stops[current]!}
        onChange={(part) => {
          change(current, part);
        }}
        onStops={(next) => {
          onChange(next);
          onSettle();
        }}
      />
    </Box>
  );
}

interface MarkProps {
  label: string;
  stop: Stop;
  chosen: boolean;
  onChoose: () => void;
  /** It is taken hold of by a pointer. */
  onHold: (pointer: number) => void;
  onMove: (by: number) => void;
  onRemove: () => void;
}

function StopMark({ label, stop, chosen, onChoose, onHold, onMove, onRemove }: MarkProps) {
  const keys = (event: KeyboardEvent): void => {
    const step = event.shiftKey ? 0.1 : 0.01;
    if (event.key === 'ArrowLeft') onMove(-step);
    else if (event.key === 'ArrowRight') onMove(step);
    else if (event.key === 'Delete' || event.key === 'Backspace') onRemove();
    else return;
    event.preventDefault();
  };
  return (
    <Box
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuenow={stop.at}
      aria-valuetext={`${stop.colour} at ${String(stop.at)}`}
      onPointerDown={(event: PointerEvent) => {
        onHold(event.pointerId);
        onChoose();
      }}
      onFocus={onChoose}
      onKeyDown={keys}
      sx={{
        position: 'absolute',
        left: `calc(${String(stop.at * 100)}% - 6px)`,
        top: 13,
        width: 12,
        height: 12,
        borderRadius: '50%',
        cursor: 'grab',
        bgcolor: screenColour(linearRgb(stop.colour)),
        border: `2px solid ${chosen ? COLOURS.amber : COLOURS.text}`,
      }}
    />
  );
}

interface NumbersProps extends Pick<Props, 'label' | 'stops' | 'rate' | 'onSettle'> {
  stop: Stop;
  onChange: (part: Partial<Stop>) => void;
  onStops: (stops: Stop[]) => void;
}

/** The chosen stop in numbers, and what can be done with all of them. */
function StopNumbers({ label, stops, stop, rate, onChange, onStops, onSettle }: NumbersProps) {
  return (
    <Stack direction="row" sx={{ alignItems: 'center', gap: 0.5 }}>
      <ColourField
        label={`${label}, stop colour`}
        value={stop.colour}
        onChange={(colour) => {
          onChange({ colour });
        }}
        onSettle={onSettle}
      />
      <Box component="span" sx={{ color: COLOURS.faint, fontSize: 11 }}>
        light
      </Box>
      <NumberField
        label={`${label}, stop light`}
        value={stop.light ?? 1}
        spec={{ min: 0, max: 100, unit: '' }}
        rate={rate}
        width={44}
        onChange={(light) => {
          onChange({ light });
        }}
        onSettle={onSettle}
      />
      <EaseSelect
        label={`${label}, way to the next stop`}
        ease={stop.ease}
        onChange={(ease) => {
          onChange({ ease });
          onSettle();
        }}
      />
      <GradientTools label={label} stops={stops} onChange={onStops} />
    </Stack>
  );
}
