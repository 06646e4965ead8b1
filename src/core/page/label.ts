import type { ComposedLine } from '@/core/card';
import { labelIn, type Language } from '@/core/messages';

/** A label in the page's language where it is our own; what somebody worded themselves stays. */
export const labelFor = ({ label, detail }: ComposedLine, language: Language): string =>
  label !== '' && label === labelIn('en', detail) ? labelIn(language, detail) : label;
