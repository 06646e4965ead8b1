import type { Ground, PHOTO_SHAPES } from '@/core/look';
import type { Drawing } from '@/core/qr';
import type { SetText } from './typeset';

/** What a face is made for. Sizes in its own unit: millimetres in print, pixels on a screen. */
export type FaceSize = {
  form: 'lying' | 'standing' | 'back';
  width: number;
  height: number;
  /** The smallest type that may stand on it. */
  leastType: number;
  /** Room around everything that nothing but colour and pictures may reach. */
  margin: number;
  /** Whatever is said stands on it: what the layout's map leaves out is added below. */
  whole?: true;
};

/** 6.5 points in millimetres: the smallest type of a printed card (common practice, no published source). */
export const LEAST_PRINT = 6.5 * (25.4 / 72);

/** Faces that every layout is made for: printed cards (ISO 216 countries; the inch card), and the picture of links. */
export const FACE_SIZES = {
  'card-lying': { form: 'lying', width: 85, height: 55, leastType: LEAST_PRINT, margin: 4 },
  'card-standing': { form: 'standing', width: 55, height: 85, leastType: LEAST_PRINT, margin: 4 },
  'card-back': { form: 'back', width: 85, height: 55, leastType: LEAST_PRINT, margin: 4 },
  'inch-lying': { form: 'lying', width: 88.9, height: 50.8, leastType: LEAST_PRINT, margin: 4 },
  'inch-standing': { form: 'standing', width: 50.8, height: 88.9, leastType: LEAST_PRINT, margin: 4 },
  'inch-back': { form: 'back', width: 88.9, height: 50.8, leastType: LEAST_PRINT, margin: 4 },
  link: { form: 'lying', width: 1200, height: 630, leastType: 24, margin: 40 },
  picture: { form: 'standing', width: 1080, height: 1350, leastType: 30, margin: 54 },
} as const satisfies Record<string, FaceSize>;
export type FaceName = keyof typeof FACE_SIZES;
export const FACE_NAMES = Object.keys(FACE_SIZES) as [FaceName, ...FaceName[]];

/** What is drawn, from back to front. Places from the left and top. */
export type FaceItem =
  | { kind: 'sheet'; x: number; y: number; width: number; height: number; colour: string }
  | { kind: 'band'; x: number; y: number; width: number; height: number; colour: string; ground: Ground }
  | { kind: 'rule'; x: number; y: number; width: number; height: number; colour: string }
  | {
      kind: 'picture';
      which: 'photo' | 'logo';
      x: number;
      y: number;
      width: number;
      height: number;
      shape: (typeof PHOTO_SHAPES)[number] | 'filled' | 'whole';
    }
  /** Somebody's own design, as a whole. */
  | { kind: 'artwork'; x: number; y: number; width: number; height: number }
  | { kind: 'code'; x: number; y: number; width: number; height: number; drawing: Drawing }
  | { kind: 'text'; x: number; y: number; text: SetText; shifts: number[]; colour: string; says: string };

/** A face laid out, ready for any renderer. */
export type Face = {
  width: number;
  height: number;
  items: FaceItem[];
  /** The smallest type that stands on it, in its unit. */
  smallestType: number;
  /** Lines that had no room, by their id, and areas whose words were cut short. */
  leftOut: string[];
  cut: string[];
  /** Letters that none of our families has. */
  missing: string[];
};

/** A line as a face shows it. */
export type FaceLine = { id: string; label: string; value: string; named: boolean };

/** What a face says: texts in the language that it is made in. Sizes of pictures in pixels. */
export type FaceContent = {
  name: string;
  role: string;
  firm: string;
  alarm: FaceLine | null;
  lines: FaceLine[];
  photo: { width: number; height: number } | null;
  /** `plate` is the colour behind it where it would vanish. */
  logo: { width: number; height: number; plate?: string | null } | null;
  toRight: boolean;
};
