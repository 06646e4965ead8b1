/** What each screen is for and how one goes about it; the help says it on every device. */
export const HELP = {
  what: 'This screen',
  ask: 'Questions about your cards:',
  people:
    'Everybody who has a card, with their cards below each. The name opens what is known of a person, a card opens its table. New people come in by hand, or from contact files that you drop here.',
  person:
    'A person’s record: what is known of them, written down once. Cards take what they show from here, so a number that changes is changed here. What is not public stays here until somebody ticks it on a card.',
  card: 'The lines of the card. A tick says that a line goes out in that form: on the page, in the contact file, in a code, on a tag. Choose a column’s head to see what its recipient gets. Nothing is public before you publish.',
  cardOnPhone: 'On a phone, the arrow at the end of a line opens its settings with all of its ticks.',
  look: 'How the card looks: layout, colours, type and pictures. The page beside it is the real one, and says where something could not be read.',
  handOuts:
    'Every code, tag and link of this card, each with the place where it is used, so that you see which of them brings people. A live one always leads to the card as it is now; a frozen one holds the contact itself and never changes.',
  response:
    'How often the card’s page was opened and the contact saved. Known robots and programs that preview links are not counted; where the figure is uncertain, a range is drawn.',
  company: 'Members and what each may do, the house style, audiences, settings, and what happened when.',
  account: 'Your settings, how you sign in, and everything to take along or to end.',
  imports:
    'The contacts that you dropped, before they become people. What is here already is recognised; nothing is added until you import.',
};
