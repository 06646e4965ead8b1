/**
 * Stands at a document's head: keeps what is pressed, ticked and chosen before the script of the page has come. Only what does nothing
 * without it; what sends a form or leads elsewhere goes its own way. Pressed twice out of impatience is pressed once. A tick shows when it
 * is done, or it would say something else than the card meanwhile.
 */
export const HEARS_PRESSES = `(() => {
  const heard = new Map();
  const hear = (event) => {
    const at = event.target instanceof Element && event.target.closest('select, button[type=button], [type=checkbox], [type=radio]');
    const chosen = event.type === 'change';
    if (!at || chosen !== at.matches('select')) return;
    event.stopImmediatePropagation();
    if (at.matches('input')) event.preventDefault();
    heard.delete(at);
    heard.set(at, chosen ? at.value : null);
  };
  addEventListener('click', hear, true);
  addEventListener('change', hear, true);
  window.pressedBefore = () => {
    removeEventListener('click', hear, true);
    removeEventListener('change', hear, true);
    delete window.pressedBefore;
    return [...heard];
  };
})()`;
