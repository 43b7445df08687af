import { Box, ButtonBase, Stack } from '@mui/material';
import type { Entry } from '@vast-swarm/core/show';
import type { OpenShow } from '../show/useShow';
import { COLOURS, MONO } from '../ui/theme';
import { useStanding, type Desk } from './desk';
import { clock, secondsOf, starterWords } from './words';

interface Props {
  desk: Desk;
  open: OpenShow;
}

/** The entries in order: what plays, and what comes; one that is pressed is the next. */
export function EntryList({ desk, open }: Props) {
  const present = useStanding(desk, (s) => s?.present?.entry ?? null);
  const coming = useStanding(desk, (s) => s?.coming?.entry ?? null);
  const ready = useStanding(desk, (s) => s?.coming?.ready ?? false);
  return (
    <Box
      component="nav"
      aria-label="Pieces of the show"
      sx={{ overflowY: 'auto', borderRight: `1px solid ${COLOURS.line}`, p: 1 }}
    >
      <Stack sx={{ gap: 0.5 }}>
        {open.show.entries.map((entry, i) => (
          <EntryRow
            key={entry.id}
            {...{ desk, open, entry }}
            number={i + 1}
            state={
              entry.id === present
                ? 'plays'
                : entry.id !== coming
                  ? 'rests'
                  : ready
                    ? 'next'
                    : 'loads'
            }
          />
        ))}
      </Stack>
    </Box>
  );
}

interface RowProps extends Props {
  entry: Entry;
  number: number;
  state: 'plays' | 'next' | 'loads' | 'rests';
}

const STATES = { plays: 'plays', next: 'next', loads: 'loading', rests: '' };

function EntryRow({ desk, open, entry, number, state }: RowProps) {
  const piece = open.pieces.get(entry.piece);
  const plays = state === 'plays';
  const comes = state === 'next' || state === 'loads';
  return (
    <ButtonBase
      disabled={!piece || plays}
      aria-current={plays || undefined}
      onClick={() => {
        desk.do({ do: 'call', entry: entry.id });
      }}
      sx={{
        minHeight: 46,
        px: 1.25,
        py: 0.5,
        gap: 1.25,
        borderRadius: 1,
        textAlign: 'left',
        justifyContent: 'flex-start',
        fontFamily: 'inherit',
        width: '100%',
        border: `2px solid ${comes ? COLOURS.amber : 'transparent'}`,
        borderStyle: state === 'loads' ? 'dashed' : 'solid',
        bgcolor: plays ? COLOURS.amber : COLOURS.raised,
        color: plays ? COLOURS.ground : piece ? COLOURS.text : COLOURS.coral,
        '&:hover': { borderColor: COLOURS.amber },
      }}
    >
      <Box sx={{ fontFamily: MONO, fontSize: 13, width: 22 }}>{number}</Box>
      <Box sx={{ flex: 1, minWidth: 0 }}>
        <Box sx={{ fontSize: 15.5, fontWeight: 600, lineHeight: 1.2 }}>
          {piece?.name ?? 'Not there any more'}
        </Box>
        <Box sx={{ fontSize: 12 }}>
          {[STATES[state], starterWords(entry, piece)].filter(Boolean).join(' · ')}
        </Box>
      </Box>
      <Box sx={{ fontFamily: MONO, fontSize: 13.5 }}>
        {piece ? clock(secondsOf(entry, piece)) : '--'}
      </Box>
    </ButtonBase>
  );
}
