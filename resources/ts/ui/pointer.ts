let pressed = false;
if (typeof window !== 'undefined') {
  window.addEventListener('pointerdown', () => (pressed = true), { capture: true });
  for (const end of ['pointerup', 'pointercancel'])
    window.addEventListener(end, () => (pressed = false), { capture: true });
}

/**
 * Does something once no button is pressed any more. What changes the layout between press and release would move the
 * thing one clicks from under the pointer, and the click would be lost.
 */
export function whenReleased(work: () => void): void {
  if (!pressed) work();
  // The click comes right after the release.
  else window.addEventListener('pointerup', () => window.setTimeout(work), { once: true });
}

/** Calls while the pointer is held down, wherever it goes, and once when it is let go. */
export function whileHeld(move: (event: PointerEvent) => void, end: () => void): void {
  const stop = () => {
    window.removeEventListener('pointermove', move);
    window.removeEventListener('pointerup', stop);
    window.removeEventListener('pointercancel', stop);
    end();
  };
  window.addEventListener('pointermove', move);
  window.addEventListener('pointerup', stop);
  window.addEventListener('pointercancel', stop);
}
