const WORDS = {
  audioinput: { does: 'hear', allow: 'the microphone', none: 'no microphone or line in' },
  videoinput: { does: 'see', allow: 'the camera', none: 'no camera' },
} as const;

/** Why an input cannot be had, in words for the artist. */
export function problemOf(error: unknown, kind: keyof typeof WORDS): string {
  const name = error instanceof Error ? error.name : '';
  const { does, allow, none } = WORDS[kind];
  switch (name) {
    case 'NotAllowedError':
      return `The browser does not let the page ${does}: allow it ${allow}, beside the address, and try again.`;
    case 'NotFoundError':
      return `There is ${none}: connect one and try again.`;
    case 'OverconstrainedError':
      return 'The chosen input is no longer there: choose another.';
    case 'NotReadableError':
      return 'The input cannot be opened: another program may hold it.';
    default:
      return `The input cannot be opened (${error instanceof Error ? error.message : String(error)}).`;
  }
}
