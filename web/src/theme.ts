import { createSystem, defineConfig } from '@chakra-ui/react';
import { defaultBaseConfig } from '@chakra-ui/react/preset-base';
import {
  animationStyles,
  breakpoints,
  buttonRecipe,
  cssVarsPrefix,
  cssVarsRoot,
  dialogSlotRecipe,
  fieldSlotRecipe,
  globalCss,
  headingRecipe,
  inputRecipe,
  keyframes,
  layerStyles,
  linkRecipe,
  nativeSelectSlotRecipe,
  progressSlotRecipe,
  semanticTokens,
  spinnerRecipe,
  tableSlotRecipe,
  textareaRecipe,
  textStyles,
  toastSlotRecipe,
  tokens,
} from '@chakra-ui/react/theme';

/** The library's theme with the components that are drawn here; with all of them the first page weighs half as much again. */
const drawn = defineConfig({
  preflight: true,
  cssVarsPrefix,
  cssVarsRoot,
  globalCss,
  theme: {
    breakpoints,
    keyframes,
    tokens,
    semanticTokens,
    textStyles,
    layerStyles,
    animationStyles,
    recipes: {
      button: buttonRecipe,
      heading: headingRecipe,
      input: inputRecipe,
      link: linkRecipe,
      spinner: spinnerRecipe,
      textarea: textareaRecipe,
    },
    slotRecipes: {
      dialog: dialogSlotRecipe,
      field: fieldSlotRecipe,
      nativeSelect: nativeSelectSlotRecipe,
      progress: progressSlotRecipe,
      table: tableSlotRecipe,
      toast: toastSlotRecipe,
    },
  },
});

const pair = (paper: string, ink: string) => ({ value: { _light: paper, _dark: ink } });

/** Paper and ink: one accent for what happens now, one pair of hues for early and late, used nowhere else. */
const config = defineConfig({
  theme: {
    tokens: {
      fonts: {
        heading: { value: "'Source Serif 4 Variable', Georgia, serif" },
        body: { value: "'Source Sans 3 Variable', system-ui, sans-serif" },
      },
      radii: { control: { value: '3px' } },
    },
    semanticTokens: {
      colors: {
        page: pair('#f7f2e8', '#14161a'),
        ink: pair('#1f1d1a', '#ece6da'),
        quiet: pair('#5e574c', '#aea695'),
        rule: pair('#d8cfbe', '#383b42'),
        band: pair('#ebe2d0', '#25282f'),
        now: pair('#0f6b5c', '#63c9b4'),
        onNow: pair('#ffffff', '#10211d'),
        early: pair('#1f5fa8', '#85b7f2'),
        late: pair('#a34f00', '#f0a65e'),
      },
    },
  },
  globalCss: {
    'html, body': { bg: 'page', color: 'ink', fontFamily: 'body', fontSize: '17px', lineHeight: '1.5' },
    body: { minHeight: '100vh', fontFeatureSettings: "'tnum', 'lnum'" },
    // What is drawn for a wide screen fits a sheet.
    'main:has(figure)': { _print: { zoom: 0.6 } },
    'th button': { _print: { display: 'inline !important' } },
    'html, a': { _print: { color: '#000 !important' } },
    // On paper only what is read, black on white whatever the appearance.
    ':root, .light, .dark': {
      _print: {
        '--chakra-colors-page': '#fff !important',
        '--chakra-colors-ink': '#000 !important',
        '--chakra-colors-quiet': '#333 !important',
        '--chakra-colors-rule': '#999 !important',
        '--chakra-colors-band': '#e4e4e4 !important',
        '--chakra-colors-now': '#000 !important',
        '--chakra-colors-early': '#000 !important',
        '--chakra-colors-late': '#000 !important',
      },
    },
    'header, button, nav, input, select, textarea, form, summary, .not-printed': { _print: { display: 'none !important' } },
    '*:focus-visible': { outline: '3px solid', outlineColor: 'now', outlineOffset: '2px' },
    '*, *::before, *::after': { _motionReduce: { transition: 'none !important', animation: 'none !important' } },
  },
});

export const system = createSystem(defaultBaseConfig, drawn, config);
