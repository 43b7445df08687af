/** Rooms of the core, from the ground up: each imports only from those below it, and from itself. */
const ROOMS = [
  ...['formula', 'feeds', 'stock', 'language', 'catalogue', 'piece', 'plan', 'play'],
  ...['formats', 'show', 'demo'],
];
const CORE = '^packages/core/src';

const upward = ROOMS.slice(0, -1).map((room, i) => ({
  name: `${room} imports only from below`,
  comment: `${room} may know ${ROOMS.slice(0, i).join(', ') || 'nothing but itself'}.`,
  severity: 'error',
  from: { path: `${CORE}/${room}/` },
  to: { path: [`${CORE}/(${ROOMS.slice(i + 1).join('|')})/`, `${CORE}/index.ts$`] },
}));

export default {
  forbidden: [
    { name: 'no circles', severity: 'error', from: {}, to: { circular: true } },
    ...upward,
  ],
  options: {
    // Types count as well as what runs.
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    includeOnly: '^packages/[a-z]+/src',
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'default'] },
  },
};
