const KNOWN = 'BEGIN:VCARD\r\nVERSION:3.0\r\nFN:Jörg\r\nEMAIL:joerg@seilbahn.example\r\nTITLE:Chef\r\nEND:VCARD\r\n';
/** A contact file of two people. */
export const TWO = Buffer.from(
  `${KNOWN}BEGIN:VCARD\r\nVERSION:3.0\r\nFN:Maud Aldercott\r\nTEL:+442079460183\r\nX-A:1\r\n`,
);
