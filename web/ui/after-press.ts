let isDown = false;
const down = () => (isDown = true);
const up = () => (isDown = false);
window.addEventListener('pointerdown', down, true);
window.addEventListener('pointerup', up, true);
window.addEventListener('pointercancel', up, true);

/**
 * Does something now, or once the button that is down is up and its click has gone where it was meant: what closes under a press moves
 * what is below it away from the pointer, and the click is lost.
 */
export function afterPress(act: () => void): void {
  if (!isDown) {
    act();
    return;
  }
  const later = () => {
    window.removeEventListener('pointerup', later, true);
    window.removeEventListener('pointercancel', later, true);
    // The click comes right behind, in the same turn.
    setTimeout(act, 0);
  };
  window.addEventListener('pointerup', later, true);
  window.addEventListener('pointercancel', later, true);
}
