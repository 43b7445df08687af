import { Box, IconButton, Stack, Tooltip } from '@mui/material';
import { ArrowUp, Eye, EyeOff, Trash2 } from 'lucide-react';
import { makePart, type Part } from '@vast-swarm/core/piece';
import { pieceActions } from '../store/pieceSlice';
import { useAppDispatch } from '../store/store';
import { COLOURS } from '../ui/theme';
import { KindChooser } from '../lineUp/KindChooser';
import { ChoiceDials } from './ChoiceDials';
import { Group } from './Group';

interface Props {
  bodies: Part[];
  path: (string | number)[];
  rate: number;
}

/** How each particle is drawn: any number of bodies, one over the other. */
export function BodiesSheet({ bodies, path, rate }: Props) {
  const dispatch = useAppDispatch();
  const put = (value: Part[], label: string): void => {
    dispatch(pieceActions.set({ path, value, label }));
  };
  const add = (
    <KindChooser
      shelf="bodies"
      label="Add a body"
      placeholder="How is a particle drawn?"
      disabled={bodies.length >= 8}
      onChoose={(kind) => {
        put([...bodies, makePart('bodies', kind, bodies)], 'Add a body');
      }}
    />
  );
  return (
    <>
      <Group title="Bodies" aside={add}>
        {bodies.length === 0 && (
          <Box sx={{ color: COLOURS.faint, fontSize: 12 }}>Nothing is drawn of it: add a body.</Box>
        )}
      </Group>
      {bodies.map((body, i) => (
        <Box key={body.id} sx={{ opacity: body.on ? 1 : 0.55 }}>
          <ChoiceDials
            title={`Body ${String(i + 1)}`}
            shelf="bodies"
            choice={body}
            path={[...path, i]}
            rate={rate}
            aside={
              <Stack direction="row">
                <Small
                  label={`${body.on ? 'Hide' : 'Show'} body ${String(i + 1)}`}
                  onClick={() => {
                    dispatch(
                      pieceActions.set({
                        path: [...path, i, 'on'],
                        value: !body.on,
                        label: 'Switch',
                      }),
                    );
                  }}
                >
                  {body.on ? <Eye size={13} /> : <EyeOff size={13} />}
                </Small>
                {i > 0 && (
                  <Small
                    label={`Draw body ${String(i + 1)} earlier`}
                    onClick={() => {
                      const next = [...bodies];
                      next.splice(i - 1, 2, body, bodies[i - 1]!);
                      put(next, 'Reorder');
                    }}
                  >
                    <ArrowUp size={13} />
                  </Small>
                )}
                <Small
                  label={`Remove body ${String(i + 1)}`}
                  onClick={() => {
                    put(
                      bodies.filter((_, k) => k !== i),
                      'Remove a body',
                    );
                  }}
                >
                  <Trash2 size={13} />
                </Small>
              </Stack>
            }
          />
        </Box>
      ))}
    </>
  );
}

function Small(props: { label: string; onClick: () => void; children: React.ReactNode }) {
  return (
    <Tooltip title={props.label}>
      <IconButton aria-label={props.label} onClick={props.onClick} sx={{ p: '2px' }}>
        {props.children}
      </IconButton>
    </Tooltip>
  );
}
