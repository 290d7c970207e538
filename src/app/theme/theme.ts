import '@fontsource-variable/hanken-grotesk';
import '@fontsource-variable/red-hat-mono';
import { createTheme, type Theme } from '@mui/material/styles';

export type ThemeName = 'paper' | 'dim';

/** What a person marked or may act on. */
const LAGOON = { paper: '#17697A', dim: '#63BBCB' };
/** What needs attention. */
export const KILN = { paper: '#B4532A', dim: '#E8946C' };

/** Donors, on the photo. */
export const OCHRE = '#B8862B';

const NEUTRALS = {
  paper: { ground: '#E6E6E6', panel: '#F6F6F6', line: '#CFCFCF', ink: '#222222', quiet: '#585858' },
  dim: { ground: '#262626', panel: '#303030', line: '#484848', ink: '#EBEBEB', quiet: '#B0B0B0' },
};

export const MONO = '"Red Hat Mono Variable", monospace';

/** The whole look, in one place: palette, type, density, shape and motion of the interface. */
export function makeTheme(name: ThemeName): Theme {
  const neutral = NEUTRALS[name];
  return createTheme({
    palette: {
      mode: name === 'paper' ? 'light' : 'dark',
      primary: { main: LAGOON[name], contrastText: name === 'paper' ? '#FFFFFF' : '#0E0E0E' },
      error: { main: KILN[name], contrastText: name === 'paper' ? '#FFFFFF' : '#0E0E0E' },
      warning: { main: KILN[name] },
      background: { default: neutral.ground, paper: neutral.panel },
      text: { primary: neutral.ink, secondary: neutral.quiet },
      divider: neutral.line,
    },
    shape: { borderRadius: 6 },
    spacing: 8,
    typography: {
      fontFamily: '"Hanken Grotesk Variable", sans-serif',
      fontSize: 14,
      body1: { fontSize: 14 },
      body2: { fontSize: 14 },
      caption: { fontSize: 12, lineHeight: 1.4 },
      h1: { fontSize: 20, fontWeight: 650 },
      h2: { fontSize: 15, fontWeight: 650 },
      h3: { fontSize: 14, fontWeight: 650 },
      button: { textTransform: 'none', fontWeight: 560, fontSize: 14 },
    },
    transitions: { duration: { shortest: 120, shorter: 120, short: 140, standard: 160, complex: 180 } },
    components: {
      MuiCssBaseline: {
        styleOverrides: {
          html: { height: '100%' },
          body: { height: '100%', overflow: 'hidden' },
          '#root': { height: '100%' },
          '@media (prefers-reduced-motion: reduce)': {
            '*': { transition: 'none !important', animation: 'none !important' },
          },
        },
      },
      MuiButtonBase: {
        defaultProps: { disableRipple: true },
        styleOverrides: {
          root: { '&.Mui-focusVisible': { outline: `2px solid ${LAGOON[name]}`, outlineOffset: 2 } },
        },
      },
      MuiButton: {
        defaultProps: { disableElevation: true, variant: 'outlined', color: 'inherit' },
        styleOverrides: { root: { minHeight: 36, paddingInline: 12, borderColor: neutral.line } },
      },
      MuiPaper: { defaultProps: { elevation: 0 }, styleOverrides: { root: { backgroundImage: 'none' } } },
      MuiDialog: { styleOverrides: { paper: { border: `1px solid ${neutral.line}` } } },
      MuiMenu: { styleOverrides: { paper: { border: `1px solid ${neutral.line}` } } },
      MuiTooltip: { defaultProps: { enterDelay: 500, arrow: false } },
      MuiToggleButton: {
        styleOverrides: {
          root: {
            minHeight: 36,
            paddingInline: 10,
            color: neutral.ink,
            borderColor: neutral.line,
            '&.Mui-selected': { backgroundColor: LAGOON[name], color: name === 'paper' ? '#FFFFFF' : '#0E0E0E' },
            '&.Mui-selected:hover': { backgroundColor: LAGOON[name] },
          },
        },
      },
      MuiSlider: { defaultProps: { size: 'small' } },
      MuiLinearProgress: { styleOverrides: { root: { height: 3, borderRadius: 2 } } },
    },
  });
}
