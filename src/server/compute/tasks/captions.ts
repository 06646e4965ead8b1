import { Refusal } from '@/core/errors';
import { captionsProblem } from '@/core/page/captions';

/** Refuses captions that are no WebVTT in UTF-8. Error: CAPTIONS_UNREADABLE with the line at fault. */
export function checkCaptions({ bytes }: { bytes: Buffer }): null {
  let text: string;
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    throw new Refusal({ code: 'CAPTIONS_UNREADABLE', line: 1 });
  }
  const wrong = captionsProblem(text);
  if (wrong !== null) throw new Refusal({ code: 'CAPTIONS_UNREADABLE', line: wrong });
  return null;
}
