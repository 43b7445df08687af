import { createTheme } from '@mui/material/styles';

/** Night harbour: one amber for what is chosen or plays, sea-glass for what lives, coral for wrong. */
const USUAL = {
  ground: '#0a1214',
  sheet: '#0f1a1d',
  raised: '#152327',
  line: '#24363a',
  text: '#d5e3e1',
  faint: '#8fa8a7',
  amber: '#f2b04e',
  glass: '#7fd6c8',
  coral: '#ff8a76',
} as const;

/** For who asks their system for more contrast: lines that are seen, and nothing faint. */
const MORE = {
  ...USUAL,
  ground: '#000000',
  sheet: '#000000',
  raised: '#0c1618',
  line: '#7d9a9b',
  text: '#ffffff',
  faint: '#d5e3e1',
  amber: '#ffc56e',
  glass: '#a6f0e4',
  coral: '#ffada0',
} as const;

const prefers = (what: string): boolean =>
  typeof matchMedia === 'function' && matchMedia(`(prefers-${what})`).matches;

export const COLOURS: Record<keyof typeof USUAL, string> = prefers('contrast: more') ? MORE : USUAL;

export const MONO = '"Atkinson Hyperlegible Mono Variable", monospace';
const WORDS = '"Atkinson Hyperlegible Next Variable", sans-serif';

/** Where less motion is wanted, what opens is there at once: what opens slowly is waited for, whatever its styles say. */
const opening = prefers('reduced-motion: reduce')
  ? { defaultProps: { transitionDuration: 0 } }
  : {};

export const theme = createTheme({
  palette: {
    mode: 'dark',
    primary: { main: COLOURS.amber, contrastText: '#1a1206' },
    secondary: { main: COLOURS.glass },
    error: { main: COLOURS.coral },
    background: { default: COLOURS.ground, paper: COLOURS.raised },
    text: { primary: COLOURS.text, secondary: COLOURS.faint },
    divider: COLOURS.line,
  },
  typography: {
    fontFamily: WORDS,
    fontSize: 13,
    button: { textTransform: 'none', fontWeight: 500, letterSpacing: 0 },
    h1: { fontSize: 26, fontWeight: 600 },
    h2: { fontSize: 17, fontWeight: 600 },
  },
  shape: { borderRadius: 4 },
  components: {
    MuiButtonBase: { defaultProps: { disableRipple: true } },
    MuiCssBaseline: {
      styleOverrides: {
        // Drags belong to dials and handles; what is worth copying can still be selected.
        body: { userSelect: 'none' },
        'input, textarea, [role=alert], [role=status], main p, code': { userSelect: 'text' },
        // Where there is less room than this, as with everything twice as large, the page is scrolled.
        '#root': {
          height: '100vh',
          display: 'flex',
          flexDirection: 'column',
          minWidth: 1000,
          minHeight: 600,
        },
        // What is nothing but a picture takes the window as it is.
        '#root:has([data-whole])': { minWidth: 0, minHeight: 0 },
        'body:has([data-whole])': { overflow: 'hidden' },
        '@media (prefers-reduced-motion: reduce)': {
          '*, *::before, *::after': {
            animation: 'none !important',
            transition: 'none !important',
            scrollBehavior: 'auto !important',
          },
        },
        ':focus-visible': { outline: `2px solid ${COLOURS.amber}`, outlineOffset: 1 },
        '*': { scrollbarWidth: 'thin', scrollbarColor: `${COLOURS.line} transparent` },
      },
    },
    MuiMenu: opening,
    MuiPopover: opening,
    MuiDialog: opening,
    MuiSnackbar: opening,
    MuiPaper: { styleOverrides: { root: { backgroundImage: 'none' } } },
    MuiTooltip: { defaultProps: { enterDelay: 500, disableInteractive: true } },
    MuiMenuItem: { styleOverrides: { root: { minHeight: 30, fontSize: 13 } } },
    MuiTab: { styleOverrides: { root: { minHeight: 34, padding: '4px 14px', fontSize: 13 } } },
    MuiTabs: { styleOverrides: { root: { minHeight: 34 } } },
    MuiButton: { defaultProps: { size: 'small', disableElevation: true } },
    MuiIconButton: { defaultProps: { size: 'small' } },
  },
});
