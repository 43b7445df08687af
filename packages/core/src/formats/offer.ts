import { heldPlace, controlKind, movesOf } from '../piece/controls';
import type { Part, Piece } from '../piece/types';
import type { Offer } from './controlDoor';

/** Something that is chosen by its name. */
interface Named {
  id: string;
  name: string;
}

/** The pictures of a piece: of its stock, and those that move. */
export function picturesOf({ stock, pictures }: Piece): Named[] {
  return [...stock.filter((s) => s.type === 'picture'), ...pictures];
}

/** What all dials that a control moves can be chosen to be. */
export function optionsOf(piece: Piece, control: Part): Named[] {
  const choices = movesOf(control).flatMap((move) => {
    const spec = heldPlace(piece, control, move)?.spec;
    return spec && spec !== 'on' && spec.type === 'choice' ? [spec.options] : [];
  });
  const [first = [], ...others] = choices;
  return first
    .filter(({ value }) => others.every((o) => o.some((option) => option.value === value)))
    .map(({ value, title }) => ({ id: value, name: title }));
}

/** All that can be run of a piece, as those outside are told. */
export function offerOf(piece: Piece): Offer {
  return {
    piece: piece.name,
    controls: piece.controls
      .filter((c) => c.on)
      .map((control) => {
        const { holds, range } = controlKind(control);
        const [low, high] = range?.(control.dials as never) ?? [];
        const choices = holds === 'picture' ? picturesOf(piece) : optionsOf(piece, control);
        const chosen = holds === 'picture' || holds === 'option';
        return {
          ...{ id: control.id, name: control.name, holds },
          group: control.dials.group as string,
          unit: holds === 'number' ? (control.dials.unit as string) : '',
          ...(low === undefined ? {} : { low, high }),
          ...(chosen ? { options: choices.map((o) => o.id) } : {}),
        };
      }),
    cues: piece.cues.filter((c) => c.on).map(({ id, name }) => ({ id, name })),
  };
}
