import { colourOf, contrast, luminance, seen, type Palette } from '@/core/look';

/** Grounds that mail programs set below a mail by day and by night (common practice, no published source). */
export const MAIL_GROUNDS = { day: '#FFFFFF', night: '#1F1F1F' } as const;
/** WCAG 2.2, 1.4.3: of usual text on white; of large text and of what is no text by night, where no colour reaches 4.5 on both grounds. */
export const NEEDS = { day: 4.5, night: 3 } as const;

/** The brightest that still reads on white, as relative luminance: (1 + 0.05) / (L + 0.05) = 4.5. */
const BRIGHTEST = 1.05 / NEEDS.day - 0.05;

/** A colour of a hue that reads on white and on a dark ground alike, since nobody knows where a mail is read; as bright as white allows. */
export function onEitherGround(hex: string): string {
  const from = seen(hex);
  let [low, high] = [0, 1];
  for (let step = 0; step < 24; step += 1) {
    const middle = (low + high) / 2;
    if (luminance(colourOf({ ...from, lightness: middle })) <= BRIGHTEST) low = middle;
    else high = middle;
  }
  const found = colourOf({ ...from, lightness: low });
  // Rounded to 8 bits a colour may lie a hair above.
  return contrast(found, MAIL_GROUNDS.day) >= NEEDS.day ? found : colourOf({ ...from, lightness: low - 0.01 });
}

/** The colour of names and links: the band's, or where that has none (black, grey) that of the buttons. */
export const accentOf = ({ band, act }: Palette): string => onEitherGround(seen(band).chroma >= 0.03 ? band : act);

/** The colour of labels. */
export const QUIET = onEitherGround('#767676');
