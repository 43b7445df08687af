import { MenuItem, Select, Stack } from '@mui/material';
import type { StockEntry } from '@vast-swarm/core/stock';
import { NumberField } from '../fields/NumberField';
import { pieceActions } from '../store/pieceSlice';
import { useAppDispatch } from '../store/store';

type FileSource = Extract<StockEntry['source'], { hash: string }>;

const METRES = { min: 1e-4, max: 1e4, unit: 'm', drag: 'log' as const };
const UNIT = { min: 1e-6, max: 1e6, unit: 'm a unit', drag: 'log' as const };

/** How the measure of a file becomes that of the piece: which way is up, and how large. */
export function Fitting({ entry, source }: { entry: StockEntry; source: FileSource }) {
  const dispatch = useAppDispatch();
  const put = (part: Partial<FileSource>): void => {
    // What is undefined has no place in the file.
    const plain = JSON.parse(JSON.stringify({ ...source, ...part })) as FileSource;
    dispatch(pieceActions.stocked({ entry: { ...entry, source: plain } }));
  };
  const bySize = source.size !== undefined;
  return (
    <Stack direction="row" sx={{ alignItems: 'baseline', gap: 1 }}>
      <Select
        variant="standard"
        disableUnderline
        value={source.up ?? 'y'}
        onChange={(e) => {
          put({ up: e.target.value === 'z' ? 'z' : undefined });
        }}
        inputProps={{ 'aria-label': `Which way is up in ${entry.name}` }}
        sx={{ fontSize: 12 }}
      >
        <MenuItem value="y">y is up</MenuItem>
        <MenuItem value="z">z is up</MenuItem>
      </Select>
      <Select
        variant="standard"
        disableUnderline
        value={bySize ? 'size' : 'unit'}
        onChange={(e) => {
          put(
            e.target.value === 'size'
              ? { size: 2, unit: undefined }
              : { size: undefined, unit: undefined },
          );
        }}
        inputProps={{ 'aria-label': `How ${entry.name} is measured` }}
        sx={{ fontSize: 12 }}
      >
        <MenuItem value="size">brought to a size</MenuItem>
        <MenuItem value="unit">in its own units</MenuItem>
      </Select>
      <NumberField
        label={bySize ? `Longest side of ${entry.name}` : `Unit of ${entry.name}`}
        value={bySize ? source.size! : (source.unit ?? 1)}
        spec={bySize ? METRES : UNIT}
        rate={30}
        onChange={(v) => {
          put(bySize ? { size: v } : { unit: v });
        }}
        onSettle={() => dispatch(pieceActions.settled())}
      />
    </Stack>
  );
}
