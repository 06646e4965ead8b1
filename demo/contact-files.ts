import { DEPOTS, EMERGENCY_LINE, VALLEYS, type DemoPerson } from './people';

/** A photo property, folded as programs fold it. */
const photo = (jpeg: Buffer): string =>
  `PHOTO;ENCODING=b;TYPE=JPEG:${jpeg.toString('base64')}`.replace(/(.{74})(?=.)/g, '$1\r\n ');

const slug = (text: string) => text.toLowerCase().replace(/[^a-z]+/g, '-');

/** A contact file as a firm's mail program would export it: vCard 3.0 with several phones and a photo. */
export function tarnhopeContact(person: DemoPerson, portrait: Buffer): string {
  const { street, town, postcode, office } = VALLEYS[person.valley];
  const phone = person.phone;
  const own = DEPOTS[person.valley] === undefined;
  return [
    'BEGIN:VCARD',
    'VERSION:3.0',
    `N:${person.family};${person.given};;;`,
    `FN:${person.given} ${person.family}`,
    'ORG:Tarnhope Cableways',
    `TITLE:${person.title}`,
    `item1.TEL;TYPE=WORK,VOICE,PREF:${phone}`,
    `item1.X-ABLabel:${person.title.includes('Parts') ? 'Parts desk' : 'Direct line'}`,
    person.mobile && `TEL;TYPE=CELL,WORK:${person.mobile}`,
    person.privateMobile && `TEL;TYPE=CELL,HOME:${person.privateMobile}`,
    own && `item2.TEL;TYPE=WORK,VOICE:${office}`,
    own && `item2.X-ABLabel:${town} depot`,
    person.helmet && `item3.TEL;TYPE=WORK,VOICE:${EMERGENCY_LINE}`,
    person.helmet && 'item3.X-ABLabel:Emergency\\, day and night',
    `EMAIL;TYPE=INTERNET,WORK:${slug(person.given)}.${slug(person.family)}@tarnhope.example`,
    'URL:https://tarnhope.example/',
    person.licence && 'item4.URL:https://tarnhope.example/visit',
    person.licence && 'item4.X-ABLabel:Book a visit',
    own && `ADR;TYPE=WORK:;;${street};${town};;${postcode};United Kingdom`,
    person.licence && `NOTE:Met at the yearly inspection.`,
    photo(portrait),
    'END:VCARD',
    '',
  ]
    .filter((line) => typeof line === 'string')
    .join('\r\n');
}

/** Odile Brandreth's contact as a phone exports it: vCard 4.0, several phones, a birthday and a home address. */
export const odileContact = (portrait: Buffer): string =>
  [
    'BEGIN:VCARD',
    'VERSION:4.0',
    'FN:Odile Brandreth',
    'N:Brandreth;Odile;;;',
    'TITLE:Wildlife sound recordist',
    'ORG:Brandreth Field Recordings',
    'PRONOUNS:she/her',
    'TEL;VALUE=uri;TYPE="cell,work";PREF=1:tel:+44-7700-900731',
    'TEL;VALUE=uri;TYPE="cell,home":tel:+44-7700-900732',
    'TEL;VALUE=uri;TYPE="voice,home":tel:+44-1632-960732',
    'EMAIL;TYPE=work;PREF=1:odile@brandreth.example',
    'EMAIL;TYPE=home:odile.b@moorside.example',
    'item1.URL:https://brandreth.example/',
    'item2.URL:https://brandreth.example/listen/dawn-chorus',
    'item2.X-ABLabel:Listen: a dawn chorus',
    'item3.URL:https://calls.example/book/odile',
    'item3.X-ABLabel:Book a call',
    'ADR;TYPE=home:;;9 Curlew Lane;Moorside;;MS4 2QH;United Kingdom',
    'BDAY:19840630',
    'NOTE:Carries spare batteries. Always.',
    `PHOTO:data:image/jpeg;base64,${portrait.toString('base64')}`.replace(/(.{74})(?=.)/g, '$1\r\n '),
    'END:VCARD',
    '',
  ].join('\r\n');
