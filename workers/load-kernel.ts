import Module, { type ManifoldToplevel } from 'manifold-3d';

let loading: Promise<ManifoldToplevel> | null = null;

/** The solids' kernel, loaded once for each worker when it is first needed; its code of machine words comes from our own server. */
export function loadKernel(): Promise<ManifoldToplevel> {
  loading ??= Module({ locateFile: () => new URL('/wasm/manifold.wasm', self.location.origin).href }).then((kernel) => {
    kernel.setup();
    return kernel;
  });
  // A load that failed is tried anew.
  loading.catch(() => (loading = null));
  return loading;
}
