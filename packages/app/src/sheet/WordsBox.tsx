import { Box, InputBase, MenuItem, Select, Stack } from '@mui/material';
import { useState } from 'react';
import {
  FONTS,
  MOST_LETTERS,
  WORDS_DEFAULTS,
  type StockEntry,
  type WordsSource,
} from '@vast-swarm/core/stock';
import { useStoredStock } from '../stock/useStoredStock';
import { pieceActions } from '../store/pieceSlice';
import { useAppDispatch } from '../store/store';
import { COLOURS } from '../ui/theme';
import { NumberField } from '../fields/NumberField';

const METRES = { min: 1e-3, max: 1e4, unit: 'm', drag: 'log' as const };
const DEPTH = { min: 0, max: 1e4, unit: 'm' };
const TRACKING = { min: -1, max: 10, unit: 'em' };
const LEADING = { min: 0, max: 10, unit: 'em' };

const ALIGNS = { left: 'Left', middle: 'Middle', right: 'Right' } as const;

interface Props {
  entry: StockEntry;
  source: WordsSource;
}

/** The text of words, and how it is set. */
export function WordsBox({ entry, source }: Props) {
  const dispatch = useAppDispatch();
  const put = (part: Partial<WordsSource>): void => {
    // What is undefined has no place in the file.
    const plain = JSON.parse(JSON.stringify({ ...source, ...part })) as WordsSource;
    dispatch(pieceActions.stocked({ entry: { ...entry, source: plain } }));
  };
  const settle = (): void => {
    dispatch(pieceActions.settled());
  };
  const choose = (part: Partial<WordsSource>): void => {
    put(part);
    settle();
  };
  const number = (
    key: 'size' | 'tracking' | 'leading' | 'depth',
    label: string,
    spec: typeof METRES | typeof DEPTH,
  ) => (
    <Labelled name={label}>
      <NumberField
        label={`${label} of ${entry.name}`}
        value={source[key] ?? WORDS_DEFAULTS[key]}
        spec={spec}
        rate={30}
        onChange={(v) => {
          put({ [key]: v });
        }}
        onSettle={settle}
      />
    </Labelled>
  );
  return (
    <Box sx={{ my: 0.5 }}>
      <Text entry={entry} words={source.words} onChange={put} onSettle={settle} />
      <Stack direction="row" sx={{ flexWrap: 'wrap', columnGap: 2, rowGap: 0.25, mt: 0.5 }}>
        <Labelled name="Font">
          <FontChoice entry={entry} font={source.font} onChange={choose} />
        </Labelled>
        <Labelled name="Lines">
          <Select
            {...PLAIN}
            value={source.align ?? WORDS_DEFAULTS.align}
            onChange={(e) => {
              choose({ align: e.target.value });
            }}
            inputProps={{ 'aria-label': `Lines of ${entry.name}` }}
          >
            {Object.entries(ALIGNS).map(([value, title]) => (
              <MenuItem key={value} value={value}>
                {title}
              </MenuItem>
            ))}
          </Select>
        </Labelled>
        {number('size', 'Size', METRES)}
        {number('tracking', 'Tracking', TRACKING)}
        {number('leading', 'Leading', LEADING)}
        {entry.type === 'mesh' && number('depth', 'Depth', DEPTH)}
      </Stack>
    </Box>
  );
}

const PLAIN = {
  variant: 'standard',
  disableUnderline: true,
  sx: { fontSize: 12.5 },
} as const;

function Labelled({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <Stack direction="row" sx={{ alignItems: 'baseline', gap: 0.75, fontSize: 12.5 }}>
      <Box component="span" sx={{ color: COLOURS.faint }}>
        {name}
      </Box>
      {children}
    </Stack>
  );
}

interface TextProps {
  entry: StockEntry;
  words: string;
  onChange: (part: Partial<WordsSource>) => void;
  onSettle: () => void;
}

/** The field of the text, drawn at once; all that is typed until it is left is one step to be undone. */
function Text({ entry, words, onChange, onSettle }: TextProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const shown = typed ?? words;
  return (
    <InputBase
      multiline
      maxRows={6}
      fullWidth
      value={shown}
      placeholder="Type here; Enter begins a line"
      onChange={(e) => {
        const text = e.target.value.slice(0, MOST_LETTERS);
        setTyped(text);
        onChange({ words: text });
      }}
      onBlur={() => {
        setTyped(null);
        onSettle();
      }}
      // Keys of the workshop are not meant for what is typed.
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Escape') (e.target as HTMLElement).blur();
      }}
      inputProps={{ 'aria-label': `Letters of ${entry.name}`, maxLength: MOST_LETTERS }}
      sx={{
        fontSize: 14,
        border: 1,
        borderColor: COLOURS.line,
        borderRadius: 0.5,
        px: 1,
        '&.Mui-focused': { borderColor: COLOURS.amber },
      }}
    />
  );
}

interface FontProps {
  entry: StockEntry;
  font: WordsSource['font'];
  onChange: (part: Partial<WordsSource>) => void;
}

/** One of the fonts that are shipped, or of those in the stock. */
function FontChoice({ entry, font = WORDS_DEFAULTS.font, onChange }: FontProps) {
  const fonts = useStoredStock().filter((s) => s.type === 'font');
  const value = typeof font === 'string' ? font : font.hash;
  const missing = typeof font === 'object' && !fonts.some((f) => f.hash === font.hash);
  return (
    <Select
      {...PLAIN}
      value={value}
      onChange={(e) => {
        const file = fonts.find((f) => f.hash === e.target.value);
        const shipped = e.target.value as keyof typeof FONTS;
        onChange({ font: file ? { file: file.file, hash: file.hash } : shipped });
      }}
      inputProps={{ 'aria-label': `Font of ${entry.name}` }}
    >
      {Object.entries(FONTS).map(([key, title]) => (
        <MenuItem key={key} value={key}>
          {title}
        </MenuItem>
      ))}
      {fonts.map((f) => (
        <MenuItem key={f.hash} value={f.hash}>
          {f.name}
        </MenuItem>
      ))}
      {missing && <MenuItem value={font.hash}>{font.file} (not in the stock)</MenuItem>}
    </Select>
  );
}
