/** What on a card or a record is given by others and not its holder's to change. Apart from the words of the screens that give it. */
export const GIVEN = {
  house: 'From the house style',
  office: 'From the office',
  locked: 'Kept by the house style',
  closed: (reason: string) => `Belongs to the organisation: ${reason}`,
};
