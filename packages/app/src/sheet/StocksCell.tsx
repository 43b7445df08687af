import { Box, IconButton, Stack } from '@mui/material';
import { Trash2 } from 'lucide-react';
import type { StocksDial } from '@vast-swarm/core/kinds';
import { usePiece } from '../store/store';
import { StockCell } from './StockCell';

interface Props {
  spec: StocksDial;
  value: string[];
  path: (string | number)[];
  onChange: (value: string[]) => void;
}

/** Things of the stock in order; the empty cell at the end takes another. */
export function StocksCell({ spec, value, path, onChange }: Props) {
  const { stock } = usePiece();
  return (
    <Box>
      {value.map((id, i) => {
        const name = stock.find((s) => s.id === id)?.name ?? id;
        return (
          <Stack key={i} direction="row" sx={{ alignItems: 'center', fontSize: 13 }}>
            <Box sx={{ flex: 1 }}>{name}</Box>
            <IconButton
              aria-label={`Take ${name} out`}
              onClick={() => {
                onChange(value.filter((_, k) => k !== i));
              }}
              sx={{ p: '2px' }}
            >
              <Trash2 size={13} />
            </IconButton>
          </Stack>
        );
      })}
      <StockCell
        spec={{ ...spec, type: 'stock', default: '' }}
        value=""
        path={[...path, value.length]}
        onChange={(id) => {
          if (id) onChange([...value, id]);
        }}
      />
    </Box>
  );
}
