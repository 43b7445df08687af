/** A text of somebody else as JSON; undefined where it is none. */
export function jsonIn(text: string | null): unknown {
  try {
    return text === null ? undefined : JSON.parse(text);
  } catch {
    return undefined;
  }
}
