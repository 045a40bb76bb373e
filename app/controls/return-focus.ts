import { DestroyRef, inject } from '@angular/core';

/**
 * Gives the focus back to where it was when this was called, once the component that calls it is gone: to the drawing
 * where that place is gone too. What has taken the focus meanwhile keeps it.
 */
export function returnFocusAtEnd(): void {
  const before = document.activeElement;
  inject(DestroyRef).onDestroy(() => {
    setTimeout(() => {
      const now = document.activeElement;
      if (now && now !== document.body && now.isConnected) return;
      const back =
        before instanceof HTMLElement && before.isConnected && before !== document.body ? before : document.querySelector<HTMLElement>('[role=application]');
      back?.focus({ preventScroll: true });
    });
  });
}
