export { LEGAL, type Legal, type LegalLinks } from './legal';
export { escapeHtml } from './escape';
export { noticeHouse, noticeStyles, renderNotice, type NoticeHouse } from './notice';
export { renderPage, stylesOf, type PageContext } from './page';
export { firstScreenOf, type FirstScreenWants } from './first-screen';
export type { FirstScreen } from './preview';
export { dependsOnTime } from './blocks';
export { barHref, placed } from './bar';
export { BLOCK_STYLE, PAGE_STYLE, TAP_SCRIPT, TYPE_SCRIPT } from './style';
