import { Box, Button, IconButton } from '@mui/material';
import { Trash2 } from 'lucide-react';
import type { Keys } from '@vast-swarm/core/feeds';
import { useEngine } from '../engine/EngineContext';
import { keysAtTime, withKey } from '../store/keyEdits';
import { NumberField } from '../fields/NumberField';
import { EaseSelect } from './ShapeEditor';

const TIME = { min: 0, max: 3600, unit: 's' };
const VALUE = { min: -1e6, max: 1e6, unit: '' };

interface Props {
  keys: Keys;
  rate: number;
  onChange: (keys: Keys) => void;
  onSettle: () => void;
}

/** Keyframes in numbers; the timing strip shows them as a curve. */
export function KeysTable({ keys, rate, onChange, onSettle }: Props) {
  const engine = useEngine();
  const change = (i: number, part: Partial<Keys[number]>): void => {
    onChange(keys.map((k, n) => (n === i ? { ...k, ...part } : k)).sort((a, b) => a.at - b.at));
  };
  return (
    <Box>
      {keys.map((key, i) => (
        <Box key={i} sx={{ display: 'flex', alignItems: 'center' }}>
          <NumberField
            label={`Key ${String(i + 1)}, time`}
            value={key.at}
            spec={TIME}
            rate={rate}
            onChange={(at) => {
              change(i, { at });
            }}
            onSettle={onSettle}
          />
          <NumberField
            label={`Key ${String(i + 1)}, value`}
            value={key.value}
            spec={VALUE}
            rate={rate}
            onChange={(value) => {
              change(i, { value });
            }}
            onSettle={onSettle}
          />
          <EaseSelect
            label={`Key ${String(i + 1)}, way to the next`}
            ease={key.ease}
            onChange={(ease) => {
              change(i, { ease });
              onSettle();
            }}
          />
          <IconButton
            aria-label={`Remove key ${String(i + 1)}`}
            disabled={keys.length < 2}
            onClick={() => {
              onChange(keys.filter((_, n) => n !== i));
              onSettle();
            }}
          >
            <Trash2 size={12} />
          </IconButton>
        </Box>
      ))}
      <Button
        onClick={() => {
          const at = Math.max(0, engine.place / rate);
          onChange(withKey(keys, { at, value: keysAtTime(keys, at) }));
          onSettle();
        }}
      >
        Key at this frame
      </Button>
    </Box>
  );
}
