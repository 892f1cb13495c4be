/** How far a pointer moves at most between press and release for both to be a click, px. */
export const CLICK_PX = 4;

/** What acts when it is let go. Fields and lists act when they are pressed. */
const PRESSED = 'button, a[href], summary, label, input[type=checkbox], input[type=radio]';

/**
 * Has a press count for what it began on, though that moved away under a pointer that stayed: a result comes, a line is
 * added, and a browser gives no click where a press does not end where it began. One that is dragged off is taken back, as
 * ever.
 */
export function keepPressesSteady(): void {
  let held: { target: HTMLElement; x: number; y: number } | null = null;
  let isAnswered = false;
  const onDown = (event: PointerEvent) => {
    const { target, clientX: x, clientY: y } = event;
    isAnswered = false;
    const pressed = target instanceof Element ? target.closest<HTMLElement>(PRESSED) : null;
    // A finger's press ends where it began, whatever moves.
    held = pressed && event.button === 0 && event.pointerType !== 'touch' ? { target: pressed, x, y } : null;
  };
  const onUp = (event: PointerEvent) => {
    const press = held;
    held = null;
    if (!press?.target.isConnected || press.target.contains(event.target as Node | null)) return;
    if (Math.hypot(event.clientX - press.x, event.clientY - press.y) >= CLICK_PX) return;
    press.target.click();
    isAnswered = true;
  };
  // What the browser may give for the same press to whatever holds both places. Clicks by key or by code count none.
  const onClick = (event: MouseEvent) => {
    if (!isAnswered || event.detail === 0) return;
    isAnswered = false;
    event.stopPropagation();
    event.preventDefault();
  };
  window.addEventListener('pointerdown', onDown, true);
  window.addEventListener('pointerup', onUp, true);
  window.addEventListener('pointercancel', () => (held = null), true);
  window.addEventListener('click', onClick, true);
}
