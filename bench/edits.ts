import {
  anchorIn,
  applyEdit,
  bodyOf,
  commitEdit,
  drawnNodes,
  ellipseOutline,
  emptyDocument,
  openKept,
  passEdit,
  PictureMaker,
  presentDocument,
  readingFrameOf,
  startHistory,
  surfaceNamed,
  type CheminDocument,
  type Edit,
  type History,
  type PlacementNode,
  type ShapeNode,
} from '../core/index';
import { median, type Row } from './measure';
import { boxScene } from './scenes';

/** Cylinders beside each other, as many as boxes in a scene to be compared with. */
function cylinders(count: number): CheminDocument {
  const side = Math.ceil(Math.sqrt(count));
  const nodes = Array.from({ length: count }, (_, i): ShapeNode => {
    const outline = ellipseOutline({ u: (i % side) * 2.5, v: Math.floor(i / side) * 2.5 }, { u: 1, v: 1 });
    return { kind: 'shape', id: `box${i}`, name: `drum ${i}`, hidden: false, locked: false, plane: { kind: 'floor', offset: 0 }, outline, depth: 1 + (i % 3), paint: { fill: '#c98a4b', line: null } }; // prettier-ignore
  });
  return { ...emptyDocument('drums', 'drums'), nodes };
}

/** One thing of a document dragged, a frame. */
function dragged(document: CheminDocument): number {
  const maker = new PictureMaker();
  maker.make(document);
  let step = 0;
  return median(() => maker.make(applyEdit(document, { kind: 'move', ids: ['box10'], by: { a: ++step % 7, b: 0, h: 0 } }), 'quick'), 60, 60);
}

export function roundRows(): Row[] {
  const [drums, boxes] = [dragged(cylinders(400)), dragged(boxScene(400))];
  return [
    { what: '400 boxes: one dragged, one frame', ms: boxes, note: 'yardstick' },
    { what: '400 cylinders: one dragged, one frame', ms: drums, note: `${(drums / boxes).toFixed(2)} x yardstick (wanted at most 1.5)` },
  ];
}

/** Boxes with artwork of many paths on 200 of them. */
function withArtwork(document: CheminDocument, count: number): CheminDocument {
  const svg = `<svg viewBox="0 0 100 100">${Array.from({ length: 200 }, (_, i) => `<path fill="#20${(i % 90) + 10}40" d="M${i % 90} ${i % 70}L${(i % 90) + 8} ${i % 70}L${i % 90} ${(i % 70) + 9}Z"/>`).join('')}</svg>`; // prettier-ignore
  const placements = document.nodes.slice(0, count).map((node, i): PlacementNode => {
    const surface = surfaceNamed(bodyOf(node as ShapeNode), 'end')!;
    const anchor = anchorIn(readingFrameOf(surface)!, { x: 0, y: 0, width: 1, height: 1 });
    return { kind: 'placement', id: `art${i}`, name: 'art', hidden: false, locked: false, artwork: 'art', target: { kind: 'face', node: node.id, face: 'end' }, anchor }; // prettier-ignore
  });
  return { ...document, artworks: [{ id: 'art', name: 'art', svg, width: 100, height: 100 }], nodes: [...document.nodes, ...placements] };
}

/** One thing of each document dragged, a frame of each in turn, so that both meet the same machine. */
function draggedInTurn(documents: readonly CheminDocument[], id: string): readonly number[] {
  const makers = documents.map(() => new PictureMaker());
  const times = documents.map((): number[] => []);
  for (let step = 0; step < 600; step++) {
    documents.forEach((document, k) => {
      const start = performance.now();
      makers[k]!.make(applyEdit(document, { kind: 'move', ids: [id], by: { a: 1 + (step % 6), b: 0, h: 0 } }), 'quick');
      if (step >= 200) times[k]!.push(performance.now() - start);
    });
  }
  return times.map((own) => own.sort((p, q) => p - q)[own.length >> 1]!);
}

export function placementRows(): Row[] {
  const boxes = boxScene(300);
  const both = [boxes, withArtwork(boxes, 200)];
  return [
    ['one without artwork dragged', 'box250'],
    ['one with artwork dragged', 'box10'],
  ].flatMap(([what, id]) => {
    const [without, withArt] = draggedInTurn(both, id!);
    return [
      { what: '300 boxes: one dragged, one frame', ms: without!, note: 'yardstick' },
      { what: `200 placements of 200 paths on them: ${what}`, ms: withArt!, note: `${(withArt! / without!).toFixed(2)} x yardstick (wanted at most 1.2)` },
    ];
  });
}

/** An artwork that is drawn on while it lies in fifty places: the edit, and the picture of all of them, for each frame. */
export function typedRows(): Row[] {
  const document = withArtwork(boxScene(100), 50);
  const plane = { kind: 'sheet', offset: 0 } as const;
  const letters = Array.from({ length: 20 }, (_, i) => {
    const points = [[i, 1], [i + 0.7, 1], [i + 0.7, 2], [i, 2]].map(([u, v], k) => ({ id: k + 1, u: u!, v: v! })); // prettier-ignore
    return { ...(boxScene(1).nodes[0] as ShapeNode), id: `letter${i}`, name: 'letter', plane, outline: { points, closed: true }, depth: 0 };
  });
  const maker = new PictureMaker();
  let now = document;
  let count = 0;
  const ms = median(() => {
    const edit: Edit = { kind: 'flat', artwork: 'art', edit: { kind: 'add', nodes: [{ ...letters[count % 20]!, id: `letter${count++}` }], artworks: [] } };
    now = passEdit(now, edit).document;
    return maker.make(now, 'quick');
  }, 15);
  return [{ what: 'typing in an artwork of 200 paths that is placed 50 times: one letter', ms, note: 'checked, painted and placed' }];
}

/** Boxes of a field, as many as asked, quick to make. */
export function field(count: number): CheminDocument {
  const side = Math.ceil(Math.sqrt(count));
  const one = boxScene(1).nodes[0] as ShapeNode;
  const nodes = Array.from({ length: count }, (_, i): ShapeNode => {
    const [u, v] = [(i % side) * 2, Math.floor(i / side) * 2];
    const points = [[u, v], [u + 1, v], [u + 1, v + 1], [u, v + 1]].map(([x, y], k) => ({ id: k + 1, u: x!, v: y! })); // prettier-ignore
    return { ...one, id: `box${i}`, name: `box ${i}`, plane: { kind: 'floor', offset: 0 }, outline: { points, closed: true }, depth: 1 };
  });
  return { ...emptyDocument('field', 'field'), nodes };
}

export function manyRows(): Row[] {
  const document = field(5000);
  const ids = document.nodes.map(({ id }) => id);
  passEdit(document, { kind: 'move', ids, by: { a: 1, b: 0, h: 0 } });
  const maker = new PictureMaker();
  let step = 0;
  const moved = median(() => applyEdit(document, { kind: 'move', ids, by: { a: (step++ % 5) + 1, b: 0, h: 0 } }), 7);
  const passed = median(() => passEdit(document, { kind: 'move', ids, by: { a: (step++ % 5) + 1, b: 0, h: 0 } }), 7);
  const marks = median(() => maker.make(applyEdit(document, { kind: 'move', ids, by: { a: (step++ % 5) + 1, b: 0, h: 0 } })), 5) - moved;
  return [
    { what: '5,000 things moved: picture of them', ms: marks, note: 'yardstick' },
    { what: '5,000 things moved: the edit', ms: moved, note: `${(moved / marks).toFixed(2)} x yardstick (wanted at most 2)` },
    { what: '5,000 things moved: the edit, checked as it is kept', ms: passed, note: `${(passed / marks).toFixed(2)} x yardstick` },
  ];
}

/** What the page does when a large drawing is opened, and what the worker does before. */
export function openingRows(): Row[] {
  let history: History = startHistory(field(5000));
  for (let i = 0; i < 300; i++) history = commitEdit(history, { kind: 'move', ids: [`box${(i * 17) % 5000}`], by: { a: 1, b: 0, h: 0 } });
  const kept = JSON.parse(JSON.stringify({ document: presentDocument(history), base: history.base, steps: history.steps })) as { document: CheminDocument; base: CheminDocument; steps: History['steps'] }; // prettier-ignore
  const open = (): ReturnType<typeof openKept> => openKept({ ...kept, position: 300, stepCount: 300 }, kept.steps, new Map());
  const there = median(open, 3);
  const opened = open();
  const here = median(() => structuredClone(opened), 5);
  const listed = median(() => drawnNodes({ ...presentDocument(history) }), 5);
  return [
    { what: 'opening 5,000 boxes with 300 steps: in the worker', ms: there, note: '' },
    {
      what: 'opening 5,000 boxes with 300 steps: taking it over',
      ms: here,
      note: `${here < 100 ? 'under' : 'over'} 100 ms on the page; packing it is half of this, in the worker`,
    },
    { what: '5,000 boxes: what is drawn', ms: listed, note: '' },
  ];
}
