import { exactCells } from '../math/exact';
import type { PlanePoint } from '../math/points';
import { allPoints, mapOutline, mapPoint } from '../shape/outline';
import { frameOfLettering, letterFrame, readableRound } from './lettering-group';
import { shapesIn } from './tree';
import type { DocumentNode, GroupNode } from './types';

/** Things with every lettering among them readable: one that a mirror has turned round is turned round once more where it stands. */
export function readable(node: DocumentNode): DocumentNode {
  if (node.kind !== 'group') return node;
  if (node.lettering) return readableLettering(node);
  const children = node.children.map(readable);
  return children.every((child, i) => child === node.children[i]) ? node : { ...node, children };
}

function readableLettering(group: GroupNode): GroupNode {
  if (group.lettering?.around) return readableRound(group);
  const frame = frameOfLettering(group);
  if (!frame) return group;
  const turn = ({ x, y }: { readonly x: PlanePoint; readonly y: PlanePoint }): number => x.u * y.v - x.v * y.u;
  if (turn(frame) * turn(letterFrame(frame.plane, frame.origin)) > 0) return group;
  const { x } = frame;
  const along = shapesIn(group.children).flatMap(({ outline }) => allPoints(outline).map((p) => p.u * x.u + p.v * x.v));
  const both = Math.min(...along) + Math.max(...along);
  const at = (p: PlanePoint): PlanePoint => {
    const by = both - 2 * (p.u * x.u + p.v * x.v);
    return { u: exactCells(p.u + x.u * by), v: exactCells(p.v + x.v * by) };
  };
  const turned = (node: DocumentNode): DocumentNode => {
    if (node.kind === 'group') return { ...node, children: node.children.map(turned) };
    return node.kind === 'shape' ? { ...node, outline: mapOutline(node.outline, (p) => mapPoint(p, at)) } : node;
  };
  return { ...group, children: group.children.map(turned) };
}
