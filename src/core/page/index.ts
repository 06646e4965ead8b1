export { LEGAL, type Legal, type LegalLinks } from './legal';
export { escapeHtml } from './escape';
export { NOTICE_LOOK, renderNotice, renderPage, stylesOf, type PageContext } from './page';
export { dependsOnTime } from './blocks';
export { barHref, placed } from './bar';
export { BLOCK_STYLE, PAGE_STYLE, TAP_SCRIPT } from './style';
