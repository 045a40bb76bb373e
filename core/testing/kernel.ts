import { joinWith } from '../geometry/joined-recipe';
import { joinedBody } from '../joining/join';
import Module, { type ManifoldToplevel } from 'manifold-3d';

let loading: Promise<ManifoldToplevel> | null = null;

/** The solids' kernel, loaded once for all tests of a file. */
export function kernelForTests(): Promise<ManifoldToplevel> {
  loading ??= Module().then((kernel) => {
    kernel.setup();
    return kernel;
  });
  return loading;
}

/** Solids are joined as in the application, on the spot. */
export async function joinInTests(): Promise<void> {
  const kernel = await kernelForTests();
  joinWith((parts, how) => Promise.resolve().then(() => joinedBody(kernel, parts, how)));
}
