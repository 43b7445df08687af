import { cueBehind, type Piece } from '@vast-swarm/core/piece';
import type { ControlValue } from '@vast-swarm/core/feeds';
import { listenToBound } from '../control/boundKeys';
import type { KeyGroups } from '../ui/keyGroups';
import { TYPING } from '../ui/typing';
import type { Command, Standing } from './channel';

/** Keys of a show, at the desk and at the output, with what they do. */
export const SHOW_KEYS: KeyGroups = [
  {
    want: 'Go through the night',
    keys: [
      ['Page down', 'The next piece begins'],
      ['Enter', 'Fires the next cue of the piece'],
      ['Space', 'Time stands still, and goes on'],
    ],
  },
  {
    want: 'When something is wrong',
    keys: [
      ['Backspace or .', 'Blackout, and out of it'],
      ['F9', 'Panic: back to the last good state'],
    ],
  },
  {
    want: 'Play the piece',
    keys: [['Keys of cues and controls', 'As the piece that plays binds them']],
  },
];

/** Who does what is asked for, and how it stands. */
export interface Showman {
  piece: Piece | null;
  controls: Readonly<Record<string, ControlValue>>;
  told: Pick<Standing, 'blackout' | 'held' | 'cue'>;
  do: (command: Command) => void;
}

/** The cue behind the one that began last. */
export function nextCue(piece: Piece | null, last: string | null): string | null {
  return cueBehind(piece?.cues ?? [], last)?.id ?? null;
}

/** Listens to the keys of a show, and to those that its pieces bind. Gives what ends it. */
export function showKeys(showman: Showman): () => void {
  const press = (event: KeyboardEvent): void => {
    const command = commandOf(event, showman);
    if (!command) return;
    // No piece can take the key of blackout away.
    event.stopImmediatePropagation();
    event.preventDefault();
    if (!event.repeat) showman.do(command);
  };
  window.addEventListener('keydown', press, true);
  const bound = listenToBound({
    piece: () => showman.piece,
    values: () => showman.controls,
    set: (control, to) => {
      showman.do({ do: 'act', act: { control, to } });
    },
    fire: (cue) => {
      showman.do({ do: 'act', act: { cue } });
    },
  });
  return () => {
    bound();
    window.removeEventListener('keydown', press, true);
  };
}

/** Elements that have the focus and want the key themselves. */
const OWN = {
  ' ': 'button, [role=button], [role=switch], [role=combobox]',
  Enter: 'button, a, [role=button], [role=combobox]',
};

function commandOf(event: KeyboardEvent, { piece, told }: Showman): Command | null {
  const target = event.target as HTMLElement;
  if (event.ctrlKey || event.metaKey || event.altKey || target.matches(TYPING)) return null;
  const { key } = event;
  if ((key === ' ' || key === 'Enter') && target.matches(OWN[key])) return null;
  switch (key) {
    case 'PageDown':
      return { do: 'act', act: { all: 'go' } };
    case 'Enter': {
      const cue = nextCue(piece, told.cue);
      return cue ? { do: 'act', act: { cue } } : null;
    }
    case 'Backspace':
    case '.':
      return { do: 'act', act: { all: 'blackout', to: !told.blackout } };
    case ' ':
      return { do: 'act', act: { all: 'held', to: !told.held } };
    case 'F9':
      return { do: 'panic' };
  }
  return null;
}
