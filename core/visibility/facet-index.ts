import Flatbush from 'flatbush';

type Box = readonly [minX: number, minY: number, maxX: number, maxY: number];

/** Polygons up to which looking at each of them costs less than an index. */
const FEW = 16;

/** Finds which of some polygons of the sheet may meet another, by their boxes. */
export class FacetIndex {
  private readonly boxes: readonly Box[];
  private readonly index: Flatbush | null = null;

  constructor(polygons: readonly (readonly number[])[]) {
    this.boxes = polygons.map(boxOf);
    if (polygons.length <= FEW) return;
    this.index = new Flatbush(polygons.length);
    for (const box of this.boxes) this.index.add(...box);
    this.index.finish();
  }

  /** Places of those whose boxes meet the box of another, in their order. */
  near(polygon: readonly number[]): readonly number[] {
    const [minX, minY, maxX, maxY] = boxOf(polygon);
    if (this.index) return this.index.search(minX, minY, maxX, maxY).sort((p, q) => p - q);
    return this.boxes.flatMap((box, k) => (minX > box[2] || box[0] > maxX || minY > box[3] || box[1] > maxY ? [] : [k]));
  }
}

function boxOf(polygon: readonly number[]): Box {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < polygon.length; i += 2) {
    const x = polygon[i]!;
    const y = polygon[i + 1]!;
    if (x < minX) minX = x;
    if (x > maxX) maxX = x;
    if (y < minY) minY = y;
    if (y > maxY) maxY = y;
  }
  return [minX, minY, maxX, maxY];
}
