import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { FAMILY_NAMES, fontFile, RANGES, SUBSETS, WEIGHTS } from '@/core/look';
import { trueTypeFile, webFontFile } from '@/server/fonts';

/** Of each code point that a file has, its advance and the digest of its outline, as fontTools reads them. */
const lettersIn = (asked: [file: string, range: string][]): Record<string, [number, string]>[] =>
  JSON.parse(
    execFileSync('/usr/bin/python3', ['tests/fixtures/font-letters.py'], {
      input: JSON.stringify(
        asked.map(([file, range]) => [
          file,
          range.split(',').map((part) => {
            const [first, last = first] = part.slice(2).split('-');
            return [parseInt(first!, 16), parseInt(last!, 16)];
          }),
        ]),
      ),
      encoding: 'utf8',
      maxBuffer: 1e8,
    }),
  ) as Record<string, [number, string]>[];

test('page, picture and print set the same letters: each subset has those of its range that the TrueType file has, drawn alike (fontTools)', () => {
  const pairs = FAMILY_NAMES.flatMap((family) =>
    WEIGHTS.flatMap((weight) =>
      SUBSETS.flatMap((subset) => {
        const web = webFontFile(fontFile(family, weight, subset));
        return web ? [{ subset, web, whole: trueTypeFile(family, weight) }] : [];
      }),
    ),
  );
  expect(pairs).toHaveLength(FAMILY_NAMES.length * WEIGHTS.length * 2 + WEIGHTS.length);
  const found = lettersIn(
    pairs.flatMap(({ subset, web, whole }) => [
      [web, RANGES[subset]],
      [whole, RANGES[subset]],
    ]),
  );
  pairs.forEach(({ web }, at) => {
    const [ofPage, ofPicture] = [found[2 * at]!, found[2 * at + 1]!];
    expect(Object.keys(ofPage).length).toBeGreaterThan(60);
    expect({ web, letters: ofPage }).toEqual({ web, letters: ofPicture });
  });
});

test('the shipped files are those that the script made (SHA256SUMS), and no other name leads to a file', () => {
  const lines = readFileSync('assets/fonts/SHA256SUMS', 'utf8').trim().split('\n');
  for (const line of lines) {
    const [sum, file] = line.split('  ');
    expect([
      file,
      createHash('sha256')
        .update(readFileSync(`assets/fonts/${file}`))
        .digest('hex'),
    ]).toEqual([file, sum]);
  }
  for (const name of ['../SHA256SUMS', 'literata/plain.ttf', 'lora-plain-arabic.woff2', '__proto__', ''])
    expect([name, webFontFile(name)]).toEqual([name, null]);
});
