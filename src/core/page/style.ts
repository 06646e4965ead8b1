/**
 * Colours of the page, chosen so that every pair of text and ground is at least 4.5:1 (WCAG 2.2, 1.4.3);
 * `page.test.ts` measures them.
 */
export const PALETTE = {
  ground: '#F7F4EA',
  sheet: '#FFFDF7',
  ink: '#1E2B28',
  soft: '#51625D',
  band: '#17312C',
  onBand: '#EFE9D6',
  act: '#A8431F',
  onAct: '#FFFFFF',
  hair: '#C9CFC4',
} as const;

const { ground, sheet, ink, soft, band, onBand, act, onAct, hair } = PALETTE;

/** The page's whole style sheet, inlined so that the first view needs one answer. Its hash stands in the content security policy. */
export const PAGE_STYLE = `
@font-face{font-family:Literata;src:url(/fonts/literata.woff2)format("woff2");font-weight:200 900;font-display:swap}
@font-face{font-family:Atkinson;src:url(/fonts/atkinson-next.woff2)format("woff2");font-weight:200 800;font-display:swap}
*{box-sizing:border-box}
html{-webkit-text-size-adjust:100%;background:${ground}}
body{margin:0;font:17px/1.45 Atkinson,system-ui,sans-serif;color:${ink};background:${ground};overflow-wrap:anywhere}
main{max-width:480px;margin:0 auto;background:${sheet};min-height:100vh;min-height:100svh}
header{background:${band};color:${onBand};padding:22px 20px 20px;display:flex;gap:18px;align-items:center}
header img{width:112px;height:112px;border-radius:50%;object-fit:cover;flex:none;border:3px solid ${onBand}}
h1{font:600 29px/1.12 Literata,Georgia,serif;margin:0;letter-spacing:-.01em}
h1 small{font:400 15px Atkinson,system-ui,sans-serif;letter-spacing:0;white-space:nowrap}
header p{margin:5px 0 0}
.acts{padding:18px 20px 2px;display:grid;gap:10px;grid-template-columns:repeat(auto-fit,minmax(120px,1fr))}
.acts a{display:block;text-align:center;text-decoration:none;color:${ink};border:1.5px solid ${band};border-radius:4px;padding:11px 8px;font-weight:600}
.acts .save{grid-column:1/-1;background:${act};border-color:${act};color:${onAct};font-size:20px;font-weight:700;padding:16px 8px}
dl{margin:10px 20px 0;padding:0 0 20px}
dl div{padding:10px 0;border-bottom:1px solid ${hair}}
dl div:last-child{border:0}
dt{color:${soft};font-size:14.5px}
dd{margin:0;white-space:pre-line}
dd a{color:${ink};text-decoration-color:${act};text-underline-offset:3px;display:inline-block;padding:3px 0;margin:-3px 0}
dl .strong dd{font-weight:700;font-size:20px}
dl .quiet dd{color:${soft};font-size:15px}
dl .gap{margin-top:22px}
dd .sms{margin-inline-start:14px;font-size:15px;font-weight:400}
header .logo{display:block;width:auto;max-width:100%;height:40px;border:0;border-radius:0;object-fit:contain;object-position:0 50%;margin:0 0 10px}
.note p{white-space:pre-line}.note .acts{padding:6px 0}
a:focus-visible{outline:3px solid ${act};outline-offset:2px}
.note{padding:40px 24px}
@media print{header,.acts .save{color:#000;background:none}.acts{display:none}}
`.replace(/\n/g, '');

/** What blocks need besides; it stands on pages that have some, and its hash beside the other's. */
export const BLOCK_STYLE = `
section{padding:6px 20px 14px}
section h2{font:600 19px/1.2 Literata,Georgia,serif;margin:12px 0 8px}
section p{margin:0 0 10px;white-space:pre-line}
section ul{list-style:none;margin:0;padding:0}
section img,section video,section iframe{display:block;max-width:100%;height:auto;background:${hair}}
section a{color:${ink};text-decoration-color:${act};text-underline-offset:3px}
figure{margin:0}
a figure{text-decoration:none}
figcaption{padding:6px 0 0;font-size:15px;white-space:pre-line}
figcaption b,.row b{display:block;font-weight:650}
.g{display:flex;gap:12px;overflow-x:auto;scroll-snap-type:x mandatory;padding:0 0 8px!important}
.g li{flex:0 0 82%;scroll-snap-align:start}
.g li:only-child{flex-basis:100%}
.g img{width:100%;aspect-ratio:4/3;object-fit:cover;border-radius:4px}
.p{display:grid;grid-template-columns:1fr 1fr;gap:16px 14px}
.p img{width:100%;aspect-ratio:1;object-fit:cover;border-radius:4px}
.row{text-decoration:none!important;display:flex;gap:14px;align-items:center;padding:11px 0;border-bottom:1px solid ${hair}}
li:last-child>.row{border:0}
a.row b{text-decoration:underline;text-decoration-color:${act}}
.row img{flex:none;width:60px;height:60px;object-fit:cover;border-radius:4px}
.marks img{object-fit:contain;background:none}
.row span{color:${soft};font-size:15px;white-space:pre-line}
section video,section iframe{width:100%;border:0;border-radius:4px}
section video{object-fit:contain;background:${band};aspect-ratio:16/9}
section .broad{aspect-ratio:4/3}section .square{aspect-ratio:1}section .high{aspect-ratio:3/4}section .tall{aspect-ratio:9/16}
section iframe{aspect-ratio:16/9}
.play{display:block;position:relative;min-height:92px;background:${band};border-radius:4px;overflow:hidden;text-decoration:none}
.play span{position:absolute;inset:auto 0 0;padding:9px 14px;background:${band};color:${onBand};font-weight:600}
.play img{width:100%;aspect-ratio:16/9;object-fit:cover}
.now{font-weight:650;margin:0 0 6px}
.week{white-space:pre-line}
.office{padding:8px 0 12px;border-bottom:1px solid ${hair}}
.office:last-child{border:0}
.office h3{font:650 16px Atkinson,system-ui,sans-serif;margin:0 0 2px}
.langs{display:flex;gap:4px 14px;justify-content:flex-end;padding:8px 20px;background:${band};font-size:15px}
.langs a,.langs b{color:${onBand};padding:4px 0;text-underline-offset:3px}
.art{display:block;width:100%;height:auto;background:${hair}}
@media print{section{break-inside:avoid}.langs,video{display:none}}
`.replace(/\n/g, '');

/**
 * Counts taps on lines: one beacon a tap, no cookie, nothing kept; without JavaScript taps are not counted. A player elsewhere is
 * put in place of its picture when the recipient asks for it; without JavaScript it opens by itself.
 * `data-t` of the body is where taps go, `data-l` of a link is the line, `data-p` marks a player.
 */
export const TAP_SCRIPT = `document.addEventListener("click",function(e){var a=e.target.closest("a[data-l]"),p=e.target.closest("a[data-p]"),t=document.body.dataset.t,f;a&&t&&navigator.sendBeacon&&navigator.sendBeacon(t,a.dataset.l);if(p){e.preventDefault();f=document.createElement("iframe");f.src=p.href;f.title=p.textContent;f.allow="fullscreen; encrypted-media";f.referrerPolicy="no-referrer";f.setAttribute("sandbox","allow-scripts allow-same-origin allow-presentation");p.replaceWith(f);f.focus()}})`;
