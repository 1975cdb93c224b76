import { createTheme, type Theme } from '@mui/material/styles';
import type {} from '@mui/x-data-grid/themeAugmentation';
import { TOKENS, type ThemeName } from './tokens.ts';

const TEXT = '"Atkinson Hyperlegible Next Variable", sans-serif';
const HEADING = '"Barlow Condensed", sans-serif';

/** The toolkit, dressed once: square corners, hairlines, no shadows but on dialogs, the factory's own words. */
export function houseTheme(name: ThemeName): Theme {
  const c = TOKENS[name];
  return createTheme({
    palette: {
      mode: name === 'day' ? 'light' : 'dark',
      primary: { main: c.ebony, contrastText: c.onDark },
      secondary: { main: c.slate },
      error: { main: c.oxblood },
      warning: { main: c.shellac },
      success: { main: c.verdigris },
      background: { default: c.bone, paper: c.paper },
      text: { primary: c.ebony, secondary: c.umber },
      divider: c.fibre,
    },
    shape: { borderRadius: 2 },
    shadows: Array.from({ length: 25 }, (_, i) =>
      i === 24 ? '0 8px 40px rgba(0,0,0,.25)' : 'none',
    ) as Theme['shadows'],
    typography: {
      fontFamily: TEXT,
      fontSize: 14,
      h1: { fontFamily: HEADING, fontWeight: 600, fontSize: 26, lineHeight: 1.2, letterSpacing: 0 },
      h2: { fontFamily: HEADING, fontWeight: 600, fontSize: 20, lineHeight: 1.2, letterSpacing: 0 },
      h3: { fontFamily: TEXT, fontWeight: 700, fontSize: 15, lineHeight: 1.3, letterSpacing: 0 },
      body1: { fontSize: 14, lineHeight: 1.4, letterSpacing: 0 },
      body2: { fontSize: 13, lineHeight: 1.4, letterSpacing: 0 },
      button: { textTransform: 'none', fontWeight: 700 },
    },
    transitions: { create: () => 'none' },
    components: {
      MuiButtonBase: { defaultProps: { disableRipple: true } },
      MuiButton: {
        defaultProps: { disableElevation: true, variant: 'outlined' },
        styleOverrides: {
          root: {
            minHeight: 34,
            padding: '2px 12px',
            lineHeight: 1.2,
            '@media (pointer: coarse)': { minHeight: 44 },
          },
        },
      },
      MuiTextField: { defaultProps: { size: 'small', variant: 'outlined' } },
      MuiDialog: { defaultProps: { slotProps: { paper: { elevation: 24 } } } },
      MuiStack: { defaultProps: { spacing: 1.5, useFlexGap: true } },
      MuiAccordionSummary: {
        styleOverrides: {
          root: { padding: 0, minHeight: 34, flexDirection: 'row-reverse', gap: 6 },
          content: { margin: '4px 0' },
        },
      },
      MuiAccordionDetails: { styleOverrides: { root: { padding: '4px 0 8px' } } },
      MuiAccordion: { styleOverrides: { root: { background: 'none', '&::before': { display: 'none' } } } },
      MuiToggleButton: {
        styleOverrides: {
          root: { minWidth: 36, '@media (pointer: coarse)': { minHeight: 44, minWidth: 44 } },
        },
      },
      MuiPaper: { styleOverrides: { root: { backgroundImage: 'none' } } },
      MuiTable: { defaultProps: { size: 'small' } },
      MuiTableCell: {
        styleOverrides: {
          root: {
            padding: '5px 8px 5px 0',
            borderBottom: `1px solid ${c.fibre}`,
            verticalAlign: 'middle',
            font: 'inherit',
            color: 'inherit',
            letterSpacing: 0,
            'th&': { fontSize: 13, color: c.umber, verticalAlign: 'top' },
          },
          head: { fontSize: 13, color: c.umber },
          sizeSmall: { padding: '5px 8px 5px 0' },
          alignRight: { paddingRight: 14 },
        },
      },
      MuiDataGrid: {
        styleOverrides: {
          root: {
            border: 0,
            fontSize: 14,
            '--DataGrid-rowBorderColor': c.fibre,
          },
          columnHeader: {
            padding: '0 8px 0 0',
            '&[aria-colindex="1"]': { paddingLeft: 8 },
            '&.MuiDataGrid-columnHeader--alignRight': { paddingRight: 14 },
            fontSize: 13,
            color: c.umber,
          },
          columnHeaderTitle: { fontWeight: 400, whiteSpace: 'normal', lineHeight: 1.15 },
          cell: {
            padding: '5px 8px 5px 0',
            '&[data-colindex="0"]': { paddingLeft: 8 },
            '&.MuiDataGrid-cell--textRight': { paddingRight: 14 },
            lineHeight: 1.35,
            alignItems: 'center',
          },
          row: {
            '&.wants': { boxShadow: `inset 3px 0 0 ${c.shellac}` },
            '&:hover': { backgroundColor: c.stripe },
          },
        },
      },
      MuiOutlinedInput: { styleOverrides: { root: { backgroundColor: c.paper } } },
    },
  });
}
