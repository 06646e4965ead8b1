import type { ComposedLine } from '@/core/card';
import { labelIn } from '@/core/record';
import type { Language } from '@/core/language';

/** A label in the page's language where it is our own; what somebody worded themselves stays. */
export const labelFor = (line: ComposedLine, language: Language): string =>
  isOurLabel(line) ? labelIn(language, line.detail) : line.label;

/** Whether a label is our own word for its detail. */
export const isOurLabel = ({ label, detail }: ComposedLine): boolean => label !== '' && label === labelIn('en', detail);
