import { formFault, formOutline, type PlacedForm, type ShapeNode } from '@core';

/** A shape with another form of its kind, its plane, paint and depth kept; or why there is none. */
export function reformed({ form: _, ...shape }: ShapeNode, placed: PlacedForm): ShapeNode | string {
  return formFault(placed.form) ?? { ...shape, outline: formOutline(placed), form: placed.form };
}
