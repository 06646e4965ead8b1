import type { Backdrop, CodeSize } from '@/core/backdrop';
import { figure } from '@/core/language';

/** The picture behind somebody in video calls. */
export const BACKDROP_WORDS = {
  corner: 'Code, as others see it',
  corners: { left: 'top left', right: 'top right' } satisfies Record<Backdrop['corner'], string>,
  cornerNote: 'You see yourself mirrored in most calls; everybody else sees it like this.',
  code: 'Size of the code',
  codes: { small: 'small', medium: 'medium', large: 'large' } satisfies Record<CodeSize, string>,
  behind: 'Behind you',
  plain: 'Without a photo it is the look of the card.',
  choose: 'Own photo',
  sitter: 'Show where you sit',
  alt: 'The backdrop as it is downloaded',
  passed: 'Ready for your next call.',
  use: 'Use it',
  download: 'Download picture',
  png: 'as PNG',
  fileNote: (bytes: number, type: string) =>
    `${type}, ${figure(Math.round(bytes / 1_000))} KB, 1920 × 1080. Choose it as the background in the settings of your call.`,
  failed: 'It would not do in a call: see what was measured.',
  leaving: 'Private, and everybody in a call sees it:',
  outdated: 'The card says something else on it by now, and that is not published. The picture says what is published.',
  saving: 'drawing …',
} as const;
