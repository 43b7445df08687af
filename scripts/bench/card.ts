import { contests } from './inPage';
import { report } from './report';

/** The GPU engine against hand-written shaders for the same work, on an emulated card. */
await contests('scripts/bench/card/page.ts', true, ({ name, ours, theirs }) => {
  report(`card: ${name}, against WGSL by hand`, ours, 'ms', theirs);
});
