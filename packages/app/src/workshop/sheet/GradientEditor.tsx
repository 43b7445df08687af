import { Box, Stack } from '@mui/material';
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { gradientAt, hexOf, linearRgb, type Rgb, type Stop } from '@vast-swarm/core';
import { COLOURS } from '../../theme';
import { ColourField } from './ColourField';
import { gradientCss, GradientTools } from './GradientTools';
import { NumberField } from './NumberField';
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

/** A gradient: drag stops, double-click to add one, Delete to remove it; light over 1 glows. */
export function GradientEditor({ label, stops, onChange, onSettle, rate }: Props) {
  const [chosen, setChosen] = useState(0);
  const bar = useRef<HTMLDivElement>(null);
  const dragging = useRef<number | null>(null);
  const current = Math.min(chosen, stops.length - 1);
  const stop = stops[current]!;

  const placeOf = (event: { clientX: number }): number => {
    const box = bar.current!.getBoundingClientRect();
    return Math.min(1, Math.max(0, (event.clientX - box.left) / box.width));
  };
  const change = (i: number, part: Partial<Stop>): void => {
    const low = stops[i - 1]?.at ?? 0;
    const high = stops[i + 1]?.at ?? 1;
    onChange(
      stops.map((s, k) => {
        if (k !== i) return s;
        const next = { ...s, ...part };
        return { ...next, at: Math.round(Math.min(high, Math.max(low, next.at)) * 1000) / 1000 };
      }),
    );
  };
  const add = (event: { clientX: number }): void => {
    const at = placeOf(event);
    const rgb = gradientAt(stops, at);
    const light = Math.max(1, ...rgb);
    const fresh: Stop = { at, colour: hexOf(rgb.map((c) => c / light) as Rgb), light };
    const before = stops.findIndex((s) => s.at > at);
    const index = before < 0 ? stops.length : before;
    onChange([...stops.slice(0, index), fresh, ...stops.slice(index)]);
    onSettle();
    setChosen(index);
  };
  const keys = (event: KeyboardEvent, i: number): void => {
    const step = event.shiftKey ? 0.1 : 0.01;
    const by = event.key === 'ArrowLeft' ? -step : event.key === 'ArrowRight' ? step : 0;
    if (by) change(i, { at: stops[i]!.at + by });
    else if ((event.key === 'Delete' || event.key === 'Backspace') && stops.length > 2) {
      onChange(stops.filter((_, k) => k !== i));
      onSettle();
    } else return;
    event.preventDefault();
  };
  return (
    <Box>
      <Box
        ref={bar}
        role="group"
        aria-label={`${label} gradient`}
        onDoubleClick={add}
        onPointerMove={(event: PointerEvent) => {
          if (dragging.current !== null) change(dragging.current, { at: placeOf(event) });
        }}
        onPointerUp={() => {
          if (dragging.current !== null) onSettle();
          dragging.current = null;
        }}
        sx={{ position: 'relative', height: 30, touchAction: 'none' }}
      >
        <Box
          sx={{
            height: 18,
            borderRadius: 0.5,
            background: gradientCss(stops),
          }}
        />
        {stops.map((s, i) => (
          <Box
            key={i}
            role="slider"
            tabIndex={0}
            aria-label={`${label}, stop ${String(i + 1)}`}
            aria-valuenow={s.at}
            aria-valuetext={`${s.colour} at ${String(s.at)}`}
            onPointerDown={(event) => {
              bar.current!.setPointerCapture(event.pointerId);
              dragging.current = i;
              setChosen(i);
            }}
            onFocus={() => {
              setChosen(i);
            }}
            onKeyDown={(event) => {
              keys(event, i);
            }}
            sx={{
              position: 'absolute',
              left: `calc(${String(s.at * 100)}% - 6px)`,
              top: 13,
              width: 12,
              height: 12,
              borderRadius: '50% 50% 50% 50%',
              bgcolor: screenColour(linearRgb(s.colour)),
              border: `2px solid ${i === current ? COLOURS.amber : COLOURS.text}`,
              cursor: 'grab',
            }}
          />
        ))}
      </Box>
      <Stack direction="row" sx={{ alignItems: 'center', gap: 0.5 }}>
        <ColourField
          label={`${label}, stop colour`}
          value={stop.colour}
          onChange={(colour) => {
            change(current, { colour });
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
            change(current, { light });
          }}
          onSettle={onSettle}
        />
        <EaseSelect
          label={`${label}, way to the next stop`}
          ease={stop.ease}
          onChange={(ease) => {
            change(current, { ease });
            onSettle();
          }}
        />
        <GradientTools
          label={label}
          stops={stops}
          onChange={(next) => {
            onChange(next);
            onSettle();
          }}
        />
      </Stack>
    </Box>
  );
}
