/**
 * Calls `show` frame by frame while the pointer rests on an element, with the seconds since it came.
 *
 * @returns what ends it
 */
export function whileUnderPointer(
  element: HTMLElement,
  show: (seconds: number) => void,
): () => void {
  let began: number | null = null;
  const tick = (now: number): void => {
    if (began === null) return;
    show((now - began) / 1000);
    requestAnimationFrame(tick);
  };
  const come = (): void => {
    began = performance.now();
    requestAnimationFrame(tick);
  };
  const leave = (): void => {
    began = null;
  };
  element.addEventListener('pointerenter', come);
  element.addEventListener('pointerleave', leave);
  return () => {
    leave();
    element.removeEventListener('pointerenter', come);
    element.removeEventListener('pointerleave', leave);
  };
}
