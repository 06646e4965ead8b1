export { escapeHtml } from './escape';
export { renderNotice, renderPage, type PageContext } from './page';
export { PAGE_STYLE, PALETTE, TAP_SCRIPT } from './style';
