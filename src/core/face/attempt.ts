import type { Look } from '@/core/look';
import type { FaceContent, FaceSize } from './face';
import type { Typesetter } from './typeset';

/** All that one attempt is made with: the size of a line, how many lines, whether names may be cut, and what name and pictures keep of their own sizes. */
export type Attempt = {
  look: Look;
  content: FaceContent;
  size: FaceSize;
  typesetter: Typesetter;
  base: number;
  count: number;
  tight: boolean;
  share: number;
};
