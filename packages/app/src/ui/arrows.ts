import type { KeyboardEvent } from 'react';

const WAYS: Record<'across' | 'up', Readonly<Record<string, number>>> = {
  across: { ArrowLeft: -1, ArrowRight: 1 },
  up: { ArrowDown: -1, ArrowUp: 1 },
};

/**
 * For what is moved along one line by arrow keys; other keys are left to others.
 *
 * @param move gets -1 or 1, and whether it is to be a large step
 */
export function arrows(line: 'across' | 'up', move: (way: number, far: boolean) => void) {
  return (event: KeyboardEvent): void => {
    const way = WAYS[line][event.key];
    if (way === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    move(way, event.shiftKey);
  };
}
