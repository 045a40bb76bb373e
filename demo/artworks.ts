import type { Artwork } from '@core';

const SVG = 'xmlns="http://www.w3.org/2000/svg"';

/** Block letters as pen strokes on a 4 x 6 lattice; the space between letters is the caller's. */
const LETTERS: Readonly<Record<string, string>> = {
  Q: 'M0 0L4 0L4 6L0 6ZM2.4 4.2L4.8 6.8',
  U: 'M0 0L0 6L4 6L4 0',
  A: 'M0 6L0 1.6L1.6 0L2.4 0L4 1.6L4 6M0 3.6L4 3.6',
  Y: 'M0 0L0 1.8L2 3.4L4 1.8L4 0M2 3.4L2 6',
  '9': 'M4 3.2L0 3.2L0 0L4 0L4 6L0.4 6',
};

function lettering(text: string, x: number, y: number, scale: number, colour: string): string {
  const pen = `fill="none" stroke="${colour}" stroke-width="1.15" stroke-linejoin="round" stroke-linecap="square"`;
  return Array.from(
    text,
    (letter, i) => `<path ${pen} transform="translate(${x + i * 6 * scale} ${y}) scale(${scale})" d="${LETTERS[letter] ?? 'M0 0'}"/>`,
  ).join('');
}

/** The landing's sign: its name over the line's wave. */
export function signArtwork(): Artwork {
  const svg = `<svg ${SVG} width="60" height="20" viewBox="0 0 60 20">
<path fill="#f1e6cd" d="M0 0L60 0L60 20L0 20Z"/>
${lettering('QUAY', 4.5, 5, 1.35, '#1d4b52')}
<path fill="#c2533b" d="M43.5 3C45 3 56 3 57 3C57.6 3 58 3.4 58 4L58 14.5C58 15.1 57.6 15.5 57 15.5L43.5 15.5C42.9 15.5 42.5 15.1 42.5 14.5L42.5 4C42.5 3.4 42.9 3 43.5 3Z"/>
${lettering('9', 47.6, 5.2, 1.3, '#f1e6cd')}
<path fill="none" stroke="#1d4b52" stroke-width="0.9" stroke-linecap="round" d="M4 17.6C6 16.2 8 16.2 10 17.6C12 19 14 19 16 17.6C18 16.2 20 16.2 22 17.6C24 19 26 19 28 17.6C30 16.2 32 16.2 34 17.6C36 19 38 19 40 17.6C42 16.2 44 16.2 46 17.6C48 19 50 19 52 17.6C53.4 16.6 54.8 16.3 56 16.8"/>
</svg>`;
  return { id: 'artwork-sign', name: 'Quay 9 sign', svg, width: 60, height: 20 };
}

/** A poster of the line's crossings: islands, the ferry's course and its calls. */
export function posterArtwork(): Artwork {
  const svg = `<svg ${SVG} width="40" height="54" viewBox="0 0 40 54">
<defs><linearGradient id="sea" gradientUnits="userSpaceOnUse" x1="0" y1="0" x2="0" y2="54"><stop offset="0" stop-color="#dcebe6"/><stop offset="1" stop-color="#7fb4b5"/></linearGradient></defs>
<path fill="url(#sea)" d="M0 0L40 0L40 54L0 54Z"/>
<path fill="#e7c98f" d="M4 12C6 7 13 6 17 9C21 12 18 18 13 19C8 20 2.5 17 4 12Z"/>
<path fill="#d9b273" d="M24 28C28 24 35 26 36 31C37 36 31 40 27 38C23 36 21 31 24 28Z"/>
<path fill="#e7c98f" d="M5 39C8 36 14 37 15 41C16 46 11 49 8 48C4 46.500 3 42 5 39Z"/>
<path fill="none" stroke="#c2533b" stroke-width="1.3" stroke-dasharray="2.600 2" stroke-linecap="butt" d="M15 18C20 24 20 27 25 30M25 34C20 40 18 42 14 42M9 38C6 31 8 25 11 19"/>
<path fill="#1d4b52" d="M15 14.500C16.400 14.500 17.500 15.600 17.500 17C17.500 18.400 16.400 19.500 15 19.500C13.600 19.500 12.500 18.400 12.500 17C12.500 15.600 13.600 14.500 15 14.500Z"/>
<path fill="#1d4b52" d="M26.500 29.500C27.900 29.500 29 30.600 29 32C29 33.400 27.900 34.500 26.500 34.500C25.100 34.500 24 33.400 24 32C24 30.600 25.100 29.500 26.500 29.500Z"/>
<path fill="#1d4b52" d="M11.500 39.500C12.900 39.500 14 40.600 14 42C14 43.400 12.900 44.500 11.500 44.500C10.100 44.500 9 43.400 9 42C9 40.600 10.100 39.500 11.500 39.500Z"/>
<path fill="none" stroke="#f4ead3" stroke-width="1.6" d="M0.800 0.800L39.200 0.800L39.200 53.200L0.800 53.200Z"/>
</svg>`;
  return { id: 'artwork-poster', name: 'Crossings poster', svg, width: 40, height: 54 };
}
