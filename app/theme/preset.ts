import { definePreset } from '@primeuix/themes';
import type { Preset } from '@primeuix/themes/types';
import base from '@primeuix/themes/aura/base';
import button from '@primeuix/themes/aura/button';
import checkbox from '@primeuix/themes/aura/checkbox';
import contextmenu from '@primeuix/themes/aura/contextmenu';
import dialog from '@primeuix/themes/aura/dialog';
import inputtext from '@primeuix/themes/aura/inputtext';
import message from '@primeuix/themes/aura/message';
import radiobutton from '@primeuix/themes/aura/radiobutton';
import select from '@primeuix/themes/aura/select';
import slider from '@primeuix/themes/aura/slider';
import toggleswitch from '@primeuix/themes/aura/toggleswitch';
import tooltip from '@primeuix/themes/aura/tooltip';

/** A ramp of eleven steps by CSS variables of our own, so that both themes come from tokens.css alone. */
const ramp = (name: string): Record<string, string> =>
  Object.fromEntries([50, 100, 200, 300, 400, 500, 600, 700, 800, 900, 950].map((step) => [String(step), `var(--${name}-${step})`]));

const scheme = {
  primary: { color: 'var(--violet)', contrastColor: 'var(--on-violet)', hoverColor: 'var(--violet-strong)', activeColor: 'var(--violet-strong)' },
  highlight: { background: 'var(--violet-wash)', focusBackground: 'var(--violet-wash)', color: 'var(--ink)', focusColor: 'var(--ink)' },
  surface: { 0: 'var(--paper)', ...ramp('stone') },
  text: { color: 'var(--ink)', hoverColor: 'var(--ink)', mutedColor: 'var(--ink-2)', hoverMutedColor: 'var(--ink-2)' },
  content: { background: 'var(--paper)', hoverBackground: 'var(--stone-1)', borderColor: 'var(--stone-2)', color: 'var(--ink)', hoverColor: 'var(--ink)' },
  formField: {
    background: 'var(--field)',
    borderColor: 'var(--stone-3)',
    hoverBorderColor: 'var(--ink-2)',
    focusBorderColor: 'var(--violet)',
    color: 'var(--ink)',
    placeholderColor: 'var(--ink-2)',
    shadow: 'none',
  },
  overlay: {
    select: { background: 'var(--paper)', borderColor: 'var(--stone-3)', color: 'var(--ink)' },
    modal: { background: 'var(--paper)', borderColor: 'var(--stone-2)', color: 'var(--ink)' },
  },
  mask: { background: 'var(--mask)', color: 'var(--ink)' },
};

/** Messages lie on paper; their tone is the line at their left, which they draw themselves. */
const onPaper = {
  background: 'var(--paper)',
  borderColor: 'transparent',
  color: 'var(--ink)',
  shadow: 'var(--shadow)',
  closeButton: { hoverBackground: 'var(--stone-1)', focusRing: { color: 'var(--violet)', shadow: 'none' } },
};
const messages = { success: onPaper, info: onPaper, warn: onPaper, error: onPaper };

/** The parts of the library's preset for the controls that are used; the others are not carried. */
const Used = { ...base, components: { button, checkbox, contextmenu, dialog, inputtext, message, radiobutton, select, slider, toggleswitch, tooltip } };

/** Chemin's look for the library's controls: paper, ink and one violet; square-cut, hair-lined, quick. */
export const CheminPreset = definePreset(Used as unknown as Preset, {
  primitive: { borderRadius: { none: '0', xs: '2px', sm: '2px', md: '3px', lg: '4px', xl: '6px' } },
  semantic: {
    transitionDuration: '0.12s',
    focusRing: { width: '2px', style: 'solid', color: 'var(--violet)', offset: '1px', shadow: 'none' },
    primary: ramp('violet'),
    formField: {
      paddingX: '0.45rem',
      paddingY: '0.22rem',
      borderRadius: '3px',
      focusRing: { width: '2px', style: 'solid', color: 'var(--violet)', offset: '0', shadow: 'none' },
    },
    overlay: {
      modal: { borderRadius: '4px', padding: '1rem', shadow: 'var(--shadow)' },
      select: { borderRadius: '3px', shadow: 'var(--shadow)' },
      popover: { borderRadius: '3px', padding: '0.5rem', shadow: 'var(--shadow)' },
    },
    list: { option: { padding: '0.35rem 0.6rem', borderRadius: '2px' } },
    colorScheme: { light: scheme, dark: scheme },
  },
  components: {
    button: { root: { paddingX: '0.7rem', paddingY: '0.32rem', gap: '0.4rem', borderRadius: '3px', label: { fontWeight: '500' } } },
    dialog: { header: { padding: '0.9rem 1.1rem 0.4rem' }, content: { padding: '0.2rem 1.1rem 1.1rem' }, title: { fontSize: '1.05rem', fontWeight: '600' } },
    message: {
      root: { borderRadius: '3px', borderWidth: '0' },
      content: { padding: '0.55rem 0.5rem 0.6rem 0.75rem', gap: '0.5rem' },
      text: { fontSize: '13px', fontWeight: '400' },
      closeButton: { width: '1.6rem', height: '1.6rem', borderRadius: '3px' },
      closeIcon: { size: '0.85rem' },
      colorScheme: { light: messages, dark: messages },
    },
    select: { root: { paddingX: '0.45rem' }, dropdown: { width: '1.7rem', color: 'var(--ink-2)' } },
    checkbox: { root: { width: '18px', height: '18px', borderRadius: '2px' }, icon: { size: '12px' } },
    radiobutton: { root: { width: '18px', height: '18px' }, icon: { size: '8px' } },
    slider: { track: { size: '3px' }, handle: { width: '16px', height: '16px', content: { width: '10px', height: '10px' } } },
    tooltip: { root: { background: 'var(--ink)', color: 'var(--paper)', padding: '0.28rem 0.5rem', borderRadius: '2px', shadow: 'none' } },
  },
});
