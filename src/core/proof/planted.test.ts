import { gzipSync } from 'node:zlib';
import {
  composeDraft,
  freshBlock,
  lineOf,
  NAME_LINE,
  NO_PARTS,
  NOWHERE,
  type Block,
  type Composition,
  type PageParts,
} from '@/core/card';
import { FIRST_LOOK } from '@/core/look';
import { renderPage, type PageContext } from '@/core/page';
import { readDetail, type Detail, type Name, type PersonRecord, type Use } from '@/core/record';
import { VERSIONS, writeContactFile, type ContactFileContext, type VcardVersion } from '@/core/vcard';
import { proveContactFile } from './contact-file';
import { firstFailing, outputProofs, type Outputs } from './outputs';
import { CONTRAST, ONE_ROUND_TRIP } from './page';
import { provePictures } from './pictures';
import { proofOf, type Proof } from './proof';
import { provePage } from './prove-page';

/*
 * A proof is as good as what it finds: outputs that were made, each with one thing in it that should not be there or without one that
 * should. Numbers are those that Ofcom reserves for fiction.
 */
let ids = 0;
const detail = (kind: Detail['kind'], value: object, label = '', preferred = false): Detail =>
  ({ kind, id: `d${(ids += 1)}`, label, preferred, ...value }) as Detail;
const text = (kind: 'title' | 'nickname' | 'note' | 'language' | 'said', said: string, further = {}) =>
  detail(kind, { text: said, further });
const phone = (number: string, uses: Use[], label = '', preferred = false) =>
  detail('phone', { number, uses }, label, preferred);
const named = (name: Partial<Name>, details: Detail[]): PersonRecord => ({
  name: { prefix: '', given: 'Ilse', additional: '', family: 'Varrow', suffix: '', written: '', ...name },
  details,
  kept: [],
});
const OUT = { ...NOWHERE, page: true, file: true };
const composed = (
  record: PersonRecord,
  parts: Partial<PageParts> = {},
  language: string | null = null,
): Composition => {
  const lines = [NAME_LINE, ...record.details.map(({ id }) => id)].map((id) => lineOf(id, OUT));
  const made = composeDraft(record, { ...NO_PARTS, ...parts, lines, language }, 'GB');
  if (!made.ok) throw new Error(made.problem.code);
  return made.value;
};
const context = (version: VcardVersion): ContactFileContext => ({
  ...{ version, uid: 'urn:uuid:1b671a64-40d5-491e-99b0-da01ff1f3341', revised: '2026-11-24T09:30:00Z' },
  ...{ source: 'https://cards.example/c/ilse', photo: null },
});
const failed = ({ checks }: Proof) => checks.filter(({ passed }) => !passed).map(({ name }) => name);
const findingOf = ({ checks }: Proof, name: string) => checks.find((check) => check.name === name)?.finding;
const unfolded = (file: string, version: VcardVersion) =>
  file
    .replace(version === '2.1' ? /=\r\n(?!\r\n)/g : '', '')
    .replace(/\r\n /g, '')
    .replace(/(\r\n)+/g, '\r\n');

describe('the proof of a contact file', () => {
  const several = composed(
    named({}, [
      text('title', 'Rope inspector', { de: 'Seilprüferin', fr: 'Inspectrice' }),
      text('nickname', 'Illy', { de: 'Ilschen' }),
      text('language', 'cy'),
      detail('organisation', { name: 'Tarnhope Cableways', units: ['Ropes'], further: { de: 'Seilbahnen Tarnhope' } }),
      phone('+442079460182', ['work', 'text'], 'Desk', true),
      phone('+447700900182', ['mobile', 'work']),
      detail('email', { address: 'ilse@tarnhope.example', uses: ['work'] }),
      text('note', 'Rings back'),
    ]),
    { words: { de: { 'name/wording': 'Ilse von Varrow' }, fr: {} } },
    'en',
  );

  test.each(VERSIONS)('%s in several languages: without any of its parameters or properties it fails', (version) => {
    const prove = (file: string) => proveContactFile(file, several, [], context(version));
    const file = unfolded(writeContactFile(several, context(version)), version);
    expect(failed(prove(file))).toEqual([]);
    const properties = file.split('\r\n').slice(2, -2);
    for (const line of properties) {
      expect([line, failed(prove(file.replace(`${line}\r\n`, '')))[0]]).toEqual([line, 'ticked lines']);
      const [head = ''] = line.split(/:(.*)/s);
      // What tells how a value is written, or nothing of its use, is no matter of the proof.
      for (const [parameter] of head.matchAll(
        /;(?!(?:TYPE=)?(?:INTERNET|VOICE)\b|CHARSET|ENCODING|VALUE)[^;:"]*("[^"]*")?/gi,
      )) {
        const without = file.replace(line, line.replace(parameter, ''));
        expect([line, parameter, failed(prove(without)).includes('ticked lines')]).toEqual([line, parameter, true]);
      }
    }
    if (version === '4.0') {
      expect(file).toMatch(/ALTID/);
      // Two values of one set under sets of their own.
      const [, first] = /(;ALTID=\w+)/.exec(file)!;
      expect(failed(prove(file.replace(first!, ';ALTID=99')))).toContain('ticked lines');
    }
  });

  test('its figures: what was found of how many, what is more by name, bytes, and notes where there is something to note', () => {
    const plain = composed(named({}, [phone('+442079460182', ['work']), text('title', 'Rope inspector')]));
    for (const version of VERSIONS) {
      const file = writeContactFile(plain, context(version));
      const proof = proveContactFile(file, plain, ['Kest'], context(version));
      expect(findingOf(proof, 'ticked lines')).toEqual({ code: 'LINES_READ', read: 3, of: 3, missing: [] });
      expect(findingOf(proof, 'unticked lines')).toEqual({ code: 'UNTICKED', still: 0, of: 1 });
      expect(findingOf(proof, 'size')).toEqual({ code: 'SIZE', bytes: Buffer.byteLength(file), photo: 0 });
      expect(proof.checks.filter(({ note }) => note).map(({ finding }) => finding.code)).toEqual(
        version === '2.1' ? ['OUR_READER'] : [],
      );
      const other = file.replace(/TITLE.*/, 'X-OTHER-THAN-THAT:1');
      const found = proveContactFile(other, plain, [], context(version));
      expect(findingOf(found, 'ticked lines')).toMatchObject({ read: 2, missing: ['Job title'] });
      expect(findingOf(found, 'nothing else')).toEqual({ code: 'NOTHING_ELSE', more: ['X-OTHER-THAN-THAT'] });
      // No contact file, two in one, and one that breaks off.
      for (const broken of [file + file, file.replace(/VCARD/g, 'VEVENT'), 'BEGIN:VCARD\r\nVERSION:3.0\r\n:x', ''])
        expect(failed(proveContactFile(broken, plain, [], context(version)))).toEqual(['read back']);
    }
    const photo = { base64: Buffer.from('\x89PNG four').toString('base64'), mediaType: 'image/png' as const };
    const face = composed(named({}, [detail('photo', { picture: 'a'.repeat(64) })]));
    const shown = { ...context('3.0'), photo };
    const size = findingOf(proveContactFile(writeContactFile(face, shown), face, [], shown), 'size');
    expect(size).toMatchObject({ photo: Buffer.from(photo.base64, 'base64').length });
  });

  test.each(VERSIONS)('%s: an unticked value is found in a note, in a label, and in any spelling', (version) => {
    const plain = composed(named({}, [phone('+442079460182', ['work']), text('note', 'Rings back')]));
    const file = writeContactFile(plain, context(version));
    const leaks = (planted: string, withheld = ['+44 7700 900184']) =>
      failed(proveContactFile(planted, plain, withheld, context(version))).includes('unticked lines');
    expect(leaks(file)).toBe(false);
    expect(leaks(file.replace('Rings back', 'Rings back from +447700-900184'))).toBe(true);
    expect(leaks(file.replace('END:VCARD', 'item1.X-ABLabel:0044\r\nitem1.X-A:+447700900184\r\nEND:VCARD'))).toBe(true);
    // The card's own address may hold its holder's name.
    expect(leaks(file.replace('END:VCARD', ''), ['cards.example/c/ilse'])).toBe(false);
    expect(leaks(file, ['cards.example/c/ilse'])).toBe(false);
  });

  // How a name is spoken is written apart by its parts (X-PHONETIC…: common practice, no published source).
  test.each<[Partial<Name>, string]>([
    [{}, 'ILL-zeh VAR-oh'],
    [{}, 'ILL-zeh'],
    [{ family: '' }, 'ILL-zeh'],
    [{ given: '' }, 'VAR-oh'],
    [{ family: 'von Varrow' }, 'ILL-zeh fon VAR-oh'],
    [{ family: 'von Varrow' }, 'fon VAR-oh'],
    [{ written: 'Varrow Ilse' }, 'VAR-oh ILL-zeh'],
    [{ given: '', written: 'Varrow' }, 'VAR-oh oh'],
    [{ sortAs: 'Warro' }, '  ILL-zeh   VAR-oh '],
  ])('%j said “%s” is proven, and fails with its parts exchanged', (name, said) => {
    const spoken = composed(named(name, [text('said', said), text('said', 'another way')]));
    for (const version of VERSIONS) {
      const file = writeContactFile(spoken, context(version));
      const prove = (each: string) => failed(proveContactFile(each, spoken, [], context(version)));
      expect([version, prove(file)]).toEqual([version, []]);
      const exchanged = file.replace(
        /PHONETIC-(FIRST|LAST)/g,
        (_, part) => `PHONETIC-${part === 'LAST' ? 'FIRST' : 'LAST'}`,
      );
      if (exchanged !== file) expect([version, prove(exchanged)]).not.toEqual([version, []]);
    }
  });

  // What families of address books make of a file: common practice and from memory, as `core/findings` says of each.
  test('cautions are given for what they are about, and for nothing else', () => {
    const place = (street: string) =>
      detail('address', {
        ...{
          street,
          poBox: '',
          extended: '',
          locality: 'Tarnhope',
          region: '',
          postcode: '',
          country: '',
          uses: ['work'],
        },
      });
    const codes = (details: Detail[], over: Partial<ContactFileContext> = {}) => {
      const [of, card] = [{ ...context('3.0'), ...over }, composed(named({}, details))];
      return proveContactFile(writeContactFile(card, of), card, [], of).cautions.map(({ code }) => code);
    };
    expect(codes([phone('+442079460182', ['work']), place('1'), place('2')])).toEqual([]);
    expect(codes([text('note', 'n'.repeat(80)), text('title', 't'.repeat(90))])).toEqual([]);
    expect(codes([text('note', 'n'.repeat(81))])).toEqual(['LONG_NOTE']);
    expect(codes([phone('+442079460182', ['work'], 'Desk')])).toEqual(['NO_LABELS']);
    expect(codes([place('1'), place('2'), place('3')])).toEqual(['TWO_ADDRESSES']);
    expect(codes([text('title', 'Prüferin')])).toEqual(['LETTERS']);
    expect(codes([text('title', 'Prüferin')], { version: '2.1' })).toEqual([]);
    expect(codes([text('title', 'Prüferin')], { version: '4.0' })).toEqual(['NO_VERSION_4']);
    const large = (letters: number) =>
      codes([detail('photo', { picture: 'a'.repeat(64) })], {
        photo: { base64: 'A'.repeat(letters), mediaType: 'image/jpeg' },
      });
    expect([large(270_000), large(270_004)]).toEqual([[], ['PHOTO_LARGE']]);
  });
});

describe('the proof of a page', () => {
  const block: Block = {
    ...freshBlock('about', () => `b${(ids += 1)}`),
    title: 'On the ropes',
    text: 'Every Tuesday',
  } as Block;
  const record = named({}, [phone('+442079460182', ['work']), text('title', 'Rope inspector')]);
  const card = composed(record, { blocks: [block] });
  const frame: PageContext = {
    ...{ contactFile: '/c/x.vcf', taps: '/c/x/tap', photo: null, logo: null, canonical: 'https://cards.example/c/x' },
    language: 'en',
  };
  const html = renderPage(card, frame);
  const prove = (page: string, bytes: number | null = null, withheld: string[] = [], of = card) =>
    provePage(page, bytes, of, withheld);

  test('lines, texts of blocks, weight and colours are each found wanting by themselves, with their figures', () => {
    expect(failed(prove(html, gzipSync(html).length))).toEqual([]);
    expect(prove(html).checks.map(({ name }) => name)).not.toContain('weight');
    expect(findingOf(prove(html), 'ticked lines')).toEqual({ code: 'LINES_READ', read: 3, of: 3, missing: [] });
    expect(failed(prove(html.replace('Every Tuesday', '')))).toEqual(['blocks']);
    expect(findingOf(prove(html.replace('Every Tuesday', '')), 'blocks')).toEqual({
      code: 'BLOCKS_READ',
      read: 1,
      of: 2,
    });
    const [at, over] = [ONE_ROUND_TRIP, ONE_ROUND_TRIP + 1].map((bytes) => prove(html, bytes));
    expect([failed(at!), failed(over!)]).toEqual([[], ['weight']]);
    expect(findingOf(over!, 'weight')).toEqual({ code: 'FITS', bytes: ONE_ROUND_TRIP + 1, room: ONE_ROUND_TRIP });
    const palette = { ...FIRST_LOOK.palette, ink: FIRST_LOOK.palette.sheet };
    const pale = composed(record, { look: { ...FIRST_LOOK, palette } });
    const told = prove(renderPage(pale, frame), null, [], pale);
    expect(failed(told)).toEqual([CONTRAST]);
    const { read, of, worst, needs } = findingOf(told, CONTRAST) as {
      read: number;
      of: number;
      worst: number;
      needs: number;
    };
    expect([read < of, read > 0, worst < needs]).toEqual([true, true, true]);
  });

  test('a word of ours gives nobody away, the same word typed does; a value in the page’s own language is looked for in it', () => {
    // The page says “Save contact” by itself.
    expect(failed(prove(html, null, ['Save contact']))).toEqual([]);
    expect(
      failed(prove(html.replace('Every Tuesday', 'Every Tuesday, save contact!'), null, ['Save contact'])),
    ).toEqual(['unticked lines']);
    expect(findingOf(prove(html, null, ['Rope inspector', 'Kest']), 'unticked lines')).toEqual({
      ...{ code: 'UNTICKED', still: 1, of: 2 },
    });
    const open = readDetail('hours', 'Tue-Sat 8:30-16', {
      id: 'h',
      country: 'GB',
      uses: [],
      label: '',
      zone: 'Europe/London',
    });
    if (!open.ok) throw new Error(open.problem.code);
    const atDesk = composed(named({}, [open.value]));
    for (const language of ['en', 'de']) {
      const page = renderPage(atDesk, { ...frame, language });
      expect([language, failed(prove(page, null, [], atDesk))]).toEqual([language, []]);
      const other = page.replace(`lang="${language}"`, 'lang="ar"');
      expect([language, failed(prove(other, null, [], atDesk))]).toEqual([language, ['ticked lines']]);
    }
  });

  // HTML, 4: what loads by itself; RFC 3986 2.1: encoded addresses.
});

describe('the proof of pictures, and of all outputs of a card', () => {
  const [face, mark] = ['a'.repeat(64), 'b'.repeat(64)];
  const record = named({}, [
    detail('photo', { picture: face }),
    detail('logo', { picture: mark }),
    phone('+442079460182', ['work']),
  ]);
  const pictures = {
    [face]: { page: 'c'.repeat(64), file: Buffer.from('\x89PNG a face').toString('base64') },
    [mark]: { page: 'd'.repeat(64), file: Buffer.from('\x89PNG a mark').toString('base64') },
  };
  const shown = composed(record);
  const without = {
    ...shown,
    lines: shown.lines.map((line) => (line.detail.kind === 'photo' ? { ...line, on: [] } : line)),
  };

  test('a ticked picture that is missing and an unticked one that leaves are told, the latter first', () => {
    const say = (of: Composition, output: string) => provePictures({ shown: of, pictures }, 'page', output).checks[0]!;
    const both = `/photo-${pictures[face]!.page}.jpg /logo-${pictures[mark]!.page}.png`;
    expect(say(shown, both)).toMatchObject({ passed: true, finding: { ticked: 2, unticked: 0, missing: 0 } });
    expect(say(shown, both.slice(0, 75))).toMatchObject({
      passed: false,
      finding: { ticked: 2, unticked: 0, missing: 1 },
    });
    expect(say(without, both)).toMatchObject({ passed: false, finding: { ticked: 1, unticked: 1, missing: 0 } });
    expect(say(without, both.slice(76))).toMatchObject({
      passed: true,
      finding: { ticked: 1, unticked: 0, missing: 0 },
    });
    const inFile = provePictures({ shown, pictures }, 'file', `${pictures[face]!.file} ${pictures[mark]!.page}`);
    expect(inFile.checks[0]).toMatchObject({ passed: false, finding: { missing: 1 } });
    // One that the store has lost is nobody's to miss.
    expect(provePictures({ shown, pictures: {} }, 'page', '').passed).toBe(true);
  });

  const of = (over: Partial<Outputs> = {}): Outputs => ({
    ...{
      person: record,
      lines: [NAME_LINE, ...record.details.map(({ id }) => id)].map((id) => lineOf(id, OUT)),
      words: {},
    },
    ...{ country: 'GB', shown, house: null, placement: '', pictures, now: Date.parse('2026-11-24T09:00:00Z') },
    fileContexts: Object.fromEntries(
      VERSIONS.map((version) => [
        version,
        {
          ...context(version),
          photo: { base64: pictures[face]!.file, mediaType: 'image/png' },
          logo: { base64: pictures[mark]!.file, mediaType: 'image/png' },
        },
      ]),
    ) as Outputs['fileContexts'],
    onPage: { photo: pictures[face]!.page, logo: pictures[mark]!.page },
    compressed: (page) => gzipSync(page).length,
    ...over,
  });

  test('of all outputs the first that fails is told with its channel; colours are judged elsewhere', () => {
    expect(firstFailing(of())).toBeNull();
    expect(firstFailing(of({ onPage: { photo: null, logo: pictures[mark]!.page } }))).toMatchObject({
      ...{ channel: 'page', check: 'pictures' },
    });
    const files = of().fileContexts;
    const lost = { ...files, '4.0': { ...files['4.0'], logo: null } };
    expect(firstFailing(of({ fileContexts: lost }))).toMatchObject({ channel: 'contact file', check: 'pictures' });
    expect(firstFailing(of({ compressed: () => ONE_ROUND_TRIP + 1 }))).toMatchObject({
      channel: 'page',
      check: 'weight',
    });
    const palette = { ...FIRST_LOOK.palette, ink: FIRST_LOOK.palette.sheet };
    const pale = composed(record, { look: { ...FIRST_LOOK, palette } });
    expect(firstFailing(of({ shown: pale }))).toBeNull();
    // A line that nobody ticked, in what goes out all the same.
    const secret = phone('+447700900184', ['home']);
    const person = { ...record, details: [...record.details, secret] };
    const withSecret = composed(person);
    expect(
      firstFailing(of({ person, shown: withSecret, lines: [...of().lines, lineOf(secret.id, NOWHERE)] })),
    ).toMatchObject({ channel: 'page', check: 'unticked lines' });
  });

  test('a card in several languages is proven in each of them, its files up to 3.0 too', () => {
    const WORDS = { words: { de: { 'name/wording': 'Ilse von Varrow' } } };
    const secret = text('note', 'Rings back', { de: 'Ruft nie zurück' });
    const title = (german: string) => ({ ...text('title', 'Rope inspector', { de: german }), id: 'title' });
    const desk = phone('+442079460182', ['work']);
    const worded = (german: string) => {
      const person = named({}, [title('Seilprüferin'), desk, secret]);
      const lines = person.details.map(({ id }) => lineOf(id, id === secret.id ? NOWHERE : OUT));
      const fileContexts = Object.fromEntries(VERSIONS.map((version) => [version, context(version)]));
      return of({
        ...{ person, lines: [lineOf(NAME_LINE, OUT), ...lines], ...WORDS, pictures: {} },
        ...{ shown: composed(named({}, [title(german), desk]), WORDS, 'en'), onPage: { photo: null, logo: null } },
        fileContexts: fileContexts as Outputs['fileContexts'],
      });
    };
    const proofs = (outputs: Outputs) =>
      [...outputProofs(outputs)].flatMap(({ channel, proof }) => (proof.checks.length > 1 ? { channel, proof } : []));
    const good = proofs(worded('Seilprüferin'));
    expect(good.map(({ channel }) => channel)).toEqual([
      ...['page', 'page'],
      // 2.1 and 3.0 in two languages each, 4.0 with both.
      ...Array.from({ length: 5 }, () => 'contact file'),
    ]);
    expect(good.flatMap(({ proof }) => failed(proof))).toEqual([]);
    // What nobody ticked, in the wording of one language: that page and those files fail, the others do not.
    const found = proofs(worded('Ruft nie zurück')).map(({ proof }) => failed(proof));
    expect(found).toEqual([[], ['unticked lines'], [], ['unticked lines'], [], ['unticked lines'], ['unticked lines']]);
  });

  test('what failed comes first, notes last', () => {
    const finding = { code: 'OUR_READER' } as const;
    const checks = [
      { name: 'a', passed: true, finding, note: true as const },
      { name: 'b', passed: true, finding },
      { name: 'c', passed: false, finding },
    ];
    expect(proofOf(checks)).toEqual({ passed: false, checks: [checks[2], checks[1], checks[0]], cautions: [] });
  });
});
