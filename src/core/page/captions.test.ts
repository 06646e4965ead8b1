import { captionsProblem } from './captions';

const cue = (from: string, until: string, more = '') => `${from} --> ${until}${more}`;
const FIRST = cue('00:00.000', '00:02.500');

/* W3C WebVTT: 4.1 file structure, 4.2 cues and their times, 4.3 settings. The line is that at which it stops being one. */
test.each<[string, string, number | null]>([
  ['the shortest there is', `WEBVTT\n\n${FIRST}\nUp`, null],
  ['with a byte order mark and words after the signature', `\ufeffWEBVTT - the cable way\n\n${FIRST}\nUp\n`, null],
  [
    'with lines that end as on other systems',
    `WEBVTT\r\n\r\n${FIRST}\r\nUp\r\n\r\n${cue('00:03.000', '00:04.000')}\rDown`,
    null,
  ],
  [
    'with notes, styles and regions between',
    `WEBVTT\n\nNOTE of the cutter\nmore\n\nSTYLE\n::cue { color: red }\n\nREGION\nid:a\n\n${FIRST}\nUp`,
    null,
  ],
  [
    'with names of cues and settings',
    `WEBVTT\n\nfirst\n${cue('00:00:00.000', '100:00:02.500', ' align:start  position:10%,line-left')}\nUp`,
    null,
  ],
  ['with a header of several lines', `WEBVTT\nKind: captions\nLanguage: de\n\n${FIRST}\nAuf`, null],
  ['another file', '1\n00:00:00,000 --> 00:00:02,500\nUp', 1],
  ['a word that only begins like the signature', `WEBVTTX\n\n${FIRST}\nUp`, 1],
  ['nothing', '', 1],
  ['without a cue', 'WEBVTT\n\nNOTE nothing here\n', 4],
  ['a cue within the header', `WEBVTT\n${FIRST}\nUp`, 2],
  ['times with a comma, as older captions have them', 'WEBVTT\n\n00:00:00,000 --> 00:00:02,500\nUp', 3],
  ['ending before it begins', `WEBVTT\n\n${cue('00:02.000', '00:01.000')}\nUp`, 3],
  ['of no length', `WEBVTT\n\n${cue('00:02.000', '00:02.000')}\nUp`, 3],
  ['sixty seconds', `WEBVTT\n\n${cue('00:60.000', '01:01.000')}\nUp`, 3],
  ['an arrow without its blanks', 'WEBVTT\n\n00:00.000-->00:02.500\nUp', 3],
  ['an arrow within the words', `WEBVTT\n\n${FIRST}\nUp --> down`, 4],
  ['a name without times', `WEBVTT\n\n${FIRST}\nUp\n\nsecond\nDown`, 7],
  ['a setting without a value', `WEBVTT\n\n${FIRST} align\nUp`, 3],
])('captions: %s', (_, text, line) => {
  expect(captionsProblem(text)).toBe(line);
});

test('the worst of lines is read in a moment', () => {
  const began = performance.now();
  for (const line of [
    `${FIRST}${' a:b:c:d'.repeat(5_000)} x`,
    `${FIRST} ${':'.repeat(100_000)}`,
    '0'.repeat(100_000),
    `${FIRST}${' '.repeat(100_000)}x`,
  ])
    expect(captionsProblem(`WEBVTT\n\n${line}\nUp`)).toBe(line.startsWith('0000') ? 4 : 3);
  expect(performance.now() - began).toBeLessThan(5_000);
});
