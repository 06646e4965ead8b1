export { escapeHtml } from './escape';
export { renderNotice, renderPage, type PageContext } from './page';
export { dependsOnTime } from './blocks';
export { barHref, placed } from './bar';
export { BLOCK_STYLE, PAGE_STYLE, PALETTE, TAP_SCRIPT } from './style';
