import { create } from 'fontkit';
import { fontFileFault } from '../core/lettering/font-file';
import { boundedReads, partsFault, type ComposedFont } from '../core/lettering/glyph-budget';
import type { LaidText } from '../core/lettering/laid-text';
import { layText, TextError, type TextFont } from '../core/lettering/lay-text';
import { SHIPPED_FONTS, type FontLettering } from '../core/lettering/lettering';
import { offer } from './offer';

/** What else is read of a font from outside. */
interface NamedFont extends TextFont, ComposedFont {
  readonly fullName?: string | null;
  readonly familyName?: string | null;
  readonly fonts?: readonly unknown[];
}

const fonts = new Map<string, Promise<TextFont>>();
/** What begins a text anew in fonts from outside, whose reading is bounded. */
const anew = new WeakMap<TextFont, () => void>();

/** A font that ships, or one of a drawing, read once. */
function fontOf(key: string, file: Blob | null): Promise<TextFont> {
  let font = fonts.get(key);
  if (!font) {
    font = file ? own(file) : shipped(key);
    // What could not be had is tried anew.
    font.catch(() => fonts.delete(key));
    fonts.set(key, font);
  }
  return font;
}

async function shipped(key: string): Promise<TextFont> {
  const known = SHIPPED_FONTS.find((font) => font.key === key);
  if (!known) throw new Error(`There is no font “${key}” here.`);
  const answer = await fetch(new URL(`/lettering/${known.file}`, self.location.origin));
  if (!answer.ok) throw new Error(`The font ${known.title} could not be fetched (${answer.status}).`);
  return create(new Uint8Array(await answer.arrayBuffer())) as TextFont;
}

/** A font from outside. @throws Error in words where it is none, or damaged */
async function own(file: Blob): Promise<NamedFont> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  const fault = fontFileFault(bytes);
  if (fault) throw new Error(fault);
  let font: NamedFont;
  try {
    font = create(bytes) as NamedFont;
    const parts = partsFault(font);
    if (parts) throw new TextError(parts);
    anew.set(font, boundedReads(font));
    for (const { path } of font.layout('Hx0').glyphs) void path.commands;
  } catch (error) {
    if (error instanceof TextError) throw error;
    throw new Error('It is damaged: its tables cannot be read.');
  }
  if (!(font.unitsPerEm > 0) || font.fonts) throw new Error('It is damaged: it does not say how large its letters are.');
  return font;
}

/** Shapes text away from the page. */
const api = {
  /** @param file of a font of the drawing's own; null for one that ships. @throws Error in words where the font cannot be had, or not be drawn with */
  lay: async (lettering: FontLettering, file: Blob | null): Promise<LaidText> => {
    const font = await fontOf(lettering.font, file);
    try {
      anew.get(font)?.();
      return layText(font, lettering);
    } catch (error) {
      if (error instanceof TextError) throw error;
      throw new Error('This font is damaged: its letters cannot be read.');
    }
  },
  /** What a font from outside is called, or an error in words. */
  check: async (file: Blob): Promise<{ readonly title: string }> => {
    const font = await own(file);
    return { title: font.fullName ?? font.familyName ?? '' };
  },
};

export type TextWorker = typeof api;

offer(api);
