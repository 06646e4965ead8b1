const TIME = String.raw`(?:\d{2,}:)?[0-5]\d:[0-5]\d\.\d{3}`;
const CUE = new RegExp(`^(${TIME})[ \\t]+-->[ \\t]+(${TIME})(?:[ \\t]+[^\\s:]+:\\S+)*[ \\t]*$`);

const seconds = (time: string): number =>
  time
    .split(':')
    .map(Number)
    .reduce((sum, part) => sum * 60 + part, 0);

/**
 * The line (from 1) at which captions stop being WebVTT, or null where they are. Asked for are the signature, a blank line after
 * the header, and of every cue two times of which the second is later (W3C WebVTT 4.1 to 4.3). Captions without a cue are none.
 */
export function captionsProblem(text: string): number | null {
  const lines = text.replace(/^\ufeff/, '').split(/\r\n|\r|\n/);
  if (!/^WEBVTT(?:[ \t].*)?$/.test(lines[0] ?? '')) return 1;
  let cues = 0;
  let at = 1;
  // The header goes on to the first blank line.
  while (at < lines.length && lines[at] !== '') {
    if (lines[at]!.includes('-->')) return at + 1;
    at += 1;
  }
  while (at < lines.length) {
    while (lines[at] === '') at += 1;
    if (at >= lines.length) break;
    const first = lines[at]!;
    if (/^(NOTE|STYLE|REGION)(?:[ \t]|$)/.test(first)) {
      while (at < lines.length && lines[at] !== '') at += 1;
      continue;
    }
    // A cue's own name may stand before its times.
    if (!first.includes('-->')) at += 1;
    const times = CUE.exec(lines[at] ?? '');
    if (!times || seconds(times[2]!) <= seconds(times[1]!)) return at + 1;
    cues += 1;
    at += 1;
    while (at < lines.length && lines[at] !== '') {
      if (lines[at]!.includes('-->')) return at + 1;
      at += 1;
    }
  }
  return cues > 0 ? null : lines.length;
}
