/** Contacts in the manner of several exporting programs, in all three versions, a stream of text; made up, the same for the same number. */
export function* variedContacts(count: number): Generator<string> {
  let state = 7;
  const chance = () => (state = (state * 48_271) % 2_147_483_647) / 2_147_483_647;
  const pick = <T>(list: readonly T[]): T => list[Math.floor(chance() * list.length)]!;
  const GIVEN = ['Ilse', 'Jörg', 'Maud', 'Inês', 'Åsa', 'Tadeusz', 'Nour', 'Wei', 'Renske', 'Søren'] as const;
  const FAMILY = ['Varrow', 'Müller-Lind', 'van der Aa', 'Thrale', 'Aldercott', 'Keld', 'Łoś', 'Ó Briain'] as const;
  const photo = Array.from({ length: 1_200 }, () =>
    pick([...'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/']),
  ).join('');
  const folded = (line: string) => line.replace(/(.{74})(?=.)/gu, '$1\r\n ');
  for (let at = 0; at < count; at += 1) {
    const given = pick(GIVEN);
    const family = pick(FAMILY);
    const number = String(at % 1_000).padStart(3, '0');
    const mail = `p${at}@tarnhope.example`;
    const note = `Met on the stand\\, wants the rope of ${at % 40} mm\\; call back.\\nSecond line ${'with more text '.repeat(at % 5)}`;
    const kind = at % 4;
    const lines =
      kind === 0
        ? [
            'VERSION:2.1',
            `N:${family.replace(/[^\x20-\x7e]/g, 'x')};${given.replace(/[^\x20-\x7e]/g, 'x')}`,
            `FN;CHARSET=UTF-8;ENCODING=QUOTED-PRINTABLE:${given.replace(/[^\x20-\x7e]/gu, '=C3=A4')}=20${family.replace(/[^\x20-\x7e]/gu, '=C3=B6')}`,
            `TEL;TYPE=CELL,PREF:+447700900${number}`,
            `TEL;TYPE=WORK,VOICE:020 7946 0${number}`,
            `EMAIL;TYPE=INTERNET:${mail}`,
            `ADR;TYPE=WORK:;;Wharf Road ${at};Brackwater;;BW1 1AA;United Kingdom`,
          ]
        : [
            `VERSION:${kind === 1 ? '4.0' : '3.0'}`,
            `N:${family};${given};;${chance() < 0.2 ? 'Dr.' : ''};`,
            `FN:${given} ${family}`,
            kind === 1
              ? `TEL;VALUE=uri;TYPE="cell,voice";PREF=1:tel:+447700900${number}`
              : `TEL;TYPE=CELL,VOICE,PREF:+44 7700 900${number}`,
            `TEL;TYPE=WORK:+44 20 7946 0${number}`,
            `EMAIL;TYPE=INTERNET;TYPE=WORK:${mail}`,
            `item1.URL:https://tarnhope.example/people/${at}`,
            'item1.X-ABLabel:_$!<HomePage>!$_',
            `ORG:Tarnhope Cableways;Ropes\\, bogies and ${at % 7}`,
            `TITLE:Rope inspector\\, section ${at % 9}`,
            `ADR;TYPE=WORK:;;Wharf Road ${at};Brackwater;;BW1 1AA;United Kingdom`,
            folded(`NOTE:${note}`),
            `BDAY:19${50 + (at % 50)}-0${1 + (at % 9)}-1${at % 10}`,
            `CATEGORIES:Fair,Ropes`,
            `X-CUSTOM-FIELD;X-P=1:value ${at}`,
            ...(at % 10 === 3 ? [folded(`PHOTO;ENCODING=b;TYPE=JPEG:${photo}`)] : []),
          ];
    yield `BEGIN:VCARD\r\n${lines.join('\r\n')}\r\nUID:urn:uuid:${String(at).padStart(8, '0')}-0000-4000-8000-000000000000\r\nEND:VCARD\r\n`;
  }
}
