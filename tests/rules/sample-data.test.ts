import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';

/*
 * Nobody real stands in the samples: whoever tries what a demo shows must not write to, call or visit a stranger. What is a standard's own
 * example, read by its own text, is named here.
 */
const FILES = execFileSync('git', ['ls-files', '-z', '*.ts', '*.tsx', '*.md', '*.vcf', '*.py', '*.vtt', '*.scss'], {
  encoding: 'utf8',
})
  .split('\0')
  .filter((file) => file && !file.startsWith('tests/rules/sample-data'));
/** What must be found, so that nobody trusts a pattern that finds nothing. */
const PLANTED = 'Ann: ann@some-firm.com, http://some-firm.com/, +44 20 7123 4567, 8.8.121.9';
const TEXTS = [['planted', PLANTED] as const, ...FILES.map((file) => [file, readFileSync(file, 'utf8')] as const)];

/** Finds in all files what a pattern takes for real and nothing allows. */
function strangers(pattern: RegExp, read: (found: RegExpMatchArray) => string, allowed: RegExp): string[] {
  return TEXTS.flatMap(([file, text]) =>
    [...text.matchAll(pattern)].map(read).flatMap((each) => (each && !allowed.test(each) ? `${file}: ${each}` : [])),
  );
}

// RFC 2606, RFC 6761: example, test, invalid, localhost; RFC 6762: local; RFC 8375: home.arpa.
const RESERVED = String.raw`(^|\.)(example|test|invalid|localhost|local|home\.arpa)$|^(example\.(com|net|org))$`;

test('mail addresses and links of samples lie in domains that nobody can have (RFC 2606, 6761, 6762, 8375), or are of a standard', () => {
  expect(FILES.length).toBeGreaterThan(1_000);
  // Authors and examples of RFC 2426 and RFC 6350, as their texts have them.
  const mails = new RegExp(`${RESERVED}|^(viagenie\\.ca|netscape\\.com|earthlink\\.net|lotus\\.com)$`, 'i');
  expect(
    strangers(/[\w.%+-]+@((?:[a-z0-9-]+\.)+[a-z]{2,})(?![\w.-]*(?:png|jpg|svg))/gi, ([, host]) => host!, mails).filter(
      // A picture at twice its size is no address.
      (each) => !/: [23]x\.(png|jpg)$/.test(each),
    ),
  ).toEqual(['planted: some-firm.com']);
  const links = new RegExp(
    [
      RESERVED,
      // Names of vocabularies, which nothing loads, and documents that are cited.
      String.raw`^(www\.w3\.org|w3c\.github\.io|schema\.org|docs\.python\.org|www\.viagenie\.ca|nomis80\.org|home\.earthlink\.net|www\.nfc\.com)$`,
      // Without a dot a name is of one's own network, and so are numbers.
      String.raw`^[a-z0-9-]+$|^[\d.]+$`,
    ].join('|'),
    'i',
  );
  expect(
    strangers(/https?:\/\/((?:[a-z0-9-]+\.)+[a-z]{2,})(?=[/:?#"'`\s)\]}>,;]|$)/gi, ([, host]) => host!, links),
  ).toEqual(['planted: some-firm.com']);
});

test('telephone numbers of samples are those that are kept for fiction, or of a standard', () => {
  const FICTION = [
    // Ofcom, telephone numbers for use in TV and radio drama (ranges from memory).
    '44(0)?(20794[67]0?|207946|1632960|7700900|3069990|1134960|1144960|1154960|1164960|1174960|1184960|1214960|1314960|1414960|1514960|1614960|1914980|2896496|2920180)',
    // North American Numbering Plan: 555-0100 to 555-0199.
    String.raw`1\d{3}55501\d\d`,
    // Bundesnetzagentur, numbers for use in media (from memory).
    '49(0)?(3023125|17139200|6990009|4066969|2214710|8999998)',
    // Examples of RFC 2426, RFC 3966, RFC 6350 and ITU-T E.123, as their texts have them.
    '1418656925[04]|14186569254|14182626501|14159373419|14155284164|19196769564|19196769515|12015550123|1201|358555',
  ];
  const allowed = new RegExp(`^(${FICTION.join('|')})`);
  const numbers = strangers(
    /(?<![\w.+-])\+(\d[\d ().\u00a0-]{8,17}\d)(?![\w])/g,
    ([, digits]) => digits!.replace(/\D/g, ''),
    allowed,
  );
  expect(numbers.filter((each) => /: [1-9]\d{9,14}$/.test(each))).toEqual(['planted: 442071234567']);
});

test('addresses of networks in samples are those for documentation (RFC 5737, RFC 3849), one’s own or nobody’s', () => {
  // RFC 1918, RFC 6598, RFC 3927, RFC 1122: own networks, carriers’, link-local, loopback; 224 and above are multicast or kept back.
  const OWN =
    /^(192\.0\.2|198\.51\.100|203\.0\.113|10|127|192\.168|172\.(1[5-9]|2\d|3[0-2])|169\.25[345]|100\.(6[3-9]|[7-9]\d|1[0-2]\d)|0|22[4-9]|2[345]\d|198\.1[789]|198\.2\d|192\.0\.0|192\.88\.99)\./;
  const found = strangers(
    /(?<![\w.§/-])((?:25[0-5]|2[0-4]\d|1?\d?\d)(?:\.(?:25[0-5]|2[0-4]\d|1?\d?\d)){3})(?![\w.]|-\d)/g,
    ([, address]) => address!,
    OWN,
  );
  // Versions and sections of standards look like addresses of four small numbers.
  expect(found.filter((each) => !/: \d{1,2}(\.\d{1,2}){3}$/.test(each))).toEqual(['planted: 8.8.121.9']);
});
