/** The screen on which a phone holds a card up. */
export const HAND_OVER = {
  title: 'Hand over',
  none: 'No card is out yet',
  noneHow: 'Publish a card of your own record, and its code stands here.',
  toStudio: 'To the studio',
  where: 'I am at',
  nowhere: 'no occasion',
  others: 'Cards',
  privates: 'Private: tap twice',
  again: 'This card shows private details. Tap it once more to show its code.',
  share: 'Share',
  copy: 'Copy link',
  copied: 'Copied',
  theirs: 'Their details',
  back: 'Back to the code',
  unsent: 'Kept on this phone until there is a network.',
  kept: 'No network: these are the cards as they were kept.',
};
