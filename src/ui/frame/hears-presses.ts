/**
 * Stands at a document's head: keeps which buttons are pressed before the script of the page has come. Only those that do nothing without
 * it; what sends a form or leads elsewhere goes its own way. Pressed twice out of impatience is pressed once.
 */
export const HEARS_PRESSES = `(() => {
  const pressed = new Set();
  const hear = (event) => {
    const button = event.target instanceof Element && event.target.closest('button[type=button]');
    if (!button) return;
    event.stopImmediatePropagation();
    pressed.delete(button);
    pressed.add(button);
  };
  addEventListener('click', hear, true);
  window.pressedBefore = () => {
    removeEventListener('click', hear, true);
    delete window.pressedBefore;
    return [...pressed];
  };
})()`;
