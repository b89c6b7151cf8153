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

/** Pixels and lines of a usual notch of a wheel; a touch pad sends many small parts of one. */
const NOTCH = [100, 3, 1];

/** How many notches a wheel was turned: toward oneself more than 0. */
export function notches(delta: number, mode: number): number {
  return Math.max(-3, Math.min(3, delta / (NOTCH[mode] ?? 100)));
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
