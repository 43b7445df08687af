import { useEffect } from 'react';
import { tinykeys } from 'tinykeys';
import type { Vector } from '@vast-swarm/core/feeds';
import type { EngineClient } from '../engine/client';
import type { KeyGroups } from '../ui/keyGroups';
import { pieceActions } from '../store/pieceSlice';
import { store } from '../store/store';
import { toolActions } from '../store/toolSlice';
import { TYPING } from '../ui/typing';
import { framed } from '../picture/orbit';
import { goToFindDial } from '../sheet/findDials';

/** Keys of the workshop; the guide lists them. */
export const SHORTCUTS: KeyGroups = [
  {
    want: 'Play, and move in time',
    keys: [
      ['Space', 'Play or pause'],
      ['Left, Right', 'A frame back or on; with Shift ten'],
      ['Home, End', 'First or last frame'],
      ['+, -', 'On the timing strip: less or more of the piece; with Ctrl the wheel too'],
      ['Alt', 'Held while dragging on the strip: beats do not draw'],
    ],
  },
  {
    want: 'Look at it',
    keys: [
      ['F', 'Frame the selected swarm'],
      ['H', 'Show or hide handles'],
      ['Click on the picture', 'Follow the particle there; Escape lets go'],
    ],
  },
  {
    want: 'Find and turn dials',
    keys: [
      ['/', 'Find a dial of any part by its name'],
      ['Up, Down', 'A step more or less; with Shift ten, with Alt a tenth'],
      ['Ctrl+Shift+C, Ctrl+Shift+V', 'Copy a shape over life from one row to another'],
    ],
  },
  {
    want: 'Work with parts',
    keys: [
      ['Ctrl+click', 'On a tag: select it too; dials are turned in all that are selected'],
      ['Ctrl+C, Ctrl+X, Ctrl+V', 'Copy, cut or paste parts, here and in other pieces'],
      ['F2', 'Rename the part whose tag has the focus'],
      ['Alt+Left, Alt+Right', 'Move it in the line-up'],
      ['Delete', 'Remove it'],
    ],
  },
  {
    want: 'Take back',
    keys: [
      ['Ctrl+Z', 'Undo'],
      ['Ctrl+Shift+Z', 'Redo'],
    ],
  },
  {
    want: 'Play it by hand',
    keys: [
      [
        'S',
        'Held while the pointer moves over the picture: pointer signals are driven, and recorded',
      ],
      ['Keys of cues and controls', 'As the piece binds them, while it plays'],
    ],
  },
  { want: 'Get help', keys: [['?', 'These keys, beside the work']] },
];

/** Turns the camera to the selected swarm's emitter. */
function frameSelection(): void {
  const { piece, selection } = store.getState().piece;
  if (!piece) return;
  const swarm = piece.swarms.find((s) => s.id === selection?.id) ?? piece.swarms[0];
  if (!swarm) return;
  const { centre, radius, size } = swarm.emitter.dials;
  const extent =
    typeof radius === 'number'
      ? radius
      : Array.isArray(size)
        ? Math.max(...(size as number[])) / 2
        : 1;
  const value = framed(
    piece.camera,
    (centre as Vector | undefined) ?? [0, 0, 0],
    Math.max(1, extent),
  );
  store.dispatch(pieceActions.set({ path: ['camera'], value, label: 'Frame the selection' }));
}

/** Elements with keys of their own: they are left to them. */
const OWN_KEYS = '[role=slider], [role=menu], [role=listbox], [role=separator]';
const BUTTONS = 'button, a, [role=tab], [role=combobox]';

type Keys = (event: KeyboardEvent) => void;

/** Does something unless what has the focus wants the key itself. */
function unless(taken: (target: HTMLElement) => boolean, act: () => void): Keys {
  return (event) => {
    if (taken(event.target as HTMLElement)) return;
    act();
    event.preventDefault();
  };
}

const typing = (target: HTMLElement): boolean => target.matches(TYPING);
const taken = (target: HTMLElement): boolean => typing(target) || !!target.closest(OWN_KEYS);
const pressed = (target: HTMLElement): boolean => taken(target) || target.matches(BUTTONS);

/** Lets go of all that is held: the followed particle, a tool. */
function letGo(engine: EngineClient): void {
  engine.follow(null);
  store.dispatch(toolActions.followingSet(false));
  store.dispatch(toolActions.toolChosen(null));
}

export function useShortcuts(engine: EngineClient): void {
  useEffect(() => {
    const last = (): number => (store.getState().piece.piece?.frame.length ?? 1) - 1;
    const by = (frames: number) => (): void => {
      engine.seek(Math.min(last(), Math.max(0, engine.place + frames)));
    };
    const dispatch = (make: () => Parameters<typeof store.dispatch>[0]) => (): void => {
      store.dispatch(make());
    };
    return tinykeys(window, {
      '$mod+z': unless(typing, dispatch(pieceActions.undone)),
      '$mod+Shift+z': unless(typing, dispatch(pieceActions.redone)),
      Space: unless(
        pressed,
        dispatch(() => toolActions.playSet(!store.getState().tools.playing)),
      ),
      ArrowLeft: unless(pressed, by(-1)),
      ArrowRight: unless(pressed, by(1)),
      'Shift+ArrowLeft': unless(pressed, by(-10)),
      'Shift+ArrowRight': unless(pressed, by(10)),
      Home: unless(taken, () => {
        engine.seek(0);
      }),
      End: unless(taken, () => {
        engine.seek(last());
      }),
      // What no control wants goes through from anywhere but a text.
      '/': unless(typing, goToFindDial),
      f: unless(typing, frameSelection),
      h: unless(typing, dispatch(toolActions.handlesToggled)),
      Escape: unless(typing, () => {
        letGo(engine);
      }),
    });
  }, [engine]);
}
