import { emptyDocument, gridOf, type Artwork, type CheminDocument, type DocumentNode, type KeptFit, type PhotoSurface, type PlacementNode } from '@core';
import { signArtwork } from './artworks';
import { NodeMaker } from './build';
import { FUNNEL_FIT, FUNNEL_PICTURES } from './funnel-pictures';

const SHEET = { kind: 'sheet', offset: 0 } as const;
const SAND = '#f1e6cd';
const CORAL = '#c2533b';
const DEEP = '#1d4b52';
const GOLD = '#d9a441';

/** The line's band, half way round the funnel and more: in cells of 4 mm, 168 mm by 44. */
function bandArtwork(make: NodeMaker): Artwork {
  const flags = Array.from({ length: 9 }, (_, i): DocumentNode => {
    const left = 1.5 + i * 4.6;
    return make.outline(`flag ${i + 1}`, SHEET, [[left, 8.4], [left + 1.2, 8.4], [left + 0.6, 9.4]], 0, i % 2 === 0 ? CORAL : GOLD); // prettier-ignore
  });
  const nodes = [
    make.rectangle('upper stripe', SHEET, [0, 0.8], [42, 2], 0, CORAL),
    make.rectangle('lower stripe', SHEET, [0, 9.8], [42, 10.4], 0, DEEP),
    ...flags,
  ];
  const sign: PlacementNode = {
    kind: 'placement',
    id: 'band-sign',
    name: 'Quay 9 sign',
    hidden: false,
    locked: false,
    artwork: 'artwork-sign',
    target: { kind: 'plane', plane: SHEET },
    anchor: { at: { a: 13.5, b: 2.6, h: 0 }, width: 15, height: 5 },
  };
  return { id: 'artwork-band', name: 'Band of the line', svg: '', width: 168, height: 44, unitMm: 1, background: SAND, nodes: [...nodes, sign], cell: 4 };
}

/** What was found in the photographs; see scripts/funnel.mjs. */
interface Found {
  readonly registration: NonNullable<PhotoSurface['registration']>;
  readonly crossings: PhotoSurface['crossings'];
  readonly fit: KeptFit;
  readonly parts: Readonly<Record<'shade' | 'gloss', { readonly x: number; readonly y: number; readonly width: number; readonly height: number }>>;
}

/** "Quay Nine: funnel livery": a ship's funnel before the practice camera, bare and with the lattice, and the line's band fitted round it. */
export function funnel(): CheminDocument {
  const make = new NodeMaker();
  const empty = emptyDocument('demo-funnel', 'Quay Nine: funnel livery');
  const grid = gridOf(4);
  const { registration, crossings, fit, parts } = JSON.parse(FUNNEL_FIT) as Found;
  const { width, height } = FUNNEL_PICTURES.bare;
  const mm = (px: number): number => (px * 25.4) / 300;
  const { columns, rows, box } = fit.lattice;
  const part = (name: 'shade' | 'gloss') => ({ bitmap: `funnel-${name}`, ...parts[name] });
  const surface: PhotoSurface = {
    id: 'funnel-round',
    name: 'funnel',
    latticed: 'funnel-latticed',
    registration,
    lattice: fit.lattice,
    crossings,
    fit,
    light: { shade: part('shade'), shadeStrength: 1, gloss: part('gloss'), glossStrength: 0.8 },
  };
  const at = { a: ((columns * box) / 2 - 84) / grid.cell, b: ((rows * box) / 2 - 22) / grid.cell, h: 0 };
  return {
    ...empty,
    sheet: { ...empty.sheet, width: mm(width), height: mm(height), resolution: 300 },
    grid,
    bitmaps: Object.entries(FUNNEL_PICTURES).map(([name, { type, asset, width: w, height: h }]) => ({
      id: `funnel-${name}`,
      type,
      width: w,
      height: h,
      asset,
    })),
    artworks: [signArtwork(), bandArtwork(make)],
    nodes: [
      {
        kind: 'placement',
        id: 'funnel-band',
        name: 'band, funnel',
        hidden: false,
        locked: false,
        artwork: 'artwork-band',
        target: { kind: 'plane', plane: SHEET, photographed: surface.id },
        anchor: { at, width: 168 / grid.cell, height: 44 / grid.cell },
      },
    ],
    photos: [{ id: 'funnel-photo', name: 'funnel', bitmap: 'funnel-bare', x: 0, y: 0, width: mm(width), height: mm(height), surfaces: [surface] }],
  };
}

/** The bytes of the photographs and of the light on the funnel, by their SHA-256. */
export function funnelAssets(): ReadonlyMap<string, Uint8Array> {
  return new Map(Object.values(FUNNEL_PICTURES).map(({ asset, base64 }) => [asset, Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))]));
}
