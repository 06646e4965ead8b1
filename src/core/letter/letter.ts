import { escapeHtml } from '@/core/markup';

/** What a letter of ours says: paragraphs, and one thing to do, which stands apart. Nothing of it is markup. */
export type LetterParts = {
  /** A BCP 47 tag; English where none is said. */
  language?: string;
  subject: string;
  greeting: string;
  paragraphs: string[];
  /** What is to be done, and where; `https` or `http`. */
  act: { word: string; address: string } | null;
  /** What stands below, smaller: why it was sent, and what to do if it was not asked for. */
  below: string[];
  signed: string;
};

export type WrittenLetter = { subject: string; text: string; html: string };

const INK = '#26221f';
const QUIET = '#5f5750';
const FONT = "font-family:Georgia,'Times New Roman',serif";
const paragraph = (text: string, style: string) => `<p style="margin:0 0 16px;${style}">${escapeHtml(text)}</p>`;

/**
 * A letter as text and as HTML, which say the same. The HTML is a table with its style on each element, since mail programs that render with a word
 * processor's engine know no other layout (common practice, no published source); it names no picture and no address but the one to go to.
 */
export function writeLetter({
  language = 'en',
  subject,
  greeting,
  paragraphs,
  act,
  below,
  signed,
}: LetterParts): WrittenLetter {
  const text = [
    greeting,
    ...paragraphs,
    ...(act ? [`${act.word}:\n${act.address}`] : []),
    signed,
    ...(below.length > 0 ? ['--', ...below] : []),
  ].join('\n\n');
  const body = `font-size:16px;line-height:24px;color:${INK}`;
  const small = `font-size:13px;line-height:19px;color:${QUIET}`;
  const html = [
    `<!doctype html><html lang="${language}"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width">`,
    `<meta name="color-scheme" content="light"><title>${escapeHtml(subject)}</title></head>`,
    '<body style="margin:0;padding:0;background-color:#f6f2ec">',
    '<table role="presentation" width="100%" cellspacing="0" cellpadding="0" border="0" style="background-color:#f6f2ec"><tr><td align="center" style="padding:32px 16px">',
    '<table role="presentation" width="520" cellspacing="0" cellpadding="0" border="0" style="width:100%;max-width:520px;background-color:#ffffff"><tr>',
    `<td align="left" style="padding:32px;text-align:left;${FONT}">`,
    ...[greeting, ...paragraphs].map((each) => paragraph(each, body)),
    ...(act
      ? [
          `<p style="margin:8px 0 24px;${body}"><a href="${escapeHtml(act.address)}" style="color:#5b2a6e;font-weight:bold">${escapeHtml(act.word)}</a></p>`,
          // Whose program shows no links copies it.
          paragraph(act.address, `${small};word-break:break-all`),
        ]
      : []),
    paragraph(signed, body),
    ...below.map((each) => paragraph(each, small)),
    '</td></tr></table></td></tr></table></body></html>',
  ].join('');
  return { subject, text: `${text}\n`, html };
}
