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
