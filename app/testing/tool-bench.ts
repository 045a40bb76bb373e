import {
  applyEdit,
  emptyDocument,
  PictureMaker,
  catchSource,
  apply33,
  linesInPlane,
  regionsOf,
  sheetFromPlane,
  type CheminDocument,
  type Edit,
  type Plane,
  type PlanePoint,
  type SheetPoint,
} from '@core';
import type { Ghost, Tool, ToolContext, ToolEvent } from '../tools/tool';

/** Runs a tool on a document without any interface: what a hand does goes in, edits are made. */
export class ToolBench<S, T> {
  state: S;
  document: CheminDocument;
  preview: Edit | null = null;
  selection: readonly string[] = [];
  done = false;
  labels: string[] = [];
  grid = true;
  frameTakes: ToolContext['frameTakes'] = 'within';
  colour: ReturnType<ToolContext['colourAt']> = null;
  spaceAt: ToolContext['spaceAt'] = () => null;
  found: Plane | null = null;
  taken: string | null = null;
  private readonly maker = new PictureMaker();
  private serial = 0;

  constructor(
    private readonly tool: Tool<S, T>,
    /** What is set for it, which it may change. */
    public settings: T,
    public plane: Plane = { kind: 'floor', offset: 0 },
    document: CheminDocument = emptyDocument('d', 'd'),
  ) {
    this.state = tool.start();
    this.document = document;
  }

  get context(): ToolContext<T> {
    const geometry = this.maker.stageOf(this.document);
    const { document } = this;
    return {
      document,
      geometry,
      picture: this.maker.make(document),
      plane: this.plane,
      paint: { fill: '#c98a4b', line: null },
      selection: this.selection,
      frameTakes: this.frameTakes,
      settings: this.settings,
      reach: 2,
      pxPerUnit: 4,
      directions: () => [{ u: 1, v: 0 }, { u: 0, v: 1 }], // prettier-ignore
      spaceAt: (at) => this.spaceAt(at),
      colourAt: () => this.colour,
      on: (plane) => ({
        plane,
        options: { sheetFromPlane: sheetFromPlane(geometry.sight.projection, plane, geometry.cell), pxPerUnit: 4, grid: this.grid },
        source: catchSource(document, plane),
      }),
      regions: (plane) => ({ ...regionsOf(linesInPlane(document, plane)), pending: false }),
      newId: () => `new-${++this.serial}`,
    };
  }

  get ghost(): Ghost | null {
    return this.tool.ghost(this.state, this.context);
  }

  get fields(): readonly string[] {
    return this.tool.fields(this.state);
  }

  /** The sheet point of a place on a plane, in cells. */
  sheet(p: PlanePoint, plane: Plane = this.plane): SheetPoint {
    return apply33(this.context.on(plane).options.sheetFromPlane, p.u, p.v)!;
  }

  send(event: ToolEvent): this {
    const step = this.tool.step(this.state, event, this.context);
    this.state = step.state;
    if (step.preview !== undefined) this.preview = step.preview;
    if (step.commit) {
      this.document = applyEdit(this.document, step.commit.edit);
      this.labels.push(step.commit.label);
    }
    if (step.select) this.selection = step.select;
    if (step.done) this.done = true;
    if (step.plane) this.found = step.plane;
    if (step.settings) this.settings = { ...this.settings, ...step.settings };
    if (step.colour !== undefined) this.taken = step.colour;
    return this;
  }

  at(kind: 'move' | 'down' | 'up', u: number, v: number, how: { lock?: boolean; free?: boolean; plane?: Plane } = {}): this {
    return this.send({ kind, at: this.sheet({ u, v }, how.plane), lock: how.lock ?? false, free: how.free ?? false });
  }

  press(u: number, v: number, how: { lock?: boolean; free?: boolean; plane?: Plane } = {}): this {
    return this.at('move', u, v, how).at('down', u, v, how).at('up', u, v, how);
  }

  key(key: 'Backspace' | 'Enter' | 'Escape'): this {
    return this.send({ kind: 'key', key });
  }

  type(...lengths: (number | null)[]): this {
    return this.send({ kind: 'typed', lengths });
  }
}
