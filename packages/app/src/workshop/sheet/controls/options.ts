import { heldPlace, movesOf, type Part, type Piece } from '@vast-swarm/core';

/** Something that is chosen by its name. */
export interface Named {
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
