import { z } from 'zod';
import { readLanguage } from './language';

/** A tag as it is stored: one that has a canonical form, in that form. By itself, since words are wanted where nothing is checked. */
export const LanguageSchema = z
  .string()
  .refine((tag) => readLanguage(tag) === tag, 'no language tag in canonical form');
