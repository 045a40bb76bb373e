import { checkDocument, findShape, flatArtworks, flattenTree, PictureMaker, placementGround, placementMap } from '@core';
import { landing } from './landing';

describe('the landing', () => {
  const document = landing();

  it('is a valid document, the same every time', () => {
    const checked = checkDocument(JSON.parse(JSON.stringify(document)));
    expect(checked.ok ? [] : checked.problems).toEqual([]);
    expect(landing()).toEqual(document);
  });

  it('has its kiosk with awning and sign, bollards, crates, gangway and lamp, all by name', () => {
    const names = flattenTree(document.nodes).map(({ node }) => node.name);
    for (const name of ['ticket kiosk', 'awning', 'sign board', 'sign artwork', 'bollard 3', 'crates', 'gangway', 'lamp']) expect(names).toContain(name);
  });

  it('shows every artwork on a face that is there', () => {
    const maker = new PictureMaker();
    for (const { node } of flattenTree(document.nodes)) {
      if (node.kind !== 'placement') continue;
      expect(node.target.kind === 'face' && findShape(document, node.target.node)).toBeTruthy();
      const ground = placementGround(document, node)!;
      expect(placementMap(maker.stageOf(document), node, 'kind' in ground ? null : ground)).not.toBeNull();
    }
    for (const artwork of document.artworks) expect(flatArtworks(document).get(artwork.id)!.marks.length).toBeGreaterThan(5);
  });
});
