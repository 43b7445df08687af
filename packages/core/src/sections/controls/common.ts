import {
  learntDial,
  type LabelDial,
  type MovesDial,
  type ShortcutDial,
} from '../../language/dials';

/** Dials of every control. */
export const controlDials = {
  moves: {
    type: 'moves',
    title: 'Moves',
    help: 'The dials that it holds, each in a range and on a curve of its own.',
    group: 'Moves',
    default: [],
  } satisfies MovesDial,
  group: {
    type: 'label',
    title: 'Group',
    help: 'What it stands with at the desk.',
    group: 'Desk',
    default: '',
  } satisfies LabelDial,
  learnt: learntDial('Desk'),
};

/** The key of those that a key can move while it is held. */
export const keyDial = (help: string): ShortcutDial => ({
  type: 'shortcut',
  title: 'Key',
  help,
  group: 'Desk',
  default: '',
});
