/**
 * The page's style sheet, inlined so that the first view needs one answer. Colours, type and places come from the card's look
 * ({@link ./look-style}) as variables: sheet, ink, quiet ink, hairline, ground, band, on band, act, on act. Type has four sizes (name, `m`,
 * `f`, `k`): a browser looks up each size of each face before it can lay out.
 */
export const PAGE_STYLE = `
*{box-sizing:border-box}
html{-webkit-text-size-adjust:100%;background:var(--g);--k:calc(var(--f)*.9);--m:calc(var(--f)*1.2)}
body{margin:0;font:var(--f)/1.45 var(--X);color:var(--i);background:linear-gradient(var(--s),var(--s)) 50%/min(100%,var(--w)) 100% no-repeat var(--g);min-height:100vh;min-height:100svh;overflow-wrap:anywhere}
main,.first{max-width:var(--w);margin:0 auto;background:var(--s)}
main{display:grid}
.name,.role,.firm,.alarm,.photo,.logo{position:relative}
.ground{min-height:100%}
.band,.band a{color:var(--ob)}
h1{font:calc(var(--f)*var(--n))/1.12 var(--T);margin:0;letter-spacing:-.01em;hyphens:auto}
h1 small{font:var(--k) var(--X);letter-spacing:0;white-space:nowrap;display:var(--sm)}
.role p,.firm p{margin:0}
[dir=rtl] :is(h1,p,dd,figcaption,b,.row span){unicode-bidi:plaintext;text-align:match-parent}
.photo img{display:block;width:100%;max-width:var(--p);height:auto;aspect-ratio:1;border-radius:var(--pr);object-fit:cover}
.photo.fills img{max-width:none;height:100%;border-radius:0;object-position:50% 25%;inset:0}
.logo img{display:block;max-width:100%;height:40px;width:auto;object-fit:contain}
.centre{text-align:center}.centre img{margin-inline:auto}.end{text-align:end}.end img{margin-inline-start:auto}
.alarm p{margin:0}.alarm a{font:1.75em/1.2 var(--T);text-decoration-thickness:2px;text-underline-offset:4px;color:inherit}
.acts nav{display:flex;flex-wrap:wrap;gap:10px}
.acts a{display:block;flex:1 1 120px;text-align:center;text-decoration:none;color:var(--i);border:1.5px solid var(--i);border-radius:var(--r);padding:11px 8px;font-family:var(--T)}
.acts .save{flex-basis:100%;background:var(--a);border-color:var(--e);color:var(--oa);font-size:var(--m);padding:16px 8px}
dl{margin:0}
dl div{padding:10px 0;border-bottom:var(--l)}
dl div:last-child{border:0}
dt{color:var(--q);font-size:var(--k)}
dd{margin:0;white-space:pre-line}
dd a{color:var(--i);text-decoration-color:var(--e);text-underline-offset:3px;display:inline-block;padding:3px 0;margin:-3px 0}
dl .strong dd{font-family:var(--T);font-size:var(--m)}
dl .quiet dd{color:var(--q);font-size:var(--k)}
dl .gap{margin-top:22px}
dd .sms{margin-inline-start:14px;font:var(--k) var(--X)}
a:focus-visible{outline:3px solid var(--e);outline-offset:2px}.band a:focus-visible{outline-color:var(--ob)}
.legal{max-width:var(--w);margin:0 auto;padding:14px 20px 26px;font-size:var(--k);display:flex;flex-wrap:wrap;gap:4px 18px}.legal a{color:var(--q);padding:3px 0}
.on{max-width:var(--w);margin:0 auto;padding:16px 20px 8px;background:var(--s);display:flex;flex-wrap:wrap;gap:6px 22px;align-items:baseline}.on a,.on summary{color:var(--q);padding:4px 0;cursor:pointer;text-decoration:underline;text-decoration-color:var(--h);text-underline-offset:4px}.on summary{list-style:none}.on details[open]{flex-basis:100%}.on img{display:block;max-width:100%;height:auto;margin:8px 0;background:#fff}
.note{padding:40px 24px}.note p{white-space:pre-line}.note .acts{padding:6px 0}
@media print{main{display:block}.ground,.acts,.langs,.sms,.on{display:none}html,body,main,.first{background:none}*{color:#000!important}}
`.replace(/\n/g, '');

/** What blocks need besides; it stands on pages that have some, and its hash beside the other's. */
export const BLOCK_STYLE = `
section{padding:6px 0 12px}
.lead section{padding:0}
section .h{font:var(--m)/1.2 var(--T);margin:12px 0 8px}
section p:not(.h){margin:0 0 10px;white-space:pre-line}
section ul{list-style:none;margin:0;padding:0}
section img,section video,section iframe{display:block;max-width:100%;height:auto;background:var(--h)}
section a{color:inherit;text-decoration-color:var(--e);text-underline-offset:3px}
figure{margin:0}
section picture{display:contents}
a figure{text-decoration:none}
figcaption{padding:6px 0 0;font-size:var(--k);white-space:pre-line}
figcaption b,.row b{display:block;font-family:var(--T)}
.g{display:flex;gap:12px;overflow-x:auto;scroll-snap-type:x mandatory;padding:0 0 8px!important}
.g li{flex:0 0 82%;scroll-snap-align:start}
.g li:only-child{flex-basis:100%}
.g img{width:100%;aspect-ratio:4/3;object-fit:cover;border-radius:var(--r)}
.p{display:grid;grid-template-columns:1fr 1fr;gap:16px 14px}
.p img{width:100%;aspect-ratio:1;object-fit:cover;border-radius:var(--r)}
.row{text-decoration:none!important;display:flex;gap:14px;align-items:center;padding:11px 0;border-bottom:var(--l)}
li:last-child>.row{border:0}
a.row b{text-decoration:underline;text-decoration-color:var(--e)}
.row img{flex:none;width:60px;height:60px;object-fit:cover;border-radius:var(--r)}
.marks img{object-fit:contain;background:none}
.row span{color:var(--q);font-size:var(--k);white-space:pre-line}
section video,section iframe{width:100%;border:0;border-radius:var(--r)}
section video{object-fit:contain;background:var(--b);aspect-ratio:16/9}
section .broad{aspect-ratio:4/3}section .square{aspect-ratio:1}section .high{aspect-ratio:3/4}section .tall{aspect-ratio:9/16}
section iframe{aspect-ratio:16/9}
.play{display:block;position:relative;min-height:92px;background:var(--b);border-radius:var(--r);overflow:hidden;text-decoration:none}
.play span{position:absolute;inset:auto 0 0;padding:9px 14px;background:var(--b);color:var(--ob);font-family:var(--T)}
.play img{width:100%;aspect-ratio:16/9;object-fit:cover}
.now{font-family:var(--T);margin:0 0 6px}
.week{white-space:pre-line}
.office{padding:8px 0 12px;border-bottom:var(--l)}
.office:last-child{border:0}
.office h3{font:1em var(--T);margin:0 0 2px}
.langs{display:flex;gap:4px 14px;justify-content:flex-end;padding:8px 20px;background:var(--b);font-size:var(--k);max-width:var(--w);margin:0 auto}
.langs a,.langs b{color:var(--ob);padding:4px 0;text-underline-offset:3px}
.art{display:block;width:100%;height:auto;background:var(--h)}
.first .acts{padding:18px 20px 2px}.first.block{padding:14px 20px 2px}
.band .row span,.band figcaption{color:inherit}
.first .art{max-width:520px;margin:0 auto}
@media print{section{break-inside:avoid}video,.play{display:none}.g{flex-wrap:wrap;overflow:visible}.g li{flex:0 0 47%}}
`.replace(/\n/g, '');

/**
 * Counts taps on lines: one beacon a tap, no cookie, nothing kept; without JavaScript taps are not counted. A player elsewhere is
 * put in place of its picture when the recipient asks for it; without JavaScript it opens by itself. A copy of the card is kept
 * for when there is no network. `data-t` of the body is where taps go, `data-w` the worker that keeps the copy, `data-l` of a link
 * the line, `data-p` marks a player, `data-s` what the phone itself may hand on.
 */
export const TAP_SCRIPT = `(function(d,n){d.addEventListener("click",function(e){var c=function(q){return e.target.closest("a[data-"+q+"]")},a=c("l"),p=c("p"),t=d.body.dataset.t,f;a&&t&&n.sendBeacon&&n.sendBeacon(t,a.dataset.l);if(c("s")&&n.share){e.preventDefault();n.share({title:d.title,url:d.querySelector("[rel=canonical]").href}).catch(function(){})}if(p){e.preventDefault();f=d.createElement("iframe");f.src=p.href;f.title=p.textContent;f.allow="fullscreen; encrypted-media";f.referrerPolicy="no-referrer";f.setAttribute("sandbox","allow-scripts allow-same-origin allow-presentation");p.replaceWith(f);f.focus()}});var w=d.body.dataset.w;w&&n.serviceWorker&&addEventListener("load",function(){n.serviceWorker.register(w,{scope:location.pathname}).catch(function(){})})})(document,navigator)`;

/**
 * A page's type before its first layout. The letters that it brings along are a face of the style sheet, which browsers take apart a moment
 * too late: out of their bytes a face is there at once. The others' files are asked for as `font-display: optional` has it, used where
 * they come before the first paint and never moving anything after; over a line that is known to be slow (Network Information API) nothing
 * is asked for. `data-f` of the head names them. Without JavaScript a page stands in the phone's own type.
 */
export const TYPE_SCRIPT = `(function(d,c,m){var h=d.head,w="1 1000",t=[].slice.call(d.querySelectorAll("style")).pop().textContent;c&&(c.saveData||c.rtt>=150)||JSON.parse(h.dataset.f).forEach(function(x){var l=d.createElement("link");l.rel="preload";l.as="font";l.type="font/woff2";l.crossOrigin="";l.href=x[1];d.head.append(l);d.fonts.add(new FontFace(x[0],"url("+x[1]+")",{unicodeRange:x[2],weight:w,display:"optional"}))});(m=/woff2;base64,([^)]+)\\)[^}]*range:([^}]+)}/.exec(t))&&d.fonts.add(new FontFace("T",Uint8Array.from(atob(m[1]),function(x){return x.charCodeAt(0)}),{unicodeRange:m[2],weight:w}))})(document,navigator.connection)`;
