/** What a device shares of a card: its link, whose it is, and the contact file as recipients get it. */
export type SharedCard = {
  /** The hand-out that is shared. */
  id: string;
  link: string;
  name: string;
  file: { name: string; text: string };
  /** Private values that the contact file carries. */
  leaving: string[];
  /** By which numbers are read that somebody types (ISO 3166-1). */
  country: string;
};
