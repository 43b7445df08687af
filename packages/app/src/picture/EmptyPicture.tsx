import { Box, Button, Stack } from '@mui/material';
import { Type } from 'lucide-react';
import { useRef } from 'react';
import { kindOf } from '@vast-swarm/core/kinds';
import { bornFromWords } from '../data/chosen';
import { STOCK_ACCEPT } from '../data/stock';
import { pieceActions } from '../store/pieceSlice';
import { store, useAppDispatch } from '../store/store';
import { COLOURS } from '../ui/theme';
import { FileChooser } from '../ui/FileChooser';
import { KindIcon } from '../ui/KindIcon';
import { bornFrom } from './bornFrom';

/** Emitters to begin with; the line-up has them all. */
const FIRST = ['point', 'ring', 'sphere', 'box', 'picture'] as const;

/** Stands in the picture of a piece without any swarm. */
export function EmptyPicture() {
  const dispatch = useAppDispatch();
  const chooser = useRef<HTMLInputElement>(null);
  return (
    <Box
      role="group"
      aria-label="Begin"
      sx={{ position: 'absolute', textAlign: 'center', color: COLOURS.text, fontSize: 14 }}
    >
      Nothing is born here yet. Add a swarm whose particles come from
      <Stack direction="row" sx={{ justifyContent: 'center', gap: 1, my: 1.5 }}>
        {FIRST.map((kind) => {
          const { title, help, icon } = kindOf('emitters', kind);
          return (
            <Button
              key={kind}
              variant="outlined"
              title={help}
              startIcon={<KindIcon path={icon} size={18} />}
              onClick={() => dispatch(pieceActions.added({ list: 'swarms', kind }))}
            >
              {title}
            </Button>
          );
        })}
        <Button
          variant="outlined"
          title="Letters that are typed, as a solid"
          startIcon={<Type size={16} />}
          onClick={() => {
            void bornFromWords(() => store.getState().piece.piece!).then((born) => {
              dispatch(pieceActions.bornFrom(born));
            });
          }}
        >
          Words
        </Button>
        <Button
          variant="outlined"
          title="Points, a mesh, a picture or an outline"
          onClick={() => chooser.current!.click()}
        >
          A file…
        </Button>
      </Stack>
      <Box sx={{ color: COLOURS.faint, fontSize: 12.5 }}>
        or choose another beside Swarms, above. Files can be dropped here.
      </Box>
      <FileChooser
        ref={chooser}
        label="File to begin with"
        accept={STOCK_ACCEPT}
        onChoose={(files) => {
          void bornFrom(files);
        }}
      />
    </Box>
  );
}
