import { computed, effect, inject, Injectable, untracked } from '@angular/core';
import {
  copyNodes,
  figure,
  findNode,
  flattenTree,
  inOrder,
  sizeMm,
  unitOf,
  type Artwork,
  type DocumentNode,
  type Edit,
  type PlacementNode,
  type PlacementTarget,
  type ShapeNode,
  type SingleEdit,
} from '@core';
import { netArtwork } from '@later';
import { newId } from '../../platform/ids';
import { MessageStore } from '../../platform/messages.store';
import { sayRemoved } from '../../state/removed-words';
import { ArrangingService } from '../../state/arranging.service';
import { DocumentStore } from '../../state/document.store';
import { FlatService } from '../../state/flat.service';
import { PictureService } from '../../state/picture.service';
import { ViewStore } from '../../state/view.store';
import { lifted, putBack } from './lifting';
import { exchangedIn, placementOn } from './placing';

/** Size in mm of a flat artwork that is started empty. */
const NEW_SIZE = { width: 120, height: 80 } as const;

/** What is done with artworks as wholes: started, lifted out of the drawing and put back, exchanged, sized, removed. */
@Injectable({ providedIn: 'root' })
export class ArtworksService {
  private readonly documents = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly flat = inject(FlatService);
  private readonly messages = inject(MessageStore);
  private readonly pictures = inject(PictureService);
  private readonly arranging = inject(ArrangingService);

  constructor() {
    // What is selected in the drawing is what is spoken of.
    effect(() => {
      const artwork = this.flat.selectedArtwork();
      if (artwork !== null && this.documents.sheetOf() === null) untracked(() => this.view.patch({ artwork }));
    });
  }

  /** The artwork that is chosen; where none is, or it went, the last there is while artwork is placed. */
  readonly chosen = computed(() => {
    const { artworks } = this.documents.whole();
    const last = this.view.tool() === 'place' ? artworks.at(-1) : undefined;
    return artworks.find(({ id }) => id === this.view.artwork()) ?? last ?? null;
  });
  readonly placements = computed(() => placementsOf(this.documents.whole().nodes));
  /** How often the chosen one is placed in the drawing. */
  readonly placedTimes = computed(() => this.placements().filter(({ artwork }) => artwork === this.chosen()?.id).length);
  /** The versions of the thing that the chosen one is, in their order; itself alone where there are no others. */
  readonly versions = computed((): readonly Artwork[] => {
    const chosen = this.chosen();
    const of = chosen?.version?.of;
    return of === undefined ? (chosen ? [chosen] : []) : this.documents.whole().artworks.filter(({ version }) => version?.of === of);
  });

  /** An empty flat sheet, opened beside the drawing. */
  start(): void {
    const count = this.documents.whole().artworks.length + 1;
    const artwork: Artwork = { id: newId(), name: `artwork ${count}`, svg: '', ...NEW_SIZE, unitMm: 1, background: '#ffffff' };
    if (this.documents.commit({ kind: 'add', nodes: [], artworks: [artwork] }, `start ${artwork.name}`)) this.flat.open(artwork.id);
  }

  /** The solid that is selected, by itself or as one of a group's. */
  readonly solid = computed((): ShapeNode | null => {
    const [first] = this.arranging.shapes();
    return first && first.depth !== 0 && first.plane.kind !== 'sheet' ? first : null;
  });

  /** Lays the selected solid out flat: one artwork of which each face wears its part, opened to be drawn on. */
  unfold(): void {
    const solid = this.solid();
    if (!solid)
      return void this.messages.say('info', 'Select a solid first', ['Its faces are laid out as a net; draw over its folds, and every face wears its part.']);
    const made = netArtwork(this.documents.kept(), solid, false, newId);
    if (!made) return;
    if (!this.documents.commit({ kind: 'add', nodes: made.placements, artworks: [made.artwork] }, `unfold ${solid.name}`)) return;
    this.flat.open(made.artwork.id);
  }

  /** Lays the chosen net out anew, as its solid is now. @param tabs whether it has tabs for gluing */
  layOut(tabs: boolean): void {
    const chosen = this.chosen();
    const host = chosen?.net && findNode(this.documents.whole(), chosen.net.of);
    if (!chosen?.net || host?.kind !== 'shape') return void this.messages.say('info', 'The solid of this net is gone');
    const made = netArtwork(this.documents.whole(), host, tabs, newId, chosen.id);
    if (made)
      this.documents.commit({ kind: 'net', artwork: { ...made.artwork, name: chosen.name }, nodes: made.placements }, `lay out ${chosen.name}`, 'drawing');
  }

  /** The selected flat things become an artwork that lies where they were. */
  lift(): void {
    const nodes = this.arranging.nodes();
    const made = lifted(this.documents.kept(), nodes, newId);
    if ('why' in made) return void this.messages.say('info', 'This was not lifted', [made.why]);
    const edits: SingleEdit[] = [
      { kind: 'add', nodes: [], artworks: [made.artwork] },
      { kind: 'replace', ids: nodes.map(({ id }) => id), nodes: [made.placement] },
    ];
    if (!this.documents.commit({ kind: 'all', edits }, `lift ${made.artwork.name} into an artwork`)) return;
    this.view.patch({ artwork: made.artwork.id });
    this.view.select([made.placement.id]);
  }

  /** What is drawn on the artwork of the selected placements becomes things of the drawing again. */
  putBack(): void {
    const document = this.documents.kept();
    const edits: SingleEdit[] = [];
    const made: string[] = [];
    if (!this.arranging.nodes().some(({ kind }) => kind === 'placement')) this.messages.say('info', 'Select artwork that lies in the drawing first');
    for (const node of this.arranging.nodes()) {
      const artwork = node.kind === 'placement' ? document.artworks.find(({ id }) => id === node.artwork) : undefined;
      if (node.kind !== 'placement' || !artwork) continue;
      const nodes = putBack(document, node, artwork, (all) => copyNodes(all, newId));
      if (!nodes)
        this.messages.say('info', `“${node.name}” stays artwork`, [
          'Only what is drawn on an artwork, and lies on a flat face or plane, can be put back as shapes.',
        ]);
      else edits.push({ kind: 'replace', ids: [node.id], nodes });
      made.push(...(nodes ?? []).map(({ id }) => id));
    }
    if (edits.length > 0 && this.documents.commit({ kind: 'all', edits }, 'put back as shapes')) this.view.select(made);
  }

  /** Placements of some artworks with others in their places, by the ids of both, as edits of the drawing and of every flat sheet. */
  exchange(to: ReadonlyMap<string, Artwork>, label: string): void {
    const document = this.documents.whole();
    const changed = placementsOf(document.nodes).flatMap((node): readonly PlacementNode[] => {
      const artwork = to.get(node.artwork);
      return artwork ? [exchangedIn(document, node, artwork)] : [];
    });
    if (changed.length === 0) return;
    this.documents.commit({ kind: 'change', nodes: changed }, label, 'drawing');
  }

  /** Puts another artwork in the place of the chosen one everywhere. */
  putInPlace(id: string | null): void {
    const [from, artwork] = [this.chosen(), this.documents.whole().artworks.find((one) => one.id === id)];
    if (!from || !artwork) return;
    this.exchange(new Map([[from.id, artwork]]), `put ${artwork.name} in place`);
    this.view.patch({ artwork: artwork.id });
  }

  /** Another version of the chosen artwork, a copy of it to be changed. */
  addVersion(): void {
    const chosen = this.chosen();
    if (!chosen) return;
    const of = chosen.version?.of ?? newId();
    const count = this.versions().length + 1;
    const nodes = chosen.nodes && copyNodes(chosen.nodes, newId);
    const fresh = inOrder({ ...chosen, id: newId(), name: `${chosen.name.replace(/ \d+$/, '')} ${count}`, version: { of, name: `version ${count}` }, nodes });
    const first: SingleEdit[] = chosen.version ? [] : [{ kind: 'artworks', items: [lookOf({ ...chosen, version: { of, name: 'version 1' } })] }];
    if (this.documents.commit({ kind: 'all', edits: [...first, { kind: 'add', nodes: [], artworks: [fresh] }] }, `add a version of ${chosen.name}`, 'drawing'))
      this.useVersion(fresh.id);
  }

  /** Shows a version in every place of the others. */
  useVersion(id: string): void {
    const version = this.documents.whole().artworks.find((one) => one.id === id);
    if (!version) return;
    const others = this.documents.whole().artworks.filter((one) => one.id !== id && one.version !== undefined && one.version.of === version.version?.of);
    this.exchange(new Map(others.map((one) => [one.id, version])), `show ${version.version?.name ?? version.name}`);
    this.view.patch({ artwork: id });
    if (this.flat.artwork()) this.flat.open(id);
  }

  /** Shows, of every artwork that has versions, the one of a name. */
  useVersionsNamed(name: string): void {
    const all = this.documents.whole().artworks;
    const to = new Map<string, Artwork>();
    for (const version of all)
      if (version.version?.name === name)
        for (const other of all) if (other.id !== version.id && other.version?.of === version.version.of) to.set(other.id, version);
    this.exchange(to, `show “${name}” everywhere`);
    const chosen = this.view.artwork();
    const now = chosen === null ? undefined : to.get(chosen);
    if (now) this.view.patch({ artwork: now.id });
  }

  /** Names of versions that more than one thing has. */
  readonly sharedVersions = computed(() => {
    const names = new Map<string, Set<string>>();
    for (const { version } of this.documents.whole().artworks) if (version) names.set(version.name, (names.get(version.name) ?? new Set()).add(version.of));
    return [...names].flatMap(([name, of]) => (of.size > 1 ? [name] : []));
  });

  /** Changes something about the chosen artwork besides what is on it. */
  change(part: Partial<Pick<Artwork, 'name' | 'width' | 'height' | 'background' | 'version'>>, label: string): void {
    const chosen = this.chosen();
    if (chosen) this.documents.commit({ kind: 'artworks', items: [lookOf({ ...chosen, ...part })] }, `${label} ${chosen.name}`);
  }

  /** The colour that the chosen artwork is painted on, or none. */
  background(colour: string | null): void {
    const chosen = this.chosen();
    if (!chosen) return;
    const { background: _, ...rest } = chosen;
    const next: Artwork = colour === null ? rest : { ...rest, background: colour };
    this.documents.commit({ kind: 'artworks', items: [lookOf(next)] }, `background of ${chosen.name}`);
  }

  /** Sizes in mm; what fills the sheet is stretched with it, what is drawn on it stays. */
  resize(width: number, height: number): void {
    const chosen = this.chosen();
    if (chosen) this.change({ width: width / unitOf(chosen), height: height / unitOf(chosen) }, 'size of');
  }

  readonly words = computed(() => {
    const chosen = this.chosen();
    if (!chosen) return '';
    const { width, height } = sizeMm(chosen);
    const bitmap = this.documents.whole().bitmaps.find(({ id }) => id === chosen.bitmap);
    const times = this.placedTimes();
    const placed = times === 0 ? 'not placed' : times === 1 ? 'placed once' : `placed ${times} times`;
    return `${figure(width, 1)} × ${figure(height, 1)}\u2009mm, ${bitmap ? `${bitmap.width} × ${bitmap.height}\u2009px, ` : ''}${placed}`;
  });

  /** Removes the chosen artwork with all its placements; undo brings them back. */
  remove(): void {
    const chosen = this.chosen();
    if (!chosen) return;
    if (this.flat.artwork()?.id === chosen.id) this.flat.close();
    const before = this.documents.whole();
    if (!this.documents.commit({ kind: 'delete-artworks', ids: [chosen.id] }, `remove ${chosen.name}`)) return;
    this.view.patch({ artwork: null });
    sayRemoved(this.messages, chosen.name, before, this.documents.whole());
  }

  /** Places the chosen artwork on faces or planes, as one step; without, on all of them. */
  place(targets: readonly PlacementTarget[], where: string): void {
    const [document, artwork] = [this.documents.kept(), this.chosen()];
    if (!artwork || targets.length === 0) return;
    const nodes = targets.map((target) => placementOn(artwork, target, { document, geometry: this.pictures.geometry(), newId }, { at: null }).node);
    this.documents.commit({ kind: 'add', nodes, artworks: [] }, `place ${artwork.name}${where}`);
    this.view.select(nodes.map(({ id }) => id));
    this.view.setTool('pick');
  }

  /** Opens the sheet of the artwork that is selected in the drawing, or chosen. */
  editFlat(): void {
    const id = this.flat.selectedArtwork() ?? this.view.artwork();
    if (id === null || !this.documents.whole().artworks.some((one) => one.id === id)) return void this.messages.say('info', 'Choose an artwork first');
    this.flat.open(id);
  }

  /** The placement that is selected, with its artwork. */
  readonly placed = computed(() => {
    const node = findNode(this.documents.kept(), this.view.selection()[0] ?? '');
    const artwork = node?.kind === 'placement' ? this.documents.kept().artworks.find(({ id }) => id === node.artwork) : undefined;
    return node?.kind === 'placement' && artwork ? { node, artwork } : null;
  });
}

const placementsOf = (nodes: readonly DocumentNode[]): readonly PlacementNode[] =>
  flattenTree(nodes).flatMap(({ node }) => (node.kind === 'placement' ? [node] : []));

/** What can be set about an artwork. */
function lookOf({ id, name, width, height, unitMm, background, version }: Artwork): Extract<Edit, { kind: 'artworks' }>['items'][number] {
  return {
    id,
    name,
    width,
    height,
    ...(unitMm !== undefined && { unitMm }),
    ...(background !== undefined && { background }),
    ...(version && { version }),
  };
}
