import { escapeHtml } from '@/core/markup';

const STYLE = 'font-family:Arial,Helvetica,sans-serif;font-size:14px;line-height:20px;margin:0 0 16px';

/** A mail that is somebody's own words and, below them, a fragment in its two forms; words are no markup, and there may be none. */
export function wordsAbove(words: string, below: { html: string; text: string }): { text: string; html: string } {
  const above = words ? `<p style="${STYLE}">${escapeHtml(words).replaceAll('\n', '<br>')}</p>` : '';
  return {
    text: `${words ? `${words}\n\n` : ''}${below.text}\n`,
    html: `<!doctype html><html><head><meta charset="utf-8"></head><body>${above}${below.html}</body></html>`,
  };
}
