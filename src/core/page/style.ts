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

/**
 * Counts taps on lines: one beacon a tap, no cookie, nothing kept. Without JavaScript taps are not counted.
 * `data-t` of the body is where taps go, `data-l` of a link is the line.
 */
export const TAP_SCRIPT = `document.addEventListener("click",function(e){var a=e.target.closest("a[data-l]");a&&navigator.sendBeacon&&navigator.sendBeacon(document.body.dataset.t,a.dataset.l)})`;
