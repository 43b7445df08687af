/** Why an input cannot be had, in words for the artist. */
export function problemOf(error: unknown): string {
  const name = error instanceof Error ? error.name : '';
  switch (name) {
    case 'NotAllowedError':
      return 'The browser does not let the page hear: allow it the microphone, beside the address, and try again.';
    case 'NotFoundError':
      return 'There is no microphone or line in: connect one and try again.';
    case 'OverconstrainedError':
      return 'The chosen input is no longer there: choose another.';
    case 'NotReadableError':
      return 'The input cannot be opened: another program may hold it.';
    default:
      return `The input cannot be opened (${error instanceof Error ? error.message : String(error)}).`;
  }
}
