/**
 * Stands before everything else in a document: keeps what is pressed, ticked, chosen and typed before the script of the page has come. Only what does
 * nothing without it: what sends a form or leads elsewhere goes its own way. Pressed twice out of impatience is pressed once. A tick shows
 * when it is done, or it would say something else than the card meanwhile. What browsers put back themselves after a reload is no event,
 * and is not kept.
 */
export const HEARS_EARLY = `(() => {
  const kinds = {
    click: 'button[type=button], [type=checkbox], [type=radio]',
    change: 'select, [type=file]',
    input: 'textarea, input:not([type=checkbox], [type=radio], [type=file])',
  };
  const early = new Map();
  const hear = (event) => {
    const at = event.target instanceof Element && event.target.closest(kinds[event.type]);
    if (!at) return;
    event.stopImmediatePropagation();
    if (event.type === 'click' && at.matches('input')) event.preventDefault();
    early.delete(at);
    // While a press is heard, a box already says what is wanted of it.
    early.set(at, { at, type: event.type, value: at.value, checked: at.checked });
  };
  for (const type in kinds) addEventListener(type, hear, true);
  window.heardEarly = () => {
    for (const type in kinds) removeEventListener(type, hear, true);
    delete window.heardEarly;
    return [...early.values()];
  };
})()`;
