/** A name with %04d (or any width) gets the number; one without stays. */
export function numbered(name: string, frame: number): string {
  return name.replace(/%0?(\d*)d/, (_, width: string) =>
    String(frame).padStart(Number(width) || 0, '0'),
  );
}
