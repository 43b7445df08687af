import { Box } from '@mui/material';
import { useEffect, useState } from 'react';
import { useParams } from 'react-router';
import { showKeys } from '../show/showKeys';
import { useShow, type OpenShow } from '../show/useShow';
import { COLOURS } from '../ui/theme';
import { CannotOpen } from '../ui/CannotOpen';
import { Arrange } from './Arrange';
import { Desk, useStanding } from './desk';
import { EntryList } from './EntryList';
import { Head } from './Head';
import { Masters } from './Masters';
import { Playing } from './Playing';

/** The operator's side of a show, for the dark and for a hurried hand. */
export default function DeskView() {
  const { id = '' } = useParams();
  const { open, trouble } = useShow(id);
  if (trouble) return <CannotOpen what="show" trouble={trouble} />;
  return open && <Opened key={id} {...{ id, open }} />;
}

function Opened({ id, open }: { id: string; open: OpenShow }) {
  const [desk] = useState(() => new Desk(id));
  useEffect(() => {
    const keys = showKeys(desk);
    const stop = desk.start();
    return () => {
      keys();
      stop();
    };
  }, [desk]);
  useEffect(() => {
    desk.setShow(open);
  }, [desk, open]);
  const [arranging, setArranging] = useState(open.show.entries.length === 0);
  return (
    <Box
      sx={{ display: 'contents' }}
      onMouseDown={(event) => {
        // A button that was pressed takes no keys: those are the show's.
        if ((event.target as HTMLElement).closest('button')) event.preventDefault();
      }}
    >
      <Head {...{ id, desk, open, arranging }} onArrange={setArranging} />
      {arranging ? (
        <Arrange {...{ id, open }} />
      ) : (
        <Box
          component="main"
          sx={{ flex: 1, minHeight: 0, display: 'grid', gridTemplateColumns: '310px 1fr' }}
        >
          <EntryList {...{ desk, open }} />
          <Middle {...{ desk, open }} />
        </Box>
      )}
      <Masters {...{ desk, open }} />
    </Box>
  );
}

function Middle({ desk, open }: { desk: Desk; open: OpenShow }) {
  const there = useStanding(desk, (s) => s !== null);
  const entry = useStanding(desk, (s) => s?.present?.entry ?? null);
  const trouble = useStanding(desk, (s) => s?.trouble ?? null);
  const found = open.show.entries.find((e) => e.id === entry);
  const piece = found && open.pieces.get(found.piece);
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', minHeight: 0 }}>
      {trouble && (
        <Box role="alert" sx={{ color: COLOURS.coral, px: 2.5, pt: 1 }}>
          {trouble}
        </Box>
      )}
      {piece ? (
        <Box sx={{ flex: 1, minHeight: 0, display: 'grid' }}>
          <Playing key={entry} {...{ desk, piece }} loops={found.next !== 'time'} />
        </Box>
      ) : (
        <Box sx={{ p: 4, color: COLOURS.faint, fontSize: 16, maxWidth: 560 }}>
          {there
            ? 'The output is dark and the first piece is ready. It begins with the button below, or with Page down.'
            : 'There is no output yet. Open it, put its window on the projector, and click into it for the full screen.'}
        </Box>
      )}
    </Box>
  );
}
