/** What on a card or a record is given by others and not its holder's to change. A file of its own: the card's table needs these few words, and not all those of the house style. */
export const GIVEN = {
  house: 'From the house style',
  office: 'From the office',
  locked: 'Kept by the house style',
  closed: (reason: string) => `Belongs to the organisation: ${reason}`,
};
