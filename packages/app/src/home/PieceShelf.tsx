import { Box, Button, InputBase, MenuItem, Select, Stack, Typography } from '@mui/material';
import { Search } from 'lucide-react';
import { useMemo, useState, type ReactNode } from 'react';
import type { StoredPiece } from '../data/db';
import { SORTS, wantedRows, type ShelfRow, type Wanted } from '../data/shelf';
import { COLOURS } from '../ui/theme';
import { Empty } from '../ui/Empty';
import { PieceCard } from './PieceCard';
import { useStoredPieces } from './usePieces';

interface Props {
  title: string;
  about: string;
  rows: readonly ShelfRow[];
  held: readonly StoredPiece[];
  /** Whether there are ways to find and to order them. */
  finding?: boolean;
  /** The view of an empty shelf. */
  empty?: ReactNode;
}

/** Cards that are shown at once; more where they are asked for. */
const PAGE = 24;

/** A shelf of pieces. */
export function PieceShelf({ title, about, rows, held, finding = false, empty }: Props) {
  const [wanted, setWanted] = useState<Wanted>({ search: '', folder: null, sort: 'changed' });
  const [most, setMost] = useState(PAGE);
  const found = useMemo(() => wantedRows(rows, wanted), [rows, wanted]);
  const shown = useMemo(() => found.slice(0, most), [found, most]);
  const pieces = useStoredPieces(shown, held);
  const left = found.length - shown.length;
  return (
    <Box
      component="section"
      aria-label={title}
      sx={{ borderTop: `1px solid ${COLOURS.line}`, pt: 2, pb: 4 }}
    >
      <Stack direction="row" sx={{ alignItems: 'baseline', gap: 1.5, mb: 1.5 }}>
        <Typography variant="h2">{title}</Typography>
        <Typography color="text.secondary" sx={{ fontSize: 13, flex: 1 }}>
          {about}
        </Typography>
        {finding && rows.length > 0 && (
          <Finding
            wanted={wanted}
            onChange={(change) => {
              setWanted({ ...wanted, ...change });
              setMost(PAGE);
            }}
          />
        )}
      </Stack>
      {finding && (
        <Folders
          rows={rows}
          folder={wanted.folder}
          onChange={(folder) => {
            setWanted({ ...wanted, folder });
            setMost(PAGE);
          }}
        />
      )}
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: 'repeat(auto-fill, minmax(330px, 1fr))',
          gap: 2.5,
        }}
      >
        {pieces.map((p) => (
          <PieceCard key={p.id} stored={p} />
        ))}
        {rows.length === 0 && empty}
        {rows.length > 0 && found.length === 0 && (
          <Empty
            action={
              <Button
                variant="outlined"
                onClick={() => {
                  setWanted({ ...wanted, search: '', folder: null });
                }}
              >
                Show all
              </Button>
            }
          >
            No piece has all of these words.
          </Empty>
        )}
      </Box>
      {left > 0 && (
        <Button
          variant="outlined"
          sx={{ mt: 2 }}
          onClick={() => {
            setMost(most + 2 * PAGE);
          }}
        >
          Show more ({left.toLocaleString('en-GB')} left)
        </Button>
      )}
    </Box>
  );
}

interface FindingProps {
  wanted: Wanted;
  onChange: (change: Partial<Wanted>) => void;
}

function Finding({ wanted, onChange }: FindingProps) {
  return (
    <>
      <Stack
        direction="row"
        sx={{ alignItems: 'center', gap: 0.5, borderBottom: `1px solid ${COLOURS.line}` }}
      >
        <Search size={14} aria-hidden />
        <InputBase
          value={wanted.search}
          placeholder="Name, folder or tag"
          onChange={(e) => {
            onChange({ search: e.target.value });
          }}
          inputProps={{ 'aria-label': 'Find pieces' }}
          sx={{ fontSize: 13, width: 180 }}
        />
      </Stack>
      <Select
        variant="standard"
        disableUnderline
        value={wanted.sort}
        onChange={(e) => {
          onChange({ sort: e.target.value });
        }}
        inputProps={{ 'aria-label': 'Order of pieces' }}
        sx={{ fontSize: 13 }}
      >
        {Object.entries(SORTS).map(([value, name]) => (
          <MenuItem key={value} value={value}>
            {name}
          </MenuItem>
        ))}
      </Select>
    </>
  );
}

interface FoldersProps {
  rows: readonly ShelfRow[];
  folder: string | null;
  onChange: (folder: string | null) => void;
}

/** The folders that there are, with how many pieces are in each. */
function Folders({ rows, folder, onChange }: FoldersProps) {
  const counts = new Map<string, number>();
  for (const row of rows) if (row.folder) counts.set(row.folder, (counts.get(row.folder) ?? 0) + 1);
  if (counts.size === 0) return null;
  const names = [...counts.keys()].sort((a, b) => a.localeCompare(b, 'en', { numeric: true }));
  const one = (name: string | null, title: string) => (
    <Button
      key={title}
      size="small"
      aria-pressed={folder === name}
      onClick={() => {
        onChange(name);
      }}
      sx={{ color: folder === name ? COLOURS.amber : COLOURS.text }}
    >
      {title}
    </Button>
  );
  return (
    <Stack
      direction="row"
      role="group"
      aria-label="Folders"
      sx={{ flexWrap: 'wrap', gap: 0.5, mb: 1.5 }}
    >
      {one(null, 'All')}
      {names.map((name) => one(name, `${name} (${String(counts.get(name)!)})`))}
    </Stack>
  );
}
