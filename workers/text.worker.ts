import { expose } from 'comlink';
import { create } from 'fontkit';
import type { LaidText } from '../core/lettering/laid-text';
import { layText, type TextFont } from '../core/lettering/lay-text';
import { SHIPPED_FONTS, type FontLettering } from '../core/lettering/lettering';

const fonts = new Map<string, Promise<TextFont>>();

/** A font that ships, read once. */
function shipped(key: string): Promise<TextFont> {
  let font = fonts.get(key);
  if (!font) {
    font = read(key);
    // What could not be fetched is tried anew.
    font.catch(() => fonts.delete(key));
    fonts.set(key, font);
  }
  return font;
}

async function read(key: string): Promise<TextFont> {
  const own = SHIPPED_FONTS.find((font) => font.key === key);
  if (!own) throw new Error(`There is no font “${key}” here.`);
  const answer = await fetch(new URL(`/lettering/${own.file}`, self.location.origin));
  if (!answer.ok) throw new Error(`The font ${own.title} could not be fetched (${answer.status}).`);
  return create(new Uint8Array(await answer.arrayBuffer())) as TextFont;
}

/** Shapes text away from the page. */
const api = {
  /** @throws where the font cannot be had */
  lay: async (lettering: FontLettering): Promise<LaidText> => layText(await shipped(lettering.font), lettering),
};

export type TextWorker = typeof api;

expose(api);
